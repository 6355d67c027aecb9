import { describe, expect, it } from 'vitest';
import { parseTemplate, type Template } from '../documents/template.ts';
import type { Layer } from '../layers/kinds.ts';
import { refuseInput } from '../show/show.ts';
import { resetInputs, defaultInputs, filledBy, fillBy, handOver, takeBack, unshown } from './inputs.ts';

const type = { font: 'Barlow Condensed', size: 20 };
const template = (): Template => ({
  schema: 3,
  key: 't',
  name: 'T',
  inputs: [],
  layouts: [
    {
      key: 'main',
      width: 100,
      height: 50,
      layers: [
        { id: 'a', kind: 'text', name: 'Näme', text: 'First Last', ...type },
        { id: 'b', kind: 'shape', name: 'plate', fill: '#123456' },
        { id: 'p', kind: 'picture', name: 'logo', picture: '' },
        { id: 'c', kind: 'clock', name: 'clock', clock: { field: 'clock.game' }, ...type },
        {
          id: 'o',
          kind: 'one-of',
          name: 'side',
          which: 'x',
          layers: [
            { id: 'x', kind: 'shape', name: 'left' },
            { id: 'y', kind: 'shape', name: 'right', member: 'away' },
          ],
        },
      ] as Layer[],
    },
  ],
});
const layerOf = (t: Template, id: string) =>
  t.layouts[0]!.layers.find((l) => l.id === id) as never as Record<string, unknown>;

