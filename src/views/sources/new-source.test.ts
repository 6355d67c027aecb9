import { describe, expect, it } from 'vitest';
import { parseBundle } from '../../core/source/bundle.ts';
import { lastJsonLine } from './document.ts';
import { renamed } from '../../core/decode/reading-id.ts';
import { fieldLines } from '../patch/overview.ts';
import { copyOf, newBundle, withDocument, withMap } from './draft.ts';
import { read, ok, profile, source } from '../../../tests/support/prepared.ts';

describe('drafts of sources', () => {
  it('keep links of readings that stay, also of a renamed one', () => {
    const a = source('a', [{ reading: 'home score', field: 'home.score', running: 'running' }]);
    const [first, running] = a.document!.readings;
    const other = withDocument(a, { readings: [renamed(first!, 'goals'), running!] });
    expect(other.patch!.links).toEqual(a.patch!.links);
    expect(fieldLines(profile.fields, [other], new Map()).flatMap((l) => l.feeders)).toMatchObject([
      { reading: 'goals' },
    ]);
    expect(withDocument(a, { readings: [first!] }).patch!.links[0]!.running).toBeUndefined();
    expect(withDocument(a, { readings: [] }).patch).toBeNull();
  });
  it('a copy has tables of its own and no patch; a ready map becomes its own', () => {
    const copy = copyOf(source('a', [{ reading: 'period', field: 'situation.period' }]), 'A copy', ['a']);
    expect(copy.document).toMatchObject({ key: 'a-copy', tables: [{ key: 't-a-a-copy' }] });
    expect(copy.patch).toBeNull();
    const map = read('basic/frame-map/simulated-baseball.json') as never;
    const mapped = withMap(newBundle('Diamond', []), map);
    expect(ok(parseBundle(mapped)).source.frameMap).toBe('diamond');
  });
  it.each([
    ['{"a":1}\n{"b":2}\n{"c', 'b'],
    ['x\n{"a":1}\nnot json\n', 'a'],
    ['12\n', undefined],
    ['', undefined],
  ])('the newest whole line of %j', (text, name) => {
    expect(lastJsonLine(new TextEncoder().encode(text))?.children[0]?.name).toBe(name);
  });
  it.each([
    [{ map: read('demo/frame-map/lacrosse-console.json') }, 'not both'],
    [
      { document: null, map: read('demo/frame-map/lacrosse-console.json') },
      'only a stream of bytes has a frame map',
    ],
    [
      { patch: { schema: 1, key: 'a', source: 'a', links: [{ reading: 'nothing', field: 'home.score' }] } },
      'no reading "nothing"',
    ],
    [
      { source: { ...source('a', []).source, transport: { kind: 'http', url: 'ftp://x' } } },
      'begins with http',
    ],
    [
      { source: { ...source('a', []).source, transport: { kind: 'file', path: 'relative' } } },
      'a file is a path',
    ],
    [
      {
        source: {
          ...source('a', []).source,
          transport: { kind: 'http', url: 'http://x', header: { name: 'a b', value: '' } },
        },
      },
      'name of a header',
    ],
  ])('refuses a bundle with %j', (part, problem) => {
    const result = parseBundle({ ...source('a', []), ...part });
    expect(result.ok || result.problems.join()).toContain(problem);
  });
});
