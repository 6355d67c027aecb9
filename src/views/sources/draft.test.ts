import { describe, expect, it } from 'vitest';
import type { ReadingDef } from '../../core/decode/frame-map.ts';
import { idOf, renamed } from '../../core/decode/reading-id.ts';
import { readingLines } from '../patch/overview.ts';
import { parseDerived } from '../../core/derive/derived.ts';
import type { SourceBundle } from '../../core/source/source.ts';
import { parseBundle } from '../../core/source/bundle.ts';
import type { Template } from '../../core/documents/template.ts';
import {
  addressText,
  copyOf,
  nameOfBytes,
  newBundle,
  readCases,
  readHex,
  readPlaces,
  readingOfKind,
  tableName,
  withCut,
  withLinks,
  withReadings,
  writeCases,
  writeHex,
  writePlaces,
} from './draft.ts';
import { whatGoes } from './goes.ts';

const cut = { framing: { kind: 'fixed' as const, start: [1], length: 20 }, check: { kind: 'none' as const } };
const reading = (name: string, offset: number, kind: 'integer' | 'flag' = 'integer') =>
  ({ name, offset, length: 1, blank: 'blank', kind, ...(kind === 'flag' ? { on: '1' } : {}) }) as never;

describe('a source being made', () => {
  it('is a good document at every step, and its copy is another', () => {
    const fresh = newBundle('Arena console', ['arena-console']);
    expect(fresh.source.key).toBe('arena-console-2');
    const withMap = withReadings(withCut(fresh, cut), [reading('score', 1), reading('run', 2, 'flag')]);
    const linked = withLinks(withMap, [{ reading: 'score', field: 'home.score', running: 'run' }]);
    for (const step of [fresh, withMap, linked]) expect(parseBundle(step)).toMatchObject({ ok: true });
    const copy = copyOf(linked, 'Copy', []);
    expect(copy).toMatchObject({
      source: { key: 'copy', frameMap: 'copy' },
      map: { key: 'copy' },
      patch: null,
    });
    expect(parseBundle(copy).ok).toBe(true);
  });
  it.each([
    ['flag', 'R', { on: 'R' }],
    ['flag', '0', { on: '1' }],
    ['flag', '   ', { on: '1' }],
    ['bit', 'A', { bit: 0, length: 1 }],
    ['binary', 'A', { signed: false, littleEnd: false }],
    ['clock', '24', {}],
  ] as const)('a reading of the kind %s where %j stands is whole', (kind, raw, wanted) => {
    const made = readingOfKind(
      kind,
      { name: nameOfBytes({ offset: 3, length: 1 }, []), offset: 3, length: 1 },
      raw,
    );
    expect(made).toMatchObject({ kind, name: 'byte 3', ...wanted });
    expect(parseBundle(withReadings(withCut(newBundle('A', []), cut), [made]))).toMatchObject({ ok: true });
  });
  it('names bytes that nobody named, each differently', () => {
    expect(nameOfBytes({ offset: 6, length: 3 }, [])).toBe('bytes 6–8');
    expect(nameOfBytes({ offset: 8, length: 1 }, ['byte 8', 'byte 8 (2)'])).toBe('byte 8 (3)');
  });
  it('says what deleting it takes with it: fields without another source, its tables and what is made of them', () => {
    const links = ['home.score', 'away.score'].map((field) => ({ reading: 'x', field }));
    const document = {
      readings: [{ name: 'x', place: '/a', as: 'number' }],
      tables: [{ key: 'rows', name: 'Rows', rows: '/r', keyed: ['n'], columns: [] }],
    };
    const stats = { ...newBundle('Stats', []), document, patch: { links } } as unknown as SourceBundle;
    const beside = (fields: string[], enabled = true) =>
      ({
        source: { key: 'beside', enabled },
        document: null,
        patch: { links: links.filter((l) => fields.includes(l.field)) },
      }) as unknown as SourceBundle;
    const table = (key: string, from: string, name = key) => ({
      doc: parseDerived({ schema: 1, key, derived: { what: 'table', key, name, from: [from] } }),
      own: true,
    });
    const derived = [
      table('best', 'ranked', 'Best three'),
      table('ranked', 'rows', 'Ranked'),
      table('else', 'other'),
    ].map(({ doc, own }) => ({ doc: doc.ok ? doc.value.derived : (null as never), own }));
    const look = { lookup: { table: 'best', rank: { text: '1' }, column: 'n' } };
    const card = {
      name: 'Card',
      layouts: [{ layers: [{ kind: 'picture', picture: look }] }],
    };
    const whole = { bundles: [stats], derived, documents: { template: [card as unknown as Template] } };
    for (const [bundles, words] of [
      [[stats], 'It feeds 2 fields, which will stand still. '],
      [[stats, beside(['home.score'])], '2 fields; 1 of them has no other source and will stand still. '],
      [[stats, beside(['home.score', 'away.score'])], '2 fields, which all have another source. '],
      [[stats, beside(['home.score', 'away.score'], false)], '2 fields, which will stand still. '],
    ] as const)
      expect(whatGoes(stats, { ...whole, bundles: [...bundles] })).toContain(
        `${words}With it goes the table Rows. Made of that: Ranked, Best three, the template Card.`,
      );
    expect(whatGoes(beside([]), whole)).toBe('No field is fed by it.');
  });
  it('keeps its links to readings that are renamed, drops those to readings that are gone', () => {
    const start = withLinks(
      withReadings(withCut(newBundle('A', []), cut), [
        reading('a', 1),
        reading('b', 2),
        reading('r', 3, 'flag'),
      ]),
      [
        { reading: 'a', field: 'home.score', running: 'r' },
        { reading: 'b', field: 'away.score' },
      ],
    );
    const [a, b, r] = start.map!.readings as [ReadingDef, ReadingDef, ReadingDef];
    const other = withReadings(start, [renamed(a, 'x'), b, r]);
    expect(other.patch!.links).toEqual(start.patch!.links);
    // Who takes the name that another began with is somebody else.
    const taken = withReadings(other, [...other.map!.readings, reading('a', 4)]);
    expect(taken.map!.readings.map((x) => [x.name, idOf(x)])).toEqual([
      ['x', 'a'],
      ['b', 'b'],
      ['r', 'r'],
      ['a', 'a 2'],
    ]);
    expect(parseBundle(taken)).toMatchObject({ ok: true });
    expect(readingLines(taken).map((l) => [l.name, l.feeds])).toEqual([
      ['x', ['home.score']],
      ['b', ['away.score']],
      ['r', []],
      ['a', []],
    ]);
    // Named back, it is what it was.
    expect(renamed(renamed(a, 'x'), 'a')).toEqual(a);
    const fewer = withReadings(other, [renamed(a, 'x')]);
    expect(JSON.parse(JSON.stringify(fewer.patch!.links))).toEqual([{ reading: 'a', field: 'home.score' }]);
    expect(withReadings(fewer, []).patch).toBeNull();
  });
});

