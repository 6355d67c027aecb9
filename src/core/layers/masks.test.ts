import { expect, it } from 'vitest';
import type { Layer } from './kinds.ts';
import { maskCircle } from './masks.ts';

const layer = (id: string, mask?: string, layers?: Layer[]) =>
  ({ id, name: id.toUpperCase(), kind: 'shape', mask, ...(layers && { layers }) }) as unknown as Layer;

it.each<[string, Layer[], string[] | null]>([
  ['none', [layer('a', 'b'), layer('b', 'c'), layer('c'), layer('d', 'gone')], null],
  ['itself', [layer('a', 'a')], ['A', 'A']],
  ['two', [layer('x', 'a'), layer('a', 'b'), layer('b', 'a')], ['A', 'B', 'A']],
  [
    'in a group',
    [layer('g', undefined, [layer('a', 'c'), layer('b', 'a')]), layer('c', 'b')],
    ['A', 'C', 'B', 'A'],
  ],
  ['two that share one', [layer('a', 'c'), layer('b', 'c'), layer('c')], null],
])('masks in a circle are found: %s', (_, layers, path) => expect(maskCircle(layers)).toEqual(path));
