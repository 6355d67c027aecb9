import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { must } from '../document/problems.ts';
import {
  bindingsOf,
  contentsOf,
  KINDS,
  layersOf,
  propertiesOf,
  type Layer,
  type LayerKind,
} from '../layers/kinds.ts';
import { coerced } from '../layers/property.ts';
import { parseTemplate } from './template.ts';

const read = (path: string) =>
  JSON.parse(readFileSync(new URL(`../../../${path}`, import.meta.url), 'utf8')) as unknown;

const good = { kind: 'text', id: 't', name: 'T', text: { input: 'who' }, font: 'F', size: 9 };
const withLayers = (layers: unknown[], more = {}) => ({
  schema: 3,
  key: 't',
  name: 'T',
  inputs: [{ key: 'who', label: 'Who', kind: 'text' }],
  layouts: [{ key: 'l', width: 10, height: 10, layers }],
  ...more,
});
const problems = (input: unknown) => {
  const result = parseTemplate(input);
  return result.ok ? [] : result.problems;
};

describe('parseTemplate', () => {
  it.each([
    ['a layer twice', withLayers([good, good]), 'layouts.l: two layers have the id "t"'],
    ['an undeclared input', withLayers([{ ...good, text: { input: 'what' } }]), 'no input "what"'],
    [
      'an unknown layer',
      withLayers([{ ...good, kind: 'video' }]),
      'layouts.0.layers.0.kind: must be one of text',
    ],
    ['a kind that every object has', withLayers([{ ...good, kind: 'constructor' }]), 'kind: must be one of'],
    [
      'a value that is none',
      withLayers([{ ...good, text: { script: 'x' } }]),
      'layers.0.text: must be a text',
    ],
    [
      'two values in one',
      withLayers([{ ...good, text: { fixed: 'x', field: 'y' } }]),
      'layers.0.text.field: is not known here',
    ],
    [
      'a formula that is none',
      withLayers([{ ...good, text: { formula: '1 +' } }]),
      'layers.0.text.formula: is not a formula: ',
    ],
    ['an unknown property', withLayers([{ ...good, onclick: 'x' }]), 'layers.0.onclick: is not known here'],
    ['a size beyond measure', withLayers([{ ...good, size: 1e9 }]), 'size: must be a number from 1 to 4000'],
    [
      'a size that is no number',
      withLayers([{ ...good, size: '9' }]),
      'size: must be a number from 1 to 4000',
    ],
    ['no size', withLayers([{ ...good, size: undefined }]), 'layers.0.size: is missing'],
    ['a font that is a value', withLayers([{ ...good, font: { fixed: 'F' } }]), 'font: must be a text'],
    [
      'no list of layers',
      withLayers([], { layouts: [{ key: 'l', width: 1, height: 1 }] }),
      'layers: is missing',
    ],
    ['no layout', withLayers([], { layouts: [] }), 'layouts: a template needs at least one layout'],
    [
      'layouts of one key',
      withLayers([], { layouts: [0, 1].map(() => ({ key: 'l', width: 1, height: 1, layers: [] })) }),
      'two have the key "l"',
    ],
    [
      'an empty choice',
      withLayers([], { inputs: [{ key: 'c', label: 'C', kind: 'choice' }] }),
      'nothing to choose',
    ],
    ['no document', 'hello', 'document: is not an object'],
    ['one of tomorrow', withLayers([], { schema: 4 }), 'is of a newer Foothill; this one reads up to 3'],
    ['one of no version', withLayers([], { schema: 'x' }), 'schema: must be the number of its version'],
    ['one nested without end', withLayers([nested(200)]), 'is nested too deeply'],
    [
      'one larger than any is',
      withLayers([{ ...good, text: { pieces: Array(50_000).fill({ fixed: 1 }) } }]),
      'document: has more than 40000 parts',
    ],
  ])('refuses %s', (_what, input, why) => expect(problems(input).join('\n')).toContain(why));
  it('names every problem with its place, and no more than can be read', () => {
    const bad = { ...good, size: 0, colour: 7 };
    const said = problems(withLayers([bad, { ...bad, id: 'u' }]));
    expect(said.map((p) => p.split(':')[0])).toEqual(
      [0, 1].flatMap((i) => [`layouts.0.layers.${i}.colour`, `layouts.0.layers.${i}.size`]),
    );
    expect(problems(withLayers(Array(500).fill(bad)))).toHaveLength(50);
  });
  it.each(readdirSync(new URL('../../../data/demo/template', import.meta.url)))(
    'reads %s, and gives back what it read',
    (file) => {
      const now = read(`data/demo/template/${file}`);
      expect(must(parseTemplate(now))).toEqual(now);
    },
  );
  it.each(readdirSync(new URL('../../../tests/older/template-1', import.meta.url)))(
    'brings %s of the first version up to what it was in the second',
    (file) => {
      const second = must(parseTemplate(read(`tests/older/template-2/${file}`)));
      expect(must(parseTemplate(read(`tests/older/template-1/${file}`)))).toEqual(second);
    },
  );
  it('an input of version 2 keeps what it began with and whether it is reset', () => {
    const two = read('tests/older/template-2/lower-third.json') as { inputs: Record<string, unknown>[] };
    const input = { key: 'x', label: 'X', kind: 'text' };
    const inputs = [...two.inputs, { ...input, first: 'Kestrel', afresh: true }];
    const now = must(parseTemplate({ ...two, inputs }));
    expect(now.schema).toBe(3);
    expect(now.inputs.at(-1)).toEqual({ ...input, default: 'Kestrel', resets: true });
    expect(parseTemplate({ ...two, inputs: [7] }).ok).toBe(false);
    expect(parseTemplate({ ...two, inputs: 'none' }).ok).toBe(false);
    // What was renamed is unknown under its old name.
    expect(parseTemplate({ ...now, inputs: [{ ...input, first: 'x' }] }).ok).toBe(false);
  });
  it('gives layers of older templates ids out of their names, each once, and members what they were chosen by', () => {
    const old = (kind: string, name: string, more = {}) => ({
      kind,
      name,
      box: { x: 1, y: 2, width: 3, height: 4 },
      ...more,
    });
    const layers = [
      old('group', 'Ärger 1', {
        layers: [old('shape', 'ärger-1', { shape: 'box', fill: { fixed: '#fff' } })],
      }),
      old('one-of', '…', { which: { field: 'a.b' }, layers: [old('group', 'On', { layers: [] })] }),
    ];
    const made = must(parseTemplate(withLayers(layers, { schema: 1 }))).layouts[0]!.layers;
    expect([...layersOf(made)].map((l) => [l.id, l.name, l.member])).toEqual([
      ['arger-1', 'Ärger 1', undefined],
      ['arger-1-2', 'ärger-1', undefined],
      ['layer', '…', undefined],
      ['on', 'On', 'On'],
    ]);
    expect([...layersOf(made)][1]).toMatchObject({ x: 1, y: 2, width: 3, height: 4, fill: '#fff' });
  });
});

