import { describe, expect, it } from 'vitest';
import type { Layer } from '../layers/kinds.ts';
import type { FieldDef } from '../sport/profile.ts';
import { fitRecords } from './fit-check.ts';
import { placeLabels } from './labels.ts';
import {
  boundsOf,
  changingIn,
  designed,
  propertyFor,
  recordBoard,
  recordInputs,
  sampleBoard,
  sampleOf,
} from './showing.ts';
import { bindingState, worstOf } from '../value/state.ts';

const score: FieldDef = {
  key: 'home.score',
  label: 'Home score',
  group: 'home',
  kind: 'integer',
  min: 0,
  max: 199,
};
const def = (key: string): FieldDef | undefined =>
  ({
    'home.score': score,
    'home.name': { key, label: 'Home name', group: 'home', kind: 'text', maxLength: 40 },
    'game.half': { key, label: 'Half', group: 'game', kind: 'choice', choices: ['1st', 'Extra time', '2nd'] },
    'clock.game': { key, label: 'Clock', group: 'clocks', kind: 'clock', max: 1_200_000, direction: 'down' },
    'clock.shot': { key, label: 'Shot', group: 'clocks', kind: 'clock', max: 30_000, direction: 'down' },
    'away.colour': { key, label: 'Away colour', group: 'away', kind: 'colour' },
  })[key] as FieldDef | undefined;

describe('how a binding stands', () => {
  const known = {
    field: (key: string) =>
      (key === 'said' ? 'ok' : key === 'silent' ? 'none' : key === 'late' ? 'late' : null) as never,
    table: (key: string) => ({ full: 3, empty: 0 })[key] ?? null,
    inputs: new Set(['line']),
  };
  const look = (table: string, key: object = { fixed: '1' }) => ({ lookup: { table, column: 'c', key } });
  const choose = (by: string, ...then: string[]) => ({
    choose: { field: by },
    cases: then.map((f) => ({ is: ['x'], then: { field: f } })),
  });
  it.each([
    [{ field: 'said' }, 'live'],
    [{ field: 'late' }, 'live'],
    [{ field: 'silent' }, 'sample'],
    [{ field: 'gone' }, 'missing'],
    [{ input: 'line' }, 'sample'],
    [{ input: 'gone' }, 'missing'],
    [{ fixed: 'words' }, 'sample'],
    [{ pieces: [{ fixed: 'a' }, { field: 'said' }] }, 'live'],
    [{ pieces: [{ field: 'said' }, { field: 'gone' }] }, 'missing'],
    [look('full'), 'live'],
    [look('empty'), 'sample'],
    [look('gone'), 'missing'],
    [look('full', { field: 'gone' }), 'missing'],
    // A case of another sport is no fault, but all of them are.
    [choose('said', 'gone', 'said'), 'live'],
    [choose('gone', 'gone'), 'missing'],
    [{ choose: { pieces: [{ field: 'gone' }, { field: 'said' }] }, cases: [] }, 'live'],
    [{ formula: 'said + gone' }, 'live'],
  ])('%j is %s', (value, state) => {
    expect(bindingState(value as never, known)).toBe(state);
  });
  it('the worst of several counts', () => {
    expect(worstOf(['live', 'missing', 'sample'])).toBe('missing');
    expect(worstOf([])).toBe(null);
  });
});

