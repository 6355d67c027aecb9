import { own } from '../board/own.ts';
import type { FieldValue, Scalar } from '../board/values.ts';
import { paletteKeyOf } from '../documents/palette.ts';
import type { InputDef } from '../documents/template.ts';
import {
  bindingsOf,
  layersOf,
  propertiesOf,
  type Binding,
  type Layer,
  type LayerKind,
  type Layout,
} from '../layers/kinds.ts';
import type { Property, Section } from '../layers/property.ts';
import type { BoardReader } from '../resolve/dependents.ts';
import type { FieldDef } from '../sport/profile.ts';
import type { Value } from '../value/value.ts';
import { inputWith, scopeWith, takesNames, type FitRecord } from './fit-check.ts';

/** A content that a field of a kind may have, as full as it gets in play. */
export function sampleOf(def: FieldDef): FieldValue {
  switch (def.kind) {
    case 'clock': {
      // Nearly the longest that it shows, with no two figures alike to read.
      const value = def.max > 754_000 ? 754_000 : Math.round(def.max * 0.8);
      return { value, running: false, direction: def.direction, anchor: 0, until: 0 };
    }
    case 'integer':
      return Math.max(def.min, Math.min(def.max, 88));
    case 'flag':
      return true;
    case 'choice':
      return def.choices.reduce((a, b) => (b.length > a.length ? b : a), '');
    case 'colour':
      return def.group === 'away' ? '#b3402e' : '#2c5d8f';
    // What is worked out says nothing yet where no game began.
    case 'text':
    case 'derived':
      return def.label;
    default:
      return null;
  }
}

/** A board on which every field says its sample; names, pictures and what is worked out stay as they are where they say something. */
export function sampleBoard(board: BoardReader, def: (key: string) => FieldDef | undefined): BoardReader {
  return {
    ...readerOf(board),
    read(key) {
      const field = def(key);
      const said = board.read(key);
      const kept = !field || ['text', 'picture', 'derived', 'colour'].includes(field.kind);
      return kept && said !== null && said !== '' ? said : field ? sampleOf(field) : said;
    },
  };
}

/** A board that says a record where it says something of it: a team for both sides, a player, a row of a table. */
export function recordBoard(board: BoardReader, record: FitRecord): BoardReader {
  const scope = scopeWith(record, { field: board.read.bind(board), ...readerOf(board) }, NOTHING_TYPED);
  return { read: scope.field, row: scope.row!, ranked: scope.ranked! };
}

const NOTHING_TYPED = { inputs: {}, typed: new Map<string, number>() };

const readerOf = (board: BoardReader): Pick<BoardReader, 'row' | 'ranked'> => ({
  row: (table, key) => board.row(table, key),
  ranked: (table, rank) => board.ranked(table, rank),
});

/** What inputs hold while a record is shown: its name goes where names are typed. */
export function recordInputs(
  inputs: readonly InputDef[],
  held: Readonly<Record<string, Scalar>>,
  record: FitRecord,
): Record<string, Scalar> {
  return Object.fromEntries(
    inputs.map((def) => {
      const now = own(held, def.key) ?? null;
      if (def.kind !== 'text') return [def.key, now];
      return [def.key, inputWith(record, takesNames(def) ? (def.maxLength ?? 2000) : 0, now)];
    }),
  );
}

/**
 * A layout that says what it was drawn with: each bound text its own text, or what it is bound to where it was given none.
 * @param words what a Value is called
 */
export function designed(layout: Layout, words: (value: Value) => string): Layout {
  const copy = structuredClone(layout);
  for (const layer of layersOf(copy.layers))
    for (const { prop, property, value } of bindingsOf(layer)) {
      if (property.type !== 'text' || 'fixed' in value) continue;
      const drawn = prop === 'text' && layer.kind === 'text' ? layer.sample : '';
      (layer as unknown as Record<string, unknown>)[prop] = drawn || words(value);
    }
  return copy;
}

