import { describe, expect, it } from 'vitest';
import { chipText, lineText, readLine, segmentsOf, valueOf, type Segment } from './line.ts';
import { VALUE, type Value } from './value.ts';
import { readAs } from '../document/check.ts';

const field: Value = { field: 'home.score' };
const isValue = (held: unknown): held is Value =>
  typeof held === 'object' && held !== null && readAs(VALUE, held).ok;

describe('a Value as a line', () => {
  it.each<[string, Value, Segment[]]>([
    ['a text', { fixed: 'SHOTS' }, [{ text: 'SHOTS' }]],
    ['a number', { fixed: 12 }, [{ text: '12' }]],
    ['nothing', { fixed: '' }, []],
    ['yes', { fixed: true }, [{ chip: { fixed: true } }]],
    ['a field', field, [{ chip: field }]],
    [
      'pieces',
      { pieces: [{ fixed: '#' }, field, { pieces: [{ fixed: ' a' }, { fixed: 'b' }] }] },
      [{ text: '#' }, { chip: field }, { text: ' ab' }],
    ],
    [
      'pieces that something is done to, within others',
      { pieces: [{ fixed: 'a' }, { pieces: [field], format: 'upper' }] },
      [{ text: 'a' }, { chip: { pieces: [field], format: 'upper' } }],
    ],
  ])('%s', (_, value, segments) => {
    expect(segmentsOf(value)).toEqual(segments);
    const read = readLine(lineText(segments), isValue);
    expect(read).toEqual(segments);
    // What comes back says the same, though texts that follow each other are one.
    expect(segmentsOf(valueOf(read, value))).toEqual(segments);
  });
  it('keeps what is done to all of it, and a number a number', () => {
    const was: Value = { pieces: [field, { fixed: ' x' }], format: 'upper' };
    expect(valueOf([{ chip: field }], was)).toEqual({ pieces: [field], format: 'upper' });
    expect(valueOf([{ text: '7' }], { fixed: 6 })).toEqual({ fixed: 7 });
    expect(valueOf([{ text: '07' }], { fixed: 6 })).toEqual({ fixed: '07' });
    expect(valueOf([{ text: '7' }], { fixed: 'six' })).toEqual({ fixed: '7' });
  });
  it('leaves out what is no Value, half of a chip, and signs that somebody pasted', () => {
    const read = (line: string) => readLine(line, isValue);
    expect(read('a\uE000{"field":1}\uE001b')).toEqual([{ text: 'a' }, { text: 'b' }]);
    expect(read('a\uE000{"fie')).toEqual([{ text: 'a{"fie' }]);
    expect(read('\uE001\uE000nonsense\uE001x')).toEqual([{ text: 'x' }]);
    expect(lineText([{ text: 'a\uE000b' }])).toBe('ab');
    expect(read(`${chipText(field)}${chipText(field)}`)).toHaveLength(2);
  });
});
