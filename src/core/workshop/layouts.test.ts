import { describe, expect, it } from 'vitest';
import { parseTemplate } from '../documents/template.ts';
import { propertiesOf, type Layer } from '../layers/kinds.ts';
import { means } from '../layers/property.ts';
import { facesOf } from '../text/families.ts';
import { scaledLayout, scaleLayer } from './layouts.ts';

const group = (): Layer =>
  ({
    id: 'g',
    kind: 'group',
    name: 'g',
    x: 10,
    y: 20,
    width: 100,
    height: 50,
    layers: [
      {
        id: 't',
        kind: 'text',
        name: 't',
        x: 5,
        y: 5,
        width: 80,
        height: 20,
        font: 'F',
        size: 16,
        weight: 700,
      },
      {
        id: 's',
        kind: 'shape',
        name: 's',
        x: 0,
        y: 0,
        width: { field: 'home.score' },
        height: 10,
        radius: 4,
      },
      { id: 'l', kind: 'line', name: 'l', x: 0, y: 0, toX: 10, toY: 10, thickness: 2, dash: '4 2.5' },
    ],
  }) as unknown as Layer;

describe('scaleLayer', () => {
  it('goes across and down by its own factors, and by the smaller where a length is neither', () => {
    const layer = group() as Layer & { layers: Record<string, unknown>[] };
    scaleLayer(layer, 2, 3);
    expect(layer).toMatchObject({ x: 10, y: 20, width: 200, height: 150 });
    expect(layer.layers[0]).toMatchObject({ x: 10, y: 15, width: 160, height: 60, size: 32, weight: 700 });
    expect(layer.layers[1]).toMatchObject({ width: { field: 'home.score' }, height: 30, radius: 8 });
    expect(layer.layers[2]).toMatchObject({ toX: 20, toY: 30, thickness: 4, dash: '8 5' });
  });
  it('keeps lengths within what they may be', () => {
    const layer = group();
    scaleLayer(layer, 0.00001, 0.00001);
    expect(JSON.stringify(layer)).toContain('"size":1');
    expect(
      parseTemplate({
        schema: 3,
        key: 't',
        name: 'T',
        inputs: [],
        layouts: [{ key: 'l', width: 9, height: 9, layers: [layer] }],
      }),
    ).toMatchObject({ ok: true });
  });
});

it('a layout made from another is all of it, as large as can be, in the middle; the other stays', () => {
  const from = { key: 'a', width: 200, height: 100, layers: [group()] };
  const made = scaledLayout(from, { key: 'b', width: 400, height: 400 });
  expect(made).toMatchObject({ key: 'b', width: 400, height: 400 });
  expect(made.layers[0]).toMatchObject({ x: 20, y: 140, width: 200, height: 100 });
  expect(from.layers[0]).toEqual(group());
});

it('a property means something only while the one that it needs does', () => {
  const of = (kind: Layer['kind'], name: string) => propertiesOf(kind).find(([n]) => n === name)![1];
  const held = (content: unknown) => () => content;
  expect(means(of('shape', 'fill'), held(undefined))).toBe(true);
  for (const [name, content, yes] of [
    ['fillAngle', '', false],
    ['fillAngle', '#fff', true],
    ['fillAngle', { field: 'home.colour' }, true],
    ['points', 'box', false],
    ['points', 'polygon', true],
    ['borderColour', 0, false],
    ['borderColour', 2, true],
  ] as const)
    expect(means(of('shape', name), held(content)), `${name} ${JSON.stringify(content)}`).toBe(yes);
});

it('names the faces of texts, clocks and parts, each once', () => {
  const layers = [
    { kind: 'text', font: 'A', weight: 700, text2: 'x', weight2: 300 },
    { kind: 'clock', font: 'A', weight: 700 },
    { kind: 'group', layers: [{ kind: 'text', font: 'A', text3: 'y', font3: 'B' }] },
  ] as unknown as Layer[];
  const faces = facesOf([{ key: 'l', width: 1, height: 1, layers }]);
  expect(faces).toEqual([
    '300 20px "A", "A Variable", sans-serif',
    '400 20px "A", "A Variable", sans-serif',
    '400 20px "B", "B Variable", sans-serif',
    '700 20px "A", "A Variable", sans-serif',
  ]);
});