/** The shortest and the longest that a Value can say, where what it asks for has bounds of its own; null where it has none. */
export function boundsOf(
  value: Value,
  def: (key: string) => FieldDef | undefined,
  inputs: readonly InputDef[],
): { shortest: string; longest: string } | null {
  const range = (texts: readonly string[]) =>
    texts.length === 0
      ? null
      : {
          shortest: texts.reduce((a, b) => (b.length < a.length ? b : a)),
          longest: texts.reduce((a, b) => (b.length > a.length ? b : a)),
        };
  if ('field' in value) {
    const field = def(value.field);
    if (field?.kind === 'integer') return { shortest: String(field.min), longest: String(field.max) };
    if (field?.kind === 'choice') return range(field.choices);
    return null;
  }
  if ('input' in value) {
    const input = inputs.find((i) => i.key === value.input);
    if (input?.kind === 'choice') return range((input.choices ?? []).map((c) => c.label));
    if (input?.kind === 'number' && input.min !== undefined && input.max !== undefined)
      return { shortest: String(input.min), longest: String(input.max) };
    if (input?.kind === 'text') return { shortest: '', longest: `${input.maxLength ?? 200} letters` };
  }
  return null;
}

/** What of a layer may say something else in another moment: bound or handed over. A colour of the palette is the design's own. */
export const changingOf = (layer: Layer): Binding[] =>
  bindingsOf(layer).filter(({ value }) => !('fixed' in value) && paletteKeyOf(value) === null);

/** The layers of a layout of which something changes, as they are drawn. */
export const changingIn = ({ layers }: Pick<Layout, 'layers'>): { layer: Layer; bindings: Binding[] }[] =>
  [...layersOf(layers)].flatMap((layer) => {
    const bindings = changingOf(layer);
    return bindings.length ? [{ layer, bindings }] : [];
  });

/** What can be put onto a layer: a field of some kind, or a cell of a table's row. */
export type DroppedKind = FieldDef['kind'] | 'cell';

/** What an input of each kind is put onto a layer as. */
export const INPUT_AS: Record<InputDef['kind'], DroppedKind> = {
  text: 'text',
  choice: 'choice',
  switch: 'flag',
  number: 'integer',
  colour: 'colour',
  picture: 'picture',
};

/** What each type of property can be given. */
const TAKES: Record<Property['type'], readonly DroppedKind[]> = {
  text: ['text', 'choice', 'integer', 'clock', 'derived', 'cell'],
  choice: ['text', 'choice', 'derived', 'cell'],
  number: ['integer', 'derived', 'cell'],
  colour: ['colour', 'derived', 'cell'],
  flag: ['flag', 'derived', 'cell'],
  clock: ['clock'],
  picture: ['picture', 'text', 'derived', 'cell'],
};

/** True where a property may be bound to what is put there. */
export const takes = (property: Property, what: DroppedKind): boolean =>
  property.bound && TAKES[property.type].includes(what);

/** The headings under which what is put onto a layer as a whole belongs, the likeliest first. */
const LIKELY: readonly Section[] = ['content', 'order', 'type', 'look', 'showing'];

/** The property that what is put onto a layer of a kind belongs in; null where it has none. */
export function propertyFor(kind: LayerKind, what: DroppedKind): string | null {
  const found = propertiesOf(kind)
    .filter(([, p]) => takes(p, what) && LIKELY.includes(p.section) && p.type !== 'choice')
    // A number says how much of something there is; how it looks is for the property itself.
    .filter(([, p]) => p.type !== 'number' || p.section === 'content')
    .sort(([, a], [, b]) => LIKELY.indexOf(a.section) - LIKELY.indexOf(b.section));
  return found[0]?.[0] ?? null;
}

/** Binds a property of a layer, or sets it where the Value is always the same. What a text was drawn with is what it says while it is designed. Changes the layer. */
export function bindTo(layer: Layer, prop: string, value: Value): void {
  if (layer.kind === 'text' && prop === 'text' && typeof layer.text === 'string' && layer.text !== '')
    layer.sample = layer.text;
  (layer as unknown as Record<string, unknown>)[prop] = 'fixed' in value ? value.fixed : value;
}
