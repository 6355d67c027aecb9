import { isRecord } from '../board/own.ts';
import type { Scalar } from '../board/values.ts';
import { Each } from '../document/check.ts';
import type { Parsed } from '../document/problems.ts';
import { Count, Is, isScalar, Must, Name, Num, OneOf, OrNull, Text, Whole } from '../document/rules.ts';
import { readDocument } from '../document/upgrade.ts';

/** No item goes to more zones at once, and none stays on by its length for longer, in s. */
export const MOST_ZONES = 64;
export const LONGEST = 24 * 3600;
/** The largest number that an item can have: six digits are typed. */
export const MOST_NUMBER = 999_999;

/** Keys that take an item on the live view: the browser has no use of its own for them. */
export const HOT_KEYS = [
  ...['F2', 'F4', 'F6', 'F7', 'F8', 'F9', 'F10'],
  ...Array.from('ABCDEFGHIJKLMNOPQRSTUVWXYZ', (letter) => `Shift+${letter}`),
] as const;

/** A zone of an output, by their keys. */
export class Place {
  @Text(1, 80) output!: string;
  @Text(1, 80) zone!: string;
}

export const isInputs = (v: unknown): boolean => isRecord(v) && Object.values(v).every(isScalar);

/** A template with its inputs filled in, under a name and a number, ready to take. */
export class Item {
  @Is(1) schema!: 1;
  @Text(1, 80) key!: string;
  /** What it is recalled by; no other item has it. */
  @Whole(1, MOST_NUMBER) number!: number;
  @Name() name!: string;
  @Text(1, 80) template!: string;
  /** Where it goes, all of it at once; nowhere yet where there is none. */
  @Count(0, MOST_ZONES) @Each(() => Place) zones!: Place[];
  @Must('inputs', isInputs, 'must be an object of texts, numbers, true, false or null')
  inputs: Record<string, Scalar> = {};
  /** It goes off by itself after so many seconds; null: it stays until it is cleared. */
  @OrNull() @Num(0.5, LONGEST) length: number | null = null;
  /** The item that is taken when this one goes off by itself; null for none. */
  @OrNull() @Text(1, 80) follows: string | null = null;
  /** The key that takes it on the live view; blank for none. */
  @OneOf('', ...HOT_KEYS) hotkey = '';
  @Text(0, 2000) note = '';
  /** When it was last taken, server ms; null where it was not yet. */
  @OrNull() @Num(0) aired: number | null = null;
}

/** What is wrong with an item of which each part is well formed: it goes to one zone twice, or follows itself. */
export function itemProblems({ key, zones, follows }: Item): string[] {
  return [
    ...(new Set(zones.map(placeKey)).size === zones.length ? [] : ['zones: it goes to one zone twice']),
    ...(follows === key ? ['follows: an item cannot follow itself'] : []),
  ];
}

/** Reads an item; refuses one that goes to one zone twice, or that follows itself. */
export const parseItem = (input: unknown): Parsed<Item> => readDocument(Item, [], input, itemProblems);

/** What a place is known by among all: its output and its zone. */
export const placeKey = ({ output, zone }: Pick<Place, 'output' | 'zone'>): string => `${output}/${zone}`;

/** True where an item goes to a zone, among others or alone. */
export const placesIn = (
  { zones }: { readonly zones: readonly Place[] },
  at: Pick<Place, 'output' | 'zone'>,
): boolean => zones.some((z) => z.output === at.output && z.zone === at.zone);

/** An item with nothing said of it but this. */
export const newItem = (known: Pick<Item, 'key' | 'number' | 'name' | 'template'> & Partial<Item>): Item => ({
  ...Object.assign(new Item(), { schema: 1 as const, zones: [] }),
  ...known,
});

/** The next number that nobody has: after the largest, or the lowest free one where that is the largest there can be. */
export function freeNumber(items: Iterable<Pick<Item, 'number'>>, from = 1): number {
  const taken = new Set([...items].map((i) => i.number));
  const after = Math.max(from - 1, ...taken) + 1;
  if (after <= MOST_NUMBER) return after;
  let n = from;
  while (taken.has(n)) n++;
  return n;
}
