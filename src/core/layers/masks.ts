import { layersOf, type Layer } from './kinds.ts';

/**
 * The names of layers of which each shows only where the next one is, and the last where the first is: such a circle says of none
 * where it shows. Null where there is none.
 */
export function maskCircle(layers: readonly Layer[]): string[] | null {
  const byId = new Map([...layersOf(layers)].map((layer) => [layer.id, layer]));
  const clear = new Set<string>();
  for (const start of byId.values()) {
    const path: Layer[] = [];
    for (let at: Layer | undefined = start; at && !clear.has(at.id); at = byId.get(at.mask ?? '')) {
      const from = path.indexOf(at);
      if (from >= 0) return [...path.slice(from), at].map((layer) => layer.name);
      path.push(at);
    }
    for (const { id } of path) clear.add(id);
  }
  return null;
}