describe('what is handed to the operator', () => {
  it.each([
    ['a', 'text', { key: 'name', label: 'Näme', kind: 'text', sample: 'First Last' }],
    [
      'a',
      'size',
      { key: 'name-size', label: 'Näme: size', kind: 'number', min: 1, max: 4000, sample: 20, default: 20 },
    ],
    [
      'b',
      'fill',
      { key: 'plate-fill', label: 'plate: fill', kind: 'colour', sample: '#123456', default: '#123456' },
    ],
    [
      'b',
      'shows',
      { key: 'plate-shows', label: 'plate: shows', kind: 'switch', sample: true, default: true },
    ],
    ['p', 'picture', { key: 'logo', label: 'logo', kind: 'picture' }],
    [
      'o',
      'which',
      {
        key: 'side',
        label: 'side',
        kind: 'choice',
        choices: [
          { value: 'x', label: 'left' },
          { value: 'away', label: 'right' },
        ],
        sample: 'x',
        default: 'x',
      },
    ],
  ])('%s, %s is an input, can be saved, and is taken back as it was', (id, prop, def) => {
    const t = template();
    expect(handOver(t, 'main', id, prop)).toBe(def.key);
    expect(t.inputs).toEqual([def]);
    expect(layerOf(t, id)[prop]).toEqual({ input: def.key });
    expect(parseTemplate(t)).toMatchObject({ ok: true });
    expect(unshown(t, t.layouts[0]!)).toEqual([]);
    expect(takeBack(t, def.key)).toEqual([]);
    expect(t).toEqual({
      ...template(),
      layouts: [{ ...template().layouts[0]!, layers: t.layouts[0]!.layers }],
    });
    expect(layerOf(t, id)[prop]).toEqual(
      layerOf(template(), id)[prop] ?? (prop === 'shows' ? true : undefined),
    );
  });

  it.each([
    ['c', 'clock'],
    ['a', 'font'],
    ['a', 'nothing'],
    ['z', 'text'],
  ])('%s, %s cannot be handed over', (id, prop) => {
    const t = template();
    expect(handOver(t, 'main', id, prop)).toBeNull();
    expect(handOver(t, 'elsewhere', 'a', 'text')).toBeNull();
    expect(t).toEqual(template());
  });

  it('any input is filled in out of a list or of rows, and by typing again; what shows it follows, and its format stays', () => {
    const t = template();
    const key = handOver(t, 'main', 'a', 'text')!;
    const layer = layerOf(t, 'a') as { text: unknown };
    layer.text = { input: key, format: 'upper' };
    const def = () => t.inputs.find((i) => i.key === key)!;
    fillBy(t, key, 'list');
    expect(def()).toMatchObject({ kind: 'choice', choices: [{ value: 'First Last', label: 'First Last' }] });
    expect(layer.text).toEqual({ input: key, format: 'upper' });
    const rows = { table: 'home.players', column: 'name' };
    fillBy(t, key, rows);
    expect(def()).toMatchObject({ kind: 'choice', rows });
    expect(layer.text).toEqual({
      lookup: { table: 'home.players', key: { input: key }, column: 'name' },
      format: 'upper',
    });
    expect(parseTemplate(t)).toMatchObject({ ok: true });
    expect(takeBack(structuredClone(t), key)).toEqual([]);
    fillBy(t, key, 'itself');
    expect([def().kind, filledBy(def())]).toEqual(['text', 'itself']);
    expect(layer.text).toEqual({ input: key, format: 'upper' });
  });

  it.each([
    ['colour', '#102030'],
    ['picture', 'marks/home'],
  ] as const)('a %s is chosen among such ones, and is one again', (kind, sample) => {
    const t = { inputs: [{ key: 'k', label: 'K', kind, sample }], layouts: [] } as unknown as Template;
    fillBy(t, 'k', 'list');
    expect(t.inputs[0]).toEqual({
      key: 'k',
      label: 'K',
      kind: 'choice',
      as: kind,
      choices: [{ value: sample, label: sample }],
    });
    fillBy(t, 'k', 'itself');
    expect(t.inputs[0]).toEqual({ key: 'k', label: 'K', kind, sample });
    fillBy(t, 'gone', 'list');
  });

  it('a part of something else is not taken back, and what nothing shows is named', () => {
    const t = template();
    handOver(t, 'main', 'a', 'text');
    layerOf(t, 'a')['text'] = { pieces: [{ input: 'name' }, { fixed: '!' }] };
    expect(takeBack(t, 'name')).toEqual(['Näme']);
    layerOf(t, 'a')['text'] = 'x';
    expect(unshown(t, t.layouts[0]!)).toEqual(['Näme']);
    handOver(t, 'main', 'a', 'text');
    expect(t.inputs.map((i) => i.key)).toEqual(['name', 'name-2']);
    // A text begins empty: what stood there is its hint.
    expect(defaultInputs(t)).toEqual({});
  });

  it('what begins anew does so after it was on air; all else stays as it was filled in', () => {
    const inputs = [
      { key: 'a', kind: 'text', resets: true, default: 'A' },
      { key: 'b', kind: 'text', default: 'B' },
      { key: 'c', kind: 'choice', resets: true, choices: [{ value: 'x' }, { value: 'y' }] },
      { key: 'd', kind: 'choice', resets: true, rows: { table: 't', column: 'c' } },
    ] as never;
    expect(resetInputs({ inputs }, { a: '1', b: '2', c: 'y', d: '9' })).toEqual({
      a: 'A',
      b: '2',
      c: 'x',
      d: null,
    });
    expect(defaultInputs({ inputs })).toEqual({ a: 'A', b: 'B', c: 'x' });
  });

  it('a choice has a list or a table; of a table any key is taken, for its rows come and go', () => {
    const choice = { key: 'p', label: 'Player', kind: 'choice' } as const;
    const rows = { table: 'home.players', column: 'name' };
    const read = (def: object) => parseTemplate({ ...template(), inputs: [def] }).ok;
    expect([read(choice), read({ ...choice, rows }), read({ ...choice, rows: { table: 't' } })]).toEqual([
      false,
      true,
      false,
    ]);
    expect(refuseInput({ ...choice, rows }, 'p', '14')).toBe(null);
    expect(refuseInput({ ...choice, rows }, 'p', true)).toBe('Player is a text.');
  });

  it.each([
    [3, null],
    [0, null],
    [5.5, 'Goals: A number from 0 to 5.'],
    ['3', 'Goals is a number.'],
    [NaN, 'Goals is a number.'],
    [null, null],
  ])('a number may be %s: %s', (value, why) =>
    expect(refuseInput({ key: 'g', label: 'Goals', kind: 'number', min: 0, max: 5 }, 'g', value)).toBe(why),
  );
});
