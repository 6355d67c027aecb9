import { Choice, byWord, Each, One, Strict, type DocumentClass } from '../document/check.ts';
import { Form, Is, Maybe, Must, Name, OneOf, Text, Whole } from '../document/rules.ts';
import { VALUE } from '../value/value.ts';
import { KINDS, propertiesOf, type Layer, type LayerKind, type Moment } from './kinds.ts';
import type { Property } from './property.ts';

const MOVES = ['cut', 'fade', 'slide', 'wipe', 'roll', 'pulse'] as const;
const SIDES = ['left', 'right', 'top', 'bottom'] as const;

@Strict
class MomentDoc implements Moment {
  @OneOf(...MOVES) kind!: (typeof MOVES)[number];
  @Whole(0, 20_000) ms!: number;
  @Maybe() @Whole(0, 20_000) delay?: number;
  @Maybe() @OneOf(...SIDES) from?: (typeof SIDES)[number];
}
@Strict
class Moments {
  @Maybe() @One(() => MomentDoc) enter?: MomentDoc;
  @Maybe() @One(() => MomentDoc) exit?: MomentDoc;
  @Maybe() @One(() => MomentDoc) change?: MomentDoc;
  @Maybe() @One(() => MomentDoc) idle?: MomentDoc;
}

/** Whether a property can hold this content, and what it must be otherwise. */
function contentOf({ type, min, max, whole, choices, most = type === 'text' ? 2000 : 300 }: Property): {
  holds: (v: unknown) => boolean;
  message: string;
} {
  switch (type) {
    case 'number':
      return {
        holds: (v) =>
          Number.isFinite(v) &&
          (v as number) >= (min ?? -Infinity) &&
          (v as number) <= (max ?? Infinity) &&
          (!whole || Number.isInteger(v)),
        message: `must be a ${whole ? 'whole ' : ''}number from ${min} to ${max}`,
      };
    case 'flag':
      return { holds: (v) => typeof v === 'boolean', message: 'must be true or false' };
    case 'choice':
      return {
        holds: (v) => choices!.includes(v as never),
        message: `must be one of ${choices!.join(', ')}`,
      };
    case 'clock':
      return { holds: () => false, message: 'must be a value' };
    default:
      return {
        holds: (v) => typeof v === 'string' && v.length <= most,
        message: `must be a text of at most ${most} characters`,
      };
  }
}

/** The class that reads layers of a kind, made of what the kind declares. */
function classOf(kind: LayerKind): DocumentClass {
  class Read {}
  const rule = (name: string, ...rules: ((target: object, name: string) => void)[]) =>
    rules.forEach((r) => r(Read.prototype, name));
  rule('id', Form(/^[A-Za-z0-9_-]{1,80}$/, 'must be 1 to 80 letters, digits, _ or -'));
  rule('kind', Is(kind));
  rule('name', Name());
  rule('member', Maybe(), Text(0, 200));
  rule(
    'moments',
    Maybe(),
    One(() => Moments),
  );
  for (const [name, property] of propertiesOf(kind)) {
    const { holds, message } = contentOf(property);
    if (!property.needed) rule(name, Maybe());
    if (!property.bound) rule(name, Must('property', holds, message));
    else {
      const held = new Choice(
        VALUE.of,
        property.type === 'clock' ? message : `${message}, or a value`,
        holds,
      );
      rule(
        name,
        One(() => held),
      );
    }
  }
  if ('holds' in KINDS[kind])
    rule(
      'layers',
      Each(() => LAYER),
    );
  Strict(Read);
  return Read;
}

/** Reads a layer, with those that it holds. */
export const LAYER: Choice<Layer> = byWord<Layer>(
  'kind',
  Object.fromEntries(Object.keys(KINDS).map((kind) => [kind, classOf(kind as LayerKind)])) as Record<
    string,
    DocumentClass<Layer>
  >,
);
