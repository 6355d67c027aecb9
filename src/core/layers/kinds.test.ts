import { describe, expect, it } from 'vitest';
import { parseTemplate } from '../documents/template.ts';
import { newLayer } from '../workshop/tree.ts';
import { KINDS, contentsOf, propertiesOf, type Layer, type LayerKind } from './kinds.ts';
import { coerced, type Property } from './property.ts';
import * as clock from './clock.ts';
import * as common from './common.ts';
import * as content from './content.ts';
import * as group from './group.ts';
import * as line from './line.ts';
import * as oneOf from './one-of.ts';
import * as picture from './picture.ts';
import * as pips from './pips.ts';
import * as shape from './shape.ts';
import * as text from './text.ts';

const layout = { key: 'l', width: 800, height: 200, layers: [] };
const made = (kind: LayerKind): Layer =>
  ({
    ...newLayer(layout, kind, { x: 10, y: 20, width: 300, height: 80 }),
    ...('holds' in KINDS[kind] ? { layers: [] } : {}),
  }) as Layer;
const read = (layer: object) =>
  parseTemplate({ schema: 3, key: 't', name: 'T', inputs: [], layouts: [{ ...layout, layers: [layer] }] });
const problems = (layer: object) => {
  const found = read(layer);
  return found.ok ? '' : found.problems.join('\n');
};

it('each kind is declared in a file of its own', () => {
  const files = [clock, group, line, oneOf, picture, pips, shape, text].flatMap((file) =>
    Object.values(file),
  );
  for (const kind of Object.keys(KINDS) as LayerKind[]) expect(files).toContain(KINDS[kind]);
  expect([common, content].map((file) => Object.keys(file).length > 0)).toEqual([true, true]);
});

describe.each(Object.keys(KINDS) as LayerKind[])('%s', (kind) => {
  const properties = propertiesOf(kind).filter(([, p]) => !p.needed);

  it('as it is drawn new is a layer that can be read, and says what it holds', () => {
    expect(problems(made(kind))).toBe('');
    expect(Object.keys(contentsOf(made(kind))).length).toBeGreaterThan(3);
  });
  it('has names and defaults that it can hold itself', () => {
    for (const [name, property] of properties) {
      expect(property.label, name).not.toBe('');
      const { default: begins } = property;
      if (begins === null || begins === '') continue;
      expect([name, coerced(property, begins)]).toEqual([name, begins]);
      expect([name, problems({ ...made(kind), [name]: begins })]).toEqual([name, '']);
    }
  });
  it('refuses what lies outside the bounds of a number, and draws a Value of it within them', () => {
    for (const [name, property] of properties) {
      const { type, max, min, whole } = property;
      if (type !== 'number' || max === undefined || min === undefined) continue;
      for (const wrong of [max + 1, min - 1, 'many', ...(whole ? [(min + max) / 2 + 0.3] : [])])
        expect([name, wrong, problems({ ...made(kind), [name]: wrong })]).not.toEqual([name, wrong, '']);
      expect([coerced(property, max + 1), coerced(property, min - 1)]).toEqual([max, min]);
      expect(coerced(property, 'many')).toBe(property.default);
    }
  });
  it('takes a Value only where its property may be one', () => {
    for (const [name, { bound }] of properties as [string, Property][])
      expect([name, problems({ ...made(kind), [name]: { field: 'home.score' } }) === '']).toEqual([
        name,
        bound,
      ]);
  });
});
