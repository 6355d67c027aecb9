import { isColour } from '../colour/colour-text.ts';
import { isClock, type FieldValue, type Scalar } from '../board/values.ts';
import type { Value } from '../value/value.ts';

/** What a property that may be bound holds: its content itself, or a Value that gives it. */
export type Bound<T> = T | Value;

/** Under which heading a property stands where a layer is edited. */
export type Section =
  | 'place'
  | 'content'
  | 'parts'
  | 'type'
  | 'fit'
  | 'look'
  | 'corners'
  | 'shadow'
  | 'order'
  | 'mask'
  | 'showing';

/** Another property that has to say something before this one means anything: any content, or one of these. */
export interface Needs {
  prop: string;
  is?: readonly Scalar[];
}

/**
 * One property of a layer kind as it is declared. Everything that is done with properties follows from this: what is
 * refused, what stands where nothing is said, what may be bound or animated, what people read.
 */
export interface Property<
  T extends Scalar = Scalar,
  B extends boolean = boolean,
  N extends boolean = boolean,
> {
  type: 'text' | 'number' | 'colour' | 'flag' | 'choice' | 'clock' | 'picture';
  label: string;
  section: Section;
  /** What it is where nothing is said, and where a Value gives nothing that it can be. */
  default: T | null;
  /** It may be a Value. */
  bound: B;
  /** It has to be said. */
  needed: N;
  /** It may change over time, from one to another through what lies between. */
  animated: boolean;
  unit?: 'px' | 'em' | '°' | 'ms';
  /** Bounds of a number, both included. */
  min?: number;
  max?: number;
  whole?: boolean;
  /** It is a share, which people read in percent. */
  share?: boolean;
  /** How many signs a text may have; 2,000 where nothing is said. */
  most?: number;
  choices?: readonly T[];
  /** What people read for a choice, where the word that is kept does not say it. */
  words?: Readonly<Record<string, string>>;
  /** It means something only while another one does. */
  needs?: Needs;
  /** It is what the layer is there for: blank, it leaves a hole in the picture. */
  main?: boolean;
}

export type Properties = Readonly<Record<string, Property<never, boolean, boolean> | Property>>;

interface Said<B extends boolean, N extends boolean> {
  label: string;
  section: Section;
  bound?: B;
  needed?: N;
  animated?: boolean;
  main?: boolean;
  needs?: Needs;
}

const declared = <T extends Scalar, B extends boolean, N extends boolean>(
  type: Property['type'],
  first: T | null,
  said: Said<B, N>,
): Property<T, B, N> => ({
  type,
  default: first,
  animated: false,
  ...said,
  bound: (said.bound ?? false) as B,
  needed: (said.needed ?? false) as N,
});

/** A number, with what it counts and its bounds. */
export const number = <B extends boolean = false, N extends boolean = false>(
  said: Said<B, N> & { default?: number } & Pick<Property, 'unit' | 'min' | 'max' | 'whole' | 'share'>,
): Property<number, B, N> =>
  ({ ...declared('number', said.needed ? null : (said.default ?? 0), said), ...said }) as never;

/** A text, of which blank is one. */
export const text = <B extends boolean = false, N extends boolean = false>(
  said: Said<B, N> & { most?: number },
): Property<string, B, N> => declared('text', '', said);

/** A colour as CSS writes one. */
export const colour = <B extends boolean = false, N extends boolean = false>(
  said: Said<B, N> & { default?: string },
): Property<string, B, N> => declared('colour', said.default ?? '', said);

/** Yes or no. */
export const flag = <B extends boolean = false, N extends boolean = false>(
  said: Said<B, N> & { default: boolean },
): Property<boolean, B, N> => declared('flag', said.default, said);

/** One of a few words; the first of them where nothing is said. */
export const choice = <T extends string, B extends boolean = false, N extends boolean = false>(
  said: Said<B, N> & { choices: readonly T[]; words?: Readonly<Record<T, string>> },
): Property<T, B, N> => ({ ...declared<T, B, N>('choice', said.choices[0]!, said), choices: said.choices });

/** A clock of the board: it is always a Value. */
export const clock = <N extends boolean = false>(
  said: Omit<Said<true, N>, 'bound'>,
): Property<never, true, N> => declared<never, true, N>('clock', null, { ...said, bound: true });

/** A path into the media library, or the address of what it serves; blank for none. */
export const picture = <N extends boolean = false>(
  said: Omit<Said<true, N>, 'bound'>,
): Property<string, true, N> => declared('picture', '', { ...said, bound: true });

type Held<P> = P extends Property<infer T, infer B, boolean> ? (B extends true ? Bound<T> : T) : never;

/** What a layer holds under declarations: what is needed, and what may be left out. */
export type PropertyValues<D> = {
  [
    K in keyof D as D[K] extends Property<never, boolean, true> | Property<Scalar, boolean, true> ? K : never
  ]: Held<D[K]>;
} & {
  [
    K in keyof D as D[K] extends Property<never, boolean, true> | Property<Scalar, boolean, true> ? never : K
  ]?: Held<D[K]>;
};

/** True for a Value, where a property may hold its content itself too. */
export const isValue = (held: unknown): held is Value => typeof held === 'object' && held !== null;

/**
 * True where a property means something: nothing else has to be said before it, or that is.
 * @param held what another property holds, its first content where nothing is said
 */
export function means({ needs }: Pick<Property, 'needs'>, held: (prop: string) => unknown): boolean {
  if (!needs) return true;
  const other = held(needs.prop);
  if (isValue(other)) return true;
  return needs.is
    ? needs.is.includes(other as Scalar)
    : other !== undefined && other !== null && other !== '' && other !== 0 && other !== false;
}

/** What a property's Value gave, as the property can hold it: a number within its bounds, yes or no, one of its words, a colour. */
export function coerced(
  { type, default: first, min, max, choices }: Property,
  given: FieldValue,
): FieldValue {
  switch (type) {
    case 'number': {
      const n =
        isClock(given) || typeof given === 'boolean' || given === null || given === '' ? NaN : Number(given);
      return Number.isFinite(n) ? Math.min(max ?? n, Math.max(min ?? n, n)) : first;
    }
    case 'flag':
      return isClock(given) || (given !== null && given !== '' && given !== false && given !== 0);
    case 'choice':
      return (choices as readonly FieldValue[]).includes(given) ? given : first;
    case 'colour':
      return typeof given === 'string' && given !== '' && !isColour(given) ? first : given;
    default:
      return given;
  }
}
