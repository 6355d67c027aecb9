import { expect, it } from 'vitest';
import { newItem } from './item.ts';
import { fitText, missingOf, placementOf, stateOfItem } from './item-state.ts';
import { emptyLane, type Output } from './show.ts';

const zone = (key: string, width: number, height: number) => ({ key, name: key, x: 0, y: 0, width, height });
const output = {
  key: 'air',
  name: 'Air',
  zones: [zone('low', 400, 100), zone('tall', 100, 400)],
} as unknown as Output;
const layout = { key: 'wide', width: 400, height: 100, layers: [] };
const template = {
  layouts: [layout],
  inputs: [{ key: 'name', label: 'Name', kind: 'text', required: true }],
} as never;
const places = (...zones: string[]) => zones.map((z) => ({ output: 'air', zone: z }));
const item = (inputs: object, zones: ReturnType<typeof places>, aired: number | null = null) => ({
  ...newItem({ key: 'a', number: 1, name: 'A', template: 't', zones, inputs: inputs as never }),
  aired,
});
const lane = (z: string, on: string | null) => ({
  ...emptyLane({ output: 'air', zone: z }),
  onAir: on === null ? null : { item: on, layout: 'wide', inputs: {}, takenAt: 0 },
});
const state = (it: ReturnType<typeof item>, ...lanes: ReturnType<typeof lane>[]) =>
  stateOfItem(it, { template, outputs: [output], lanes }, (at) => `at ${at}`);

it('goes to the zones that are there, each with the layout that fits', () => {
  const found = placementOf([...places('low', 'tall', 'gone'), { output: 'no', zone: 'low' }], template, [
    output,
  ]);
  expect(found.map((p) => [p.zone.key, fitText(p)])).toEqual([
    ['low', 'layout wide'],
    ['tall', expect.stringContaining('no layout of its shape: wide at ') as string],
  ]);
});

it.each([
  [undefined, item({}, places('low')), ['its template']],
  [template, item({ name: 'Kestrel' }, places('low')), []],
  [template, item({ name: 'Kestrel' }, places('gone')), ['a zone']],
  [template, item({ name: 'Kestrel' }, places('tall')), ['a layout that fits']],
] as const)('%# lacks %j', (of, it, lacks) => expect(missingOf(it, of, [output])).toEqual(lacks));

it('is on air before all else, then what it lacks, then what was, else ready', () => {
  const full = item({ name: 'Kestrel' }, places('low', 'tall'), 7);
  expect(state(full, lane('low', 'a'), lane('tall', null))).toEqual({
    is: 'on-air',
    says: 'in 1 of 2 zones',
  });
  expect(state(full, lane('low', 'a'), lane('tall', 'a'))).toEqual({ is: 'on-air', says: '' });
  expect(state(full, lane('low', 'b'))).toEqual({ is: 'aired', says: 'aired at 7' });
  expect(state(item({}, places('low'), 7)).is).toBe('lacks');
  expect(state(item({ name: 'Kestrel' }, places('low')))).toEqual({ is: 'ready', says: 'ready' });
});