describe('what is typed', () => {
  it.each(['H=home, A=away', '1=home', ''])('the conversion %j is written as it was read', (text) =>
    expect(writeCases(readCases(text))).toBe(text),
  );
  it('leaves a conversion of another form alone', () => {
    expect(writeCases({ pieces: [] })).toBeNull();
    expect(
      writeCases({ choose: { input: 'reading' }, cases: [{ min: 1, then: { fixed: 'x' } }] }),
    ).toBeNull();
  });
  it.each([
    ['02 0a', [2, 10]],
    ['0D0a', [13, 10]],
    ['', []],
    ['2', null],
    ['xy', null],
  ])('%j as bytes is %o', (text, bytes) => expect(readHex(text)).toEqual(bytes));
  it('writes bytes as pairs', () => expect(writeHex([2, 10, 255])).toBe('02 0a ff'));
});

describe('tables of one element', () => {
  it.each([
    ["/statistics/team[@side='home']/player", [], 'Box: player, home'],
    ['/statistics/team/player', ['Box: player'], 'Box: player 2'],
    ["/a[@n='x y']/b[2]/player", [], 'Box: player, x y, 2'],
  ])('%s beside %j is called %s', (place, taken, name) =>
    expect(tableName('Box', { name: 'player', place }, taken)).toBe(name),
  );
});

describe('places of bytes, as they are written', () => {
  it.each([
    [
      '13–14, 17',
      [
        { offset: 13, length: 2 },
        { offset: 17, length: 1 },
      ],
    ],
    ['5 - 7', [{ offset: 5, length: 3 }]],
    ['7-5', null],
    ['a', null],
    ['1,', null],
  ])('%j', (text, places) => {
    expect(readPlaces(text)).toEqual(places);
    if (places) expect(readPlaces(writePlaces(places))).toEqual(places);
  });
  it('an address that is no text is hexadecimal', () => {
    expect(addressText('$PTS')).toBe('$PTS');
    expect(addressText('\x01\xff')).toBe('01 ff');
    expect(addressText(' ')).toBe('20');
  });
});
