import type { NewTable } from '../board/tables.ts';
import { Each, Strict } from '../document/check.ts';
import type { Parsed } from '../document/problems.ts';
import { Count, Form, Is, Key, Name } from '../document/rules.ts';
import { readDocument } from '../document/upgrade.ts';
import { isValue } from '../layers/property.ts';
import type { Value } from '../value/value.ts';

/** The one palette of the package, and the table of the board that its colours stand in. */
export const PALETTE = 'palette';
const COLUMN = 'colour';

/** A colour in six figures, or in eight where it lets something through. */
export const HEX = /^#[0-9a-f]{6}([0-9a-f]{2})?$/i;

@Strict
export class PaletteColour {
  @Key() key!: string;
  @Name() name!: string;
  @Form(HEX, 'must be a colour such as #2c5d8f', 9) colour!: string;
}

/** The named colours of the package: each is changed in one place, and with it all that shows it. */
@Strict
export class Palette {
  @Is(1) schema!: 1;
  @Key() key!: string;
  @Count(0, 100, 'a palette has at most 100 colours') @Each(() => PaletteColour) colours!: PaletteColour[];
}

/** Reads a palette; refuses one with two colours of one key. */
export function parsePalette(input: unknown): Parsed<Palette> {
  return readDocument(Palette, [], input, ({ colours }) =>
    colours
      .filter((c, i) => colours.findIndex((other) => other.key === c.key) !== i)
      .map((c) => `colours: two have the key "${c.key}"`),
  );
}

/** A palette as a table of the board: a layer that shows a colour of it looks it up, and follows it. */
export const paletteTable = ({ colours }: Pick<Palette, 'colours'>): NewTable => ({
  key: PALETTE,
  name: 'Palette',
  columns: ['name', COLUMN],
  rows: colours.map(({ key, name, colour }) => [key, { name, [COLUMN]: colour }]),
});

/** The Value that a colour of the palette is. */
export const fromPalette = (key: string): Value => ({
  lookup: { table: PALETTE, column: COLUMN, key: { fixed: key } },
});

/** The key of the palette's colour that a property holds; null where it holds anything else. */
export function paletteKeyOf(held: unknown): string | null {
  if (!isValue(held) || !('lookup' in held) || held.lookup.table !== PALETTE) return null;
  const { lookup } = held;
  return 'key' in lookup && 'fixed' in lookup.key ? String(lookup.key.fixed) : null;
}
