import { describe, expect, it } from 'vitest';
import type { Layer } from '../layers/kinds.ts';
import { extremesOf, fitCheck, fitRecords, textsOf } from './fit-check.ts';
import { LEGIBLE } from '../text/fit.ts';

const player = (number: string, first: string, last: string) => ({
  id: number,
  number,
  first,
  last,
  position: '',
  class: '',
  headshot: '',
});
const team = (name: string, short: string, players = [player('1', 'Ada', 'Fell')]) =>
  ({ name, short, abbr: short.slice(0, 3), nickname: '', players }) as never;
const herons = team('Thornmere Herons', 'Herons', [
  player('1', 'Ada', 'Fell'),
  player('2', 'Bartholomew', 'Featherstonehaugh-Wolstenholme'),
]);
const games = [
  { home: herons, away: team('Cindergap Foxes', 'Foxes') },
  { home: team('Cindergap Foxes', 'Foxes'), away: herons },
];

const box = { x: 0, y: 0, width: 300, height: 60 };
const text = (id: string, more: object): Layer =>
  ({ id, kind: 'text', name: id, ...box, font: 'F', size: 50, ...more }) as unknown as Layer;
const template = (layers: Layer[], inputs: object[] = []) => ({
  key: 't',
  name: 'T',
  inputs: inputs as never,
  layouts: [{ key: 'l', width: 400, height: 100, layers }],
});
/** Every sign is 0.4 of its size wide, a line 1.2 of it high. */
const measuring = {
  width: (t: string, { size }: { size: number }) => t.length * 0.4 * size,
  verticals: ({ size }: { size: number }) => ({ ascent: 0.9 * size, descent: 0.3 * size }),
};
const board = { field: (key: string) => (key === 'home.score' ? 100 : null) };
const check = (
  layers: Layer[],
  inputs: object[] = [],
  held: Record<string, string> = {},
  tables = new Map(),
) =>
  fitCheck(
    textsOf(
      [template(layers, inputs)],
      () => held,
      () => 1080,
    ),
    fitRecords(games, tables),
    board,
    measuring,
  );

describe('fitRecords', () => {
  it('has every team and player once, however many games they play', () => {
    expect(fitRecords(games, new Map()).map((r) => r.label)).toEqual([
      'Thornmere Herons',
      'Ada Fell, Herons',
      'Bartholomew Featherstonehaugh-Wolstenholme, Herons',
      'Cindergap Foxes',
      'Ada Fell, Foxes',
    ]);
  });
  it('has the rows of tables', () =>
    expect(fitRecords([], new Map([['news', [{ id: 'a', title: 'Snow' }]]]))[0]).toMatchObject({
      label: 'news: a, Snow',
      tables: ['news'],
    }));
});

describe('fitCheck', () => {
  it('tries every team in a text of a side, worst first, each content once', () => {
    const results = check([text('name', { text: { field: 'home.name' } })]);
    expect(results.map((r) => [r.record, Math.round(r.scale.x * 100)])).toEqual([
      ['Thornmere Herons', 94],
      ['Cindergap Foxes', 100],
    ]);
  });
  it('types every name that an input takes, and none that is too long for it', () => {
    const layers = [text('name', { text: { input: 'name' } }), text('no', { text: { input: 'number' } })];
    const inputs = [
      { key: 'name', label: 'Name', kind: 'text' },
      { key: 'number', label: 'Number', kind: 'text', maxLength: 3, required: true },
    ];
    const results = check(layers, inputs, { number: '7' });
    expect(results[0]).toMatchObject({ record: 'Bartholomew Featherstonehaugh-Wolstenholme, Herons' });
    expect(results.filter((r) => r.text.layer.id === 'no').map((r) => r.runs)).toEqual([['7']]);
  });
  it('looks every player up, by whatever the text is looked up', () => {
    const of = { lookup: { table: 'home.players', key: { input: 'number' }, column: 'last' } };
    const results = check(
      [text('last', { text: of, upper: true })],
      [{ key: 'number', label: 'Number', kind: 'text' }],
    );
    expect(results.map((r) => r.runs[0])).toEqual(['FEATHERSTONEHAUGH-WOLSTENHOLME', 'FELL']);
  });
  it('says what is cut off, and what is too small for its picture', () => {
    const name = { text: { input: 'name' } };
    const inputs = [{ key: 'name', label: 'Name', kind: 'text' }];
    const [cut] = check([text('a', { ...name, fit: 'cut' }), text('b', name)], inputs);
    expect(cut).toMatchObject({ cut: true, scale: { x: 1, y: 1 } });
    const small = check([text('b', name)], inputs).filter((r) => r.small);
    expect(small.map((r) => r.record)).toEqual(['Bartholomew Featherstonehaugh-Wolstenholme, Herons']);
    expect(small[0]!.size).toBeLessThan(LEGIBLE * 1080);
  });
  it('leaves out what never changes, and what the league says nothing of', () => {
    expect(check([text('a', { text: 'SHOTS' }), text('b', { text: { field: 'home.score' } })])).toEqual([]);
  });
  it('reads the table that a row is of, and the board for others', () => {
    const of = (table: string) => ({ lookup: { table, rank: { fixed: 1 }, column: 'title' } });
    const tables = new Map([['news', [{ title: 'A very long headline indeed' }, { title: 'Snow' }]]]);
    const results = check(
      [text('a', { text: of('news') }), text('b', { text: of('other') })],
      [],
      {},
      tables,
    );
    expect(results.map((r) => [r.text.layer.id, r.runs[0]])).toEqual([
      ['a', 'A very long headline indeed'],
      ['a', 'Snow'],
    ]);
  });
});

it('says the shortest and the longest content of each text, by how wide it is set', () => {
  const layers = [
    text('short', { text: { field: 'home.short' } }),
    text('both', { text: { field: 'home.short' }, text2: { field: 'home.name' }, size2: 0.5 }),
  ];
  const found = extremesOf(check(layers), measuring);
  expect([...found.keys()].sort()).toEqual(['l both', 'l short']);
  expect(found.get('l short')).toMatchObject({ shortest: 'Foxes', longest: 'Herons' });
  expect(found.get('l both')).toMatchObject({
    shortest: 'FoxesCindergap Foxes',
    longest: 'HeronsThornmere Herons',
  });
  expect(extremesOf([], measuring).size).toBe(0);
});