describe('what the canvas shows', () => {
  const said: Record<string, unknown> = { 'home.name': 'Herons', 'home.score': 3 };
  const board = {
    read: (key: string) => (said[key] ?? null) as never,
    row: (t: string, key: string) => (t === 'leaders' && key === '1' ? { name: 'Real' } : undefined),
    ranked: () => undefined,
  };
  it('a sample is as full as a field gets; names stay what they are', () => {
    const sample = sampleBoard(board, def);
    expect(sample.read('home.score')).toBe(88);
    expect(sample.read('home.name')).toBe('Herons');
    expect(sample.read('game.half')).toBe('Extra time');
    expect(sample.read('clock.game')).toMatchObject({ value: 754_000, running: false });
    expect(sample.read('clock.shot')).toMatchObject({ value: 24_000 });
    expect(sample.read('away.colour')).toMatch(/^#/);
    expect(sample.read('gone')).toBe(null);
    expect(sample.row('leaders', '1')).toEqual({ name: 'Real' });
    expect(sampleOf({ ...score, max: 9 } as FieldDef)).toBe(9);
    const down = { ...score, kind: 'derived', label: 'Down and distance' } as unknown as FieldDef;
    expect(sampleOf(down)).toBe('Down and distance');
  });
  const player = { id: 'p', number: '7', first: 'Ada', last: 'Fell', position: 'C', class: '', headshot: '' };
  const team = (name: string, players: object[]) =>
    ({ name, short: name, abbr: name.slice(0, 3), nickname: '', players }) as never;
  const records = fitRecords(
    [{ home: team('Foxes', [player]), away: team('Owls', []) }],
    new Map([['leaders', [{ name: 'Bo' }]]]),
  );
  it('goes by team, by player and by row, on the board and in the inputs', () => {
    expect(records.map((r) => r.among)).toEqual(['teams', 'players', 'teams', 'leaders']);
    const [foxes, ada, , row] = records as [never, never, never, never];
    expect(recordBoard(board, foxes).read('away.name')).toBe('Foxes');
    expect(recordBoard(board, foxes).read('home.score')).toBe(3);
    expect(recordBoard(board, ada).row('home.players', 'whoever')).toMatchObject({ last: 'Fell' });
    expect(recordBoard(board, ada).row('leaders', '1')).toEqual({ name: 'Real' });
    expect(recordBoard(board, row).ranked('leaders', 4)).toEqual({ name: 'Bo' });
    const inputs = [
      { key: 'n', label: 'Name', kind: 'text' },
      { key: 's', label: 'Short name', kind: 'text', maxLength: 3 },
      { key: 'w', label: 'Weather', kind: 'text' },
    ] as never;
    expect(recordInputs(inputs, { n: 'x', s: 'y', w: 'z' }, ada)).toEqual({ n: 'Ada Fell', s: 'y', w: 'z' });
    expect(recordInputs(inputs, { n: null, s: null, w: null }, row)).toEqual({ n: '1', s: '1', w: '1' });
  });
  const box = { x: 0, y: 0, width: 10, height: 10, font: 'F', size: 10 };
  const layers = [
    { id: 'a', kind: 'text', name: 'a', ...box, text: { field: 'home.name' }, sample: 'TEAM' },
    {
      id: 'b',
      kind: 'text',
      name: 'b',
      ...box,
      text: { field: 'home.name' },
      colour: { field: 'home.colour' },
    },
    { id: 'c', kind: 'picture', name: 'c', ...box, picture: 'a.png' },
  ] as unknown as Layer[];
  it('as designed, bound texts say what they were drawn with, or what they are bound to', () => {
    const layout = { key: 'l', width: 10, height: 10, layers };
    const drawn = designed(layout, () => 'Home name').layers as unknown as {
      text?: unknown;
      colour?: unknown;
    }[];
    expect(drawn.map((l) => l.text)).toEqual(['TEAM', 'Home name', undefined]);
    expect(drawn[1]!.colour).toEqual({ field: 'home.colour' });
    expect(changingIn(layout).map((c) => c.bindings.map((b) => b.prop))).toEqual([
      ['text'],
      ['text', 'colour'],
    ]);
  });
  it.each([
    [{ field: 'home.score' }, '0', '199'],
    [{ field: 'game.half' }, '1st', 'Extra time'],
    [{ field: 'home.name' }, null, null],
    [{ input: 'which' }, 'No', 'Perhaps'],
    [{ input: 'n' }, '1', '5'],
    [{ input: 'line' }, '', '30 letters'],
  ])('%j is from %s to %s', (value, shortest, longest) => {
    const inputs = [
      { key: 'which', kind: 'choice', choices: [{ label: 'Perhaps' }, { label: 'No' }] },
      { key: 'n', kind: 'number', min: 1, max: 5 },
      { key: 'line', kind: 'text', maxLength: 30 },
    ] as never;
    expect(boundsOf(value as never, def, inputs)).toEqual(shortest === null ? null : { shortest, longest });
  });
  it.each([
    ['text', 'integer', 'text'],
    ['text', 'colour', 'colour'],
    ['text', 'flag', 'shows'],
    ['text', 'picture', null],
    ['clock', 'clock', 'clock'],
    ['clock', 'text', null],
    ['picture', 'cell', 'picture'],
    ['pips', 'integer', 'count'],
    ['shape', 'colour', 'fill'],
    ['shape', 'integer', null],
    ['line', 'colour', 'colour'],
    ['one-of', 'choice', 'which'],
    ['group', 'flag', 'shows'],
    ['group', 'text', null],
  ] as const)('onto a %s goes a %s by its %s', (kind, what, prop) => {
    expect(propertyFor(kind, what)).toBe(prop);
  });
});

describe('where labels stand', () => {
  const meets = (a: { x: number; y: number; width: number; height: number }, b: typeof a) =>
    a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;
  const area = { x: -20, y: -200, width: 800, height: 460 };
  it('none covers another or a box, and all are within the area', () => {
    const boxes = Array.from({ length: 24 }, (_, i) => ({
      x: i * 30,
      y: 10 + (i % 3) * 15,
      width: 26,
      height: 12,
    }));
    const labels = placeLabels(
      boxes,
      boxes.map((_, i) => ({ width: 60 + (i % 5) * 20, height: 30 })),
      area,
    );
    for (const [i, a] of labels.entries()) {
      expect(a.x >= area.x && a.x + a.width <= area.x + area.width).toBe(true);
      expect(a.y >= area.y && a.y + a.height <= area.y + area.height).toBe(true);
      for (const b of [...labels.slice(i + 1), ...boxes]) expect(meets(a, b)).toBe(false);
    }
  });
  it('where there is no room, labels still lie apart, or where the first one would', () => {
    const full = { x: 0, y: 0, width: 100, height: 70 };
    const labels = placeLabels([full, full, full], Array(3).fill({ width: 90, height: 30 }), full);
    expect(labels).toHaveLength(3);
    expect(labels.every((l) => l.width === 90)).toBe(true);
  });
});
