import { own } from '../board/own.ts';
import { boundsText } from '../number/arithmetic.ts';
import type { Scalar } from '../board/values.ts';
import type { Box } from '../text/fit.ts';
import type { InputDef } from '../documents/template.ts';
import { placeKey, type Item } from './item.ts';

/** A named rectangle of an output, in px. */
export interface Zone extends Box {
  key: string;
  name: string;
  /** The key, one of `LETTERS`, that puts its lane under the keys on the live view; blank for none. */
  letter: string;
}

const ALPHABET = Array.from('ABCDEFGHIJKLMNOPQRSTUVWXYZ');
/** The first stroke of a lane's key of two. */
export const FIRST_STROKE = '.';
/** The keys that a lane can have: a letter; or, where those are used up, a point and then a letter. */
export const LETTERS: readonly string[] = [...ALPHABET, ...ALPHABET.map((a) => FIRST_STROKE + a)];

/** What is behind all zones of an output: nothing, a colour, a picture or a clip of the library, or a stand-in for a camera. */
export type Background =
  | { kind: 'transparent' | 'camera' }
  | { kind: 'colour'; colour: string }
  | { kind: 'media'; path: string };

/** A picture that goes out: its size in px, and its zones from back to front. */
export interface Output {
  schema: 5;
  key: string;
  name: string;
  /** Where it stands among the outputs, from 1: in the order of this number, then of their keys. 0 where nobody says. */
  place: number;
  width: number;
  height: number;
  /** How long after the server's word a take or a clear happens on its pages, in ms: so all of them show it at once. */
  lead: number;
  /** A board in the venue: while it is quiet, what changes on it changes without motion. */
  venue: boolean;
  background: Background;
  zones: Zone[];
}

/** What stands in a zone, with the inputs as they were taken. */
export interface OnAir {
  item: string;
  /** The key of the template's layout that was taken. */
  layout: string;
  inputs: Record<string, Scalar>;
  /** When it shows first, server ms. */
  takenAt: number;
  /** The desk at which it was taken, where that is known. */
  by?: string;
}

/** The operator's handle on one zone: what is on, what is next. */
export interface Lane {
  output: string;
  zone: string;
  next: string | null;
  onAir: OnAir | null;
  /** What stood there before that, as it stood; null for nothing. */
  before: OnAir | null;
  /** The items that are taken one after another, the first one next. */
  queue: string[];
  /** What is switched off here of what happens by itself. */
  off: Automatic[];
}

/** What happens in a lane by itself: an item goes off when its length is over; what follows it is taken. */
export const AUTOMATIC = ['length', 'follows'] as const;
export type Automatic = (typeof AUTOMATIC)[number];

/** As many items stand in a queue. */
export const MOST_QUEUED = 200;

/** A lane with nothing in it. */
export const emptyLane = ({ output, zone }: Pick<Lane, 'output' | 'zone'>): Lane => ({
  output,
  zone,
  next: null,
  onAir: null,
  before: null,
  queue: [],
  off: [],
});

export interface Show {
  /** The items among the documents, by their keys. */
  items: ReadonlyMap<string, Item>;
  /** By `laneKey`. */
  lanes: Map<string, Lane>;
  /** The outputs that show their test card. */
  cards: Set<string>;
  /** Why boards in the venue change without motion now; null while they move. */
  quiet: WhyQuiet | null;
}

/** What makes it quiet: somebody switched it on, or the rule holds. */
export type WhyQuiet = 'switch' | 'rule';

/** What a lane is known by: its place. */
export const laneKey = placeKey;

/** Raised with a sentence for the operator when an action cannot be done. */
export class Refusal extends Error {}

/** Raised where somebody else changed the same thing meanwhile: whoever asked may choose. */
export class Clash extends Refusal {}

/** The labels of required inputs that are still empty. */
export function missingInputs(defs: readonly InputDef[], inputs: Record<string, Scalar>): string[] {
  return defs.filter((d) => d.required && (own(inputs, d.key) ?? '') === '').map((d) => d.label);
}

/** True when an item was edited since it went on air: what is on air is not what its inputs say now. */
export function editedSince(onAir: OnAir, item: Pick<Item, 'inputs'>): boolean {
  const keys = new Set([...Object.keys(onAir.inputs), ...Object.keys(item.inputs)]);
  return [...keys].some((k) => (own(onAir.inputs, k) ?? null) !== (own(item.inputs, k) ?? null));
}

/** The lane of a zone. Throws a Refusal where there is none. */
export function laneOf(show: Show, at: Pick<Lane, 'output' | 'zone'>): Lane {
  const lane = show.lanes.get(laneKey(at));
  if (!lane) throw new Refusal(`There is no zone "${at.zone}" on the output "${at.output}".`);
  return lane;
}

/** A lane with something else on air: what stood there is what stood before, unless it is the same item again; what is taken is off the queue. */
export const withOnAir = (lane: Lane, onAir: OnAir | null): Lane => ({
  ...lane,
  onAir,
  ...(lane.onAir?.item === onAir?.item ? {} : { before: lane.onAir }),
  queue: lane.queue.filter((key) => key !== onAir?.item),
});

/** The lanes, of some, in which an item stands. */
export const airing = (lanes: Iterable<Lane>, key: string): Lane[] =>
  [...lanes].filter((l) => l.onAir?.item === key);

/** True while an item stands in any of some lanes. */
export const isOnAir = (lanes: Iterable<Lane>, key: string): boolean => airing(lanes, key).length > 0;

/** One take of an item: what it was, and when. */
export type Taken = Pick<OnAir, 'item' | 'takenAt'>;

/** The take by which something stands on air; null for nothing. */
export const takenOf = (onAir: OnAir | null): Taken | null =>
  onAir && { item: onAir.item, takenAt: onAir.takenAt };

/** True where what stands in a lane is still that take; where it was none, while nothing stands there. */
export const isStill = (current: Taken | null, taken: Taken | null): boolean =>
  current?.item === taken?.item && current?.takenAt === taken?.takenAt;

/** The item of a key. Throws a Refusal where there is none. */
export function itemOf(show: Pick<Show, 'items'>, key: string): Item {
  const item = show.items.get(key);
  if (!item) throw new Refusal(`There is no item "${key}"; it may have been deleted.`);
  return item;
}

/** Why an input cannot be filled in with this; null where it can. */
export function refuseInput(def: InputDef | undefined, key: string, value: Scalar): string | null {
  if (!def) return `This template has no input "${key}".`;
  if (value === null) return null;
  if (def.kind === 'switch') return typeof value === 'boolean' ? null : `${def.label} is on or off.`;
  if (def.kind === 'number') {
    const { min = -Infinity, max = Infinity } = def;
    if (typeof value !== 'number' || !Number.isFinite(value)) return `${def.label} is a number.`;
    return value >= min && value <= max ? null : `${def.label}: ${boundsText({ ...def, decimals: 3 })}`;
  }
  if (typeof value !== 'string') return `${def.label} is a text.`;
  // Rows come and go: what was chosen is looked up when it is shown.
  if (def.kind === 'choice' && !def.rows && !def.choices?.some((c) => c.value === value)) {
    return `${def.label} is one of ${def.choices?.map((c) => c.label).join(', ')}.`;
  }
  const limit = def.maxLength ?? 200;
  return value.length > limit ? `${def.label} is limited to ${limit} characters.` : null;
}
