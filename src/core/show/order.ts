import { placeKey } from './item.ts';
import type { Lane, Output } from './show.ts';

/** The largest number that says where an output stands. */
export const MOST_PLACE = 1e6;

const byPlace = (a: Pick<Output, 'place' | 'key'>, b: Pick<Output, 'place' | 'key'>): number =>
  a.place - b.place || (a.key < b.key ? -1 : a.key > b.key ? 1 : 0);

/** The same list where nothing in it stands elsewhere now: who looks whether it is another draws nothing anew. */
const sameOr = <T>(was: readonly T[], now: T[]): T[] =>
  now.every((one, i) => one === was[i]) ? (was as T[]) : now;

/** Outputs in the order that people gave them; those that nobody moved as they were made. */
export const outputsInOrder = (outputs: readonly Output[]): Output[] =>
  sameOr(outputs, [...outputs].sort(byPlace));

/** Lanes as their zones stand: output by output, and each one's from back to front. Those of no zone come last. */
export function lanesInOrder(outputs: readonly Output[], lanes: readonly Lane[]): Lane[] {
  const at = new Map(
    outputs
      .flatMap((o) => o.zones.map((z) => placeKey({ output: o.key, zone: z.key })))
      .map((k, i) => [k, i]),
  );
  const of = (lane: Lane) => at.get(placeKey(lane)) ?? at.size;
  return sameOr(
    lanes,
    [...lanes].sort((a, b) => of(a) - of(b)),
  );
}

/** The place of an output that is made: behind all that are there. */
export const lastPlace = (outputs: readonly Output[]): number =>
  Math.min(MOST_PLACE, Math.max(0, ...outputs.map((o) => o.place)) + 1);

/**
 * The outputs that stand elsewhere once one of them stands before another, or behind all of them: each with the place that it has
 * then, counted from 1. None where there is no such output, or it stands there already.
 */
export function moved(outputs: readonly Output[], key: string, before: string | null): Output[] {
  const order = outputsInOrder(outputs);
  const one = order.find((o) => o.key === key);
  if (!one || before === key) return [];
  const rest = order.filter((o) => o !== one);
  const found = rest.findIndex((o) => o.key === before);
  const to = before === null || found < 0 ? rest.length : found;
  const now = [...rest.slice(0, to), one, ...rest.slice(to)];
  if (now.every((o, i) => o === order[i])) return [];
  return now.flatMap((o, i) => (o.place === i + 1 ? [] : [{ ...o, place: i + 1 }]));
}