function nested(depth: number): object {
  let layer: object = good;
  for (let i = 0; i < depth; i++) layer = { kind: 'group', id: `g${i}`, name: 'g', layers: [layer] };
  return layer;
}

describe('what a layer kind declares', () => {
  const all = Object.keys(KINDS).flatMap((kind) =>
    propertiesOf(kind as LayerKind).map(([name, property]) => ({ kind: kind as LayerKind, name, property })),
  );
  const layer = (kind: LayerKind, more: object): Layer => {
    const needed = Object.fromEntries(
      propertiesOf(kind).flatMap(([name, p]) =>
        p.needed
          ? [[name, p.type === 'clock' ? { field: 'c' } : p.type === 'number' ? (p.min ?? 0) : 'x']]
          : [],
      ),
    );
    const holds = 'holds' in KINDS[kind] ? { layers: [] } : {};
    const doc = withLayers([{ id: 'a', kind, name: 'A', ...needed, ...holds, ...more }]);
    return must(parseTemplate(doc)).layouts[0]!.layers[0]!;
  };
  it.each(all.map((p) => [`${p.kind}.${p.name}`, p] as const))(
    '%s is what it may be: bound where it may be, its first value where nothing is said',
    (_, { kind, name, property }) => {
      const value = { field: 'some.field' };
      if (!property.bound) expect(() => layer(kind, { [name]: value })).toThrow(name);
      else expect(bindingsOf(layer(kind, { [name]: value }))).toContainEqual({ prop: name, property, value });
      if (!property.needed) expect(contentsOf(layer(kind, {}))[name]).toBe(property.default);
      if (property.type === 'number') {
        expect(() => layer(kind, { [name]: property.max! + 1 })).toThrow(name);
        expect(coerced(property, property.max! + 1)).toBe(property.max);
        expect(coerced(property, 'no number')).toBe(property.default);
        expect(coerced(property, String(property.max))).toBe(property.max);
      }
      if (property.type === 'choice') expect(coerced(property, 'other')).toBe(property.default);
    },
  );
});
