import { expect, it } from 'vitest';
import type { Layer } from '../layers/kinds.ts';
import { unseen, withFaint } from './faint.ts';

const text = (id: string, more: object = {}) => ({
  ...{ id, kind: 'text', name: id, x: 5, y: 6, width: 10, height: 10, font: 'Teko', text: 'words' },
  ...more,
});
const group = (id: string, kind: string, layers: object[], more: object = {}) => ({
  ...{ id, kind, name: id, x: 100, y: 50, width: 80, height: 40, layers },
  ...more,
});
const layers = [
  text('seen'),
  text('off', { shows: false }),
  text('by', { shows: { field: 'on' } }),
  text('blank', { text: { field: 'name' }, sample: 'Sample' }),
  text('unnamed', { text: { field: 'name' } }),
  group('box', 'group', [text('within')], { shows: false }),
  group('either', 'one-of', [text('a', { member: 'one' }), text('b', { member: 'two' })], { which: 'one' }),
] as unknown as Layer[];
const scope = { field: () => null, input: () => null } as never;
const why = (...ids: string[]) =>
  unseen({ layers }, new Set(ids), scope).map(({ layer, why }) => `${layer.name}: ${why}`);

it('a chosen layer that does not show says why', () => {
  expect(why('seen', 'a', 'gone')).toEqual([]);
  expect(why('off', 'by', 'blank', 'within', 'b')).toEqual([
    'off: it is hidden',
    'by: the value of Shows is no',
    'blank: its text is blank now',
    'within: box, in which it is, does not show: it is hidden',
    'b: either shows one now',
  ]);
});

it('is drawn faintly where it would stand, over what shows, and nothing else is another', () => {
  const those = unseen({ layers }, new Set(['blank', 'unnamed', 'within', 'b']), scope);
  const drawn = withFaint({ layers }, those, () => 'Name').layers;
  expect(drawn.slice(0, layers.length)).toEqual(layers);
  expect(drawn.slice(layers.length)).toMatchObject([
    { id: 'faint-blank', text: 'Sample', shows: true, opacity: 0.35, x: 5 },
    { id: 'faint-unnamed', text: 'Name' },
    { id: 'faint-within', x: 105, y: 56 },
    { id: 'faint-b', x: 105, y: 56 },
  ]);
  expect(withFaint({ layers }, [], () => '')).toEqual({ layers });
});
