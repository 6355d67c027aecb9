import { describe, expect, it } from 'vitest';
import { layersOfParts, proposalsOf, type SvgPart } from './svg.ts';

const box = (x: number, y: number, width = 10, height = 10) => ({ x, y, width, height });
const part = (kind: SvgPart['kind'], name: string, at = box(0, 0), more: Partial<SvgPart> = {}): SvgPart => ({
  kind,
  name,
  box: at,
  props: {},
  ...more,
});
const once = { scale: 1, x: 0, y: 0 };

describe('a drawing as layers', () => {
  it('a group goes round what it holds, which then stands in it; lengths grow with the drawing, shares do not', () => {
    const parts = [
      part('group', 'plate', box(0, 0, 500, 500), {
        parts: [
          part('shape', 'ground', box(100, 50, 200, 40), { props: { border: 2, radius: 4, opacity: 0.5 } }),
          part('group', 'inner', box(0, 0, 500, 500), {
            parts: [part('text', 'name', box(120, 60), { props: { size: 20 } })],
          }),
        ],
      }),
    ];
    const [plate] = layersOfParts({ layers: [] }, parts, { scale: 2, x: 5, y: 7 }) as never as [
      { layers: [Record<string, unknown>, { layers: [Record<string, unknown>] }] } & Record<string, unknown>,
    ];
    expect(plate).toMatchObject({ x: 205, y: 107, width: 400, height: 80, kind: 'group' });
    expect(plate.layers[0]).toMatchObject({ x: 0, y: 0, border: 4, radius: 8, opacity: 0.5 });
    expect(plate.layers[1]).toMatchObject({ x: 40, y: 20, width: 20, height: 20 });
    expect(plate.layers[1].layers[0]).toMatchObject({ x: 0, y: 0, size: 40 });
  });
  it('ids are new in the layout, names stay; what has none is called by its kind', () => {
    const there = { layers: [{ id: 'mark', kind: 'shape', name: 'mark' }] as never };
    const made = layersOfParts(there, [part('shape', 'mark'), part('shape', 'Mark'), part('line', '')], once);
    expect(new Set(['mark', ...made.map((l) => l.id)]).size).toBe(4);
    expect(made.map((l) => l.name)).toEqual(['mark', 'Mark', 'line']);
  });
});

it('what is called as a field or an input is proposed to be bound to it, where it can be', () => {
  const fields = [
    { key: 'home.name', label: 'Home name', kind: 'text' },
    { key: 'home.colour', label: 'Home colour', kind: 'colour' },
    { key: 'clock.game', label: 'Game clock', kind: 'clock' },
  ] as never;
  const inputs = [{ key: 'line', label: 'Second line', kind: 'text' }] as never;
  const layers = layersOfParts(
    { layers: [] },
    [
      part('text', 'HOME_NAME'),
      part('group', 'g', undefined, { parts: [part('text', 'second line'), part('shape', 'Home colour')] }),
      part('shape', 'home.name'),
      part('text', 'anything else'),
      part('text', 'game clock'),
    ],
    once,
  );
  expect(proposalsOf(layers, fields, inputs).map(({ name, prop, value }) => [name, prop, value])).toEqual([
    ['HOME_NAME', 'text', { field: 'home.name' }],
    ['second line', 'text', { input: 'line' }],
    ['Home colour', 'fill', { field: 'home.colour' }],
    ['game clock', 'text', { field: 'clock.game' }],
  ]);
});
