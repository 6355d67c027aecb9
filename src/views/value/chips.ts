import { columnName } from '../../core/derive/table.ts';
import { ordinal, type Format } from '../../core/value/format.ts';
import type { Value } from '../../core/value/value.ts';
import type { ValueContext } from './context.ts';

/** What can be put into a line: what people read and search, and the Value that it is. */
export interface Offer {
  name: string;
  /** What it is: `field`, `input`. */
  kind: string;
  value: Value;
}

/** Which row a look-up finds, in words: `2nd`, or what gives its key. */
function rowIn(value: Value, context: ValueContext): string {
  if (!('fixed' in value)) return chipWords(value, context);
  const n = Number(value.fixed);
  return Number.isInteger(n) && n > 0 ? ordinal(n) : String(value.fixed);
}

/** What is done to a Value on its way out, in a few words; none where nothing is. */
function formatWords(format: Format | undefined): string {
  if (format === undefined) return '';
  if (typeof format === 'string')
    return ` ${{ ordinal: 'as 1st', signed: 'as +3', percent: 'in %', average: 'as .317', clock: 'as 1:23', upper: 'in capitals', lower: 'in small letters', initials: 'initials', not: 'not' }[format as string] ?? format}`;
  if ('plural' in format) return ` as “1 ${format.plural[0]}”`;
  if ('pad' in format) return ` as ${'7'.padStart(format.pad, '0')}`;
  if ('decimals' in format) return ` with ${format.decimals} decimals`;
  if ('ink' in format) return ', legible on it';
  return ` as ${Object.keys(format)[0]!}`;
}

/** A Value as a chip says it: what it is called, and what is done to it. */
export function chipWords(value: Value, context: ValueContext): string {
  const format = formatWords('format' in value ? value.format : undefined);
  if ('fixed' in value)
    return value.fixed === true ? 'yes' : value.fixed === false ? 'no' : String(value.fixed ?? 'blank');
  if ('field' in value)
    return (context.defs.find((d) => d.key === value.field)?.label ?? value.field) + format;
  if ('input' in value) return (context.inputNames?.get(value.input) ?? value.input) + format;
  if ('lookup' in value) {
    const { lookup } = value;
    const table = context.tables.find((t) => t.key === lookup.table)?.name ?? lookup.table;
    const row = rowIn('key' in lookup ? lookup.key : lookup.rank, context);
    return `${lookup.column} of ${row} in ${table}${format}`;
  }
  if ('formula' in value)
    return `= ${value.formula.length > 28 ? `${value.formula.slice(0, 27)}…` : value.formula}${format}`;
  // What is chosen by a choice is chosen by what that is chosen by.
  if ('choose' in value) return `by ${chipWords(value.choose, context).replace(/^by /, '')}${format}`;
  // Chips that follow each other are told apart; text is as it stands.
  const gap = (i: number) =>
    i > 0 && !('fixed' in value.pieces[i]!) && !('fixed' in value.pieces[i - 1]!) ? ' + ' : '';
  return value.pieces.map((p, i) => gap(i) + chipWords(p, context)).join('') + format;
}

/** Everything that can be put into a line here. */
export function offersIn(context: ValueContext): Offer[] {
  const { defs, tables, inputs, columns = [], inputNames } = context;
  return [
    ...columns.map((c): Offer => ({ name: c, kind: 'column', value: { field: columnName(c) } })),
    ...Object.keys(inputs).map((key): Offer => ({
      name: inputNames?.get(key) ?? key,
      kind: 'input',
      value: { input: key },
    })),
    ...defs.map((d): Offer => {
      const value: Value = { field: d.key };
      return { name: chipWords(value, context), kind: 'field', value };
    }),
    ...tables.flatMap((t) =>
      t.columns.map((column): Offer => ({
        name: `${column} in ${t.name}`,
        kind: 'look-up',
        value: { lookup: { table: t.key, column, rank: { fixed: 1 } } },
      })),
    ),
    {
      name: 'when … then …',
      kind: 'cases',
      value: { choose: { fixed: '' }, cases: [{ is: [''], then: { fixed: '' } }] },
    },
    { name: 'formula', kind: 'formula', value: { formula: '1' } },
    { name: 'yes', kind: 'yes or no', value: { fixed: true } },
    { name: 'no', kind: 'yes or no', value: { fixed: false } },
  ];
}

/** The offers that have every word that was typed, in their name or kind; those whose name begins so first. */
export function offersFor(offers: readonly Offer[], typed: string): Offer[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const found = offers.filter(({ name, kind }) =>
    words.every((w) => name.toLowerCase().includes(w) || kind.includes(w)),
  );
  const begins = ({ name }: Offer) => (name.toLowerCase().startsWith(typed.trim().toLowerCase()) ? 0 : 1);
  return found.sort((a, b) => begins(a) - begins(b));
}
