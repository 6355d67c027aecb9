import { yesOrNo } from '../../core/board/yes.ts';
import type { Row } from '../../core/board/tables.ts';
import { isClock, type FieldValue, type Scalar } from '../../core/board/values.ts';
import type { FieldDef } from '../../core/sport/profile.ts';
import { parseTyped } from '../../core/sport/typed.ts';
import type { DeskTable } from '../../core/wire/wire.ts';
import type { Scope } from '../../core/value/value.ts';

/** What a Value may ask for where it is edited, and what it says there now. */
export interface ValueContext {
  defs: readonly FieldDef[];
  tables: readonly DeskTable[];
  /** Where it is worked out for each row of a table: that table's columns, which stand for fields. */
  columns?: readonly string[];
  /** Inputs that are there, with what they hold now; a conversion has one, its reading. */
  inputs: Readonly<Record<string, Scalar>>;
  /** What people call the inputs, where that is something else. */
  inputNames?: ReadonlyMap<string, string>;
  scope: Scope;
  /** The field that it feeds: what that makes of it is the result. */
  feeds?: FieldDef | undefined;
  /** What holds now, in words. */
  now: string;
  /** Its inputs as they stood when a sample was captured, as they would be typed. */
  captured?: Readonly<Record<string, string>> | undefined;
}

/** A plain value as it is typed where nothing says of which kind it is: numbers and yes or no are what they say. */
export const plainTyped = (text: string): Scalar =>
  /^(yes|no)$/i.test(text)
    ? yesOrNo(text)
    : text !== '' && String(Number(text)) === text
      ? Number(text)
      : text;

/** A scope in which these fields and inputs say what was typed for them; `problem` where one cannot be read so. */
export function sampleScope(
  { defs, scope }: Pick<ValueContext, 'defs' | 'scope'>,
  typed: Readonly<Record<string, string>>,
): { scope: Scope; problem: string | null } {
  const said = new Map<string, FieldValue>();
  let problem: string | null = null;
  for (const [key, text] of Object.entries(typed)) {
    const def = defs.find((d) => d.key === key);
    const read = def ? parseTyped(def, text, 0) : { value: plainTyped(text.trim()) };
    if ('value' in read) said.set(key, read.value === '' ? null : read.value);
    else problem ??= read.problem;
  }
  const plain = (key: string): Scalar => {
    const value = said.get(key) ?? null;
    return isClock(value) ? value.value : value;
  };
  return {
    problem,
    scope: {
      ...scope,
      field: (key) => (said.has(key) ? said.get(key)! : scope.field(key)),
      input: (key) => (said.has(key) ? plain(key) : scope.input(key)),
    },
  };
}

/** A scope in which every look-up in one table finds this row. */
export const rowScope = (scope: Scope, table: string, row: Row): Scope => ({
  ...scope,
  row: (t, key) => (t === table ? row : scope.row?.(t, key)),
  ranked: (t, rank) => (t === table ? row : scope.ranked?.(t, rank)),
});

/** A row as it is chosen from a list: its key, and the first of its cells that say more. */
export function rowInWords(key: string, row: Row): string {
  const said = key.toLowerCase().split(' ');
  const more = Object.values(row).filter(
    (c) => c !== null && c !== '' && !said.includes(String(c).toLowerCase()),
  );
  return [key, ...more.slice(0, 3)].join(' · ');
}

/** The rows whose key or content has what was typed in it, whatever its case; those whose key begins so first. */
export function matching<R extends readonly [string, Row]>(rows: readonly R[], typed: string): R[] {
  const wanted = typed.trim().toLowerCase();
  const rank = ([key, row]: R) =>
    key.toLowerCase().startsWith(wanted) ? 0 : rowInWords(key, row).toLowerCase().includes(wanted) ? 1 : 2;
  const found: R[][] = [[], []];
  for (const row of rows) found[rank(row)]?.push(row);
  return found.flat();
}

/**
 * Field keys that complete what is being typed before the caret, likeliest first, and where that begins. `names` has for each
 * key what people call it.
 */
export function completions(
  text: string,
  caret: number,
  names: ReadonlyMap<string, string>,
): { from: number; found: string[] } {
  const word = /[A-Za-z_][\w.]*(?:-[\w.]+)*$/.exec(text.slice(0, caret))?.[0] ?? '';
  const from = caret - word.length;
  if (word === '') return { from, found: [] };
  const low = word.toLowerCase();
  const others = [...names].filter(([key]) => key !== word);
  const begins = others.filter(([key]) => key.toLowerCase().startsWith(low));
  const within = others.filter(
    (n) => !begins.includes(n) && n.some((said) => said.toLowerCase().includes(low)),
  );
  return { from, found: [...begins, ...within].map(([key]) => key) };
}

/** A case's condition as it is written: `H, A`, `3 to 5`, `from 5`, `to 3`, `blank`. */
export function writeCondition({
  is,
  min,
  max,
  blank,
}: {
  is?: Scalar[];
  min?: number;
  max?: number;
  blank?: boolean;
}): string {
  if (blank !== undefined) return blank ? 'blank' : 'not blank';
  if (min !== undefined && max !== undefined) return `${min} to ${max}`;
  if (min !== undefined) return `from ${min}`;
  if (max !== undefined) return `to ${max}`;
  return (is ?? []).map((s) => (s === true ? 'yes' : s === false ? 'no' : String(s ?? ''))).join(', ');
}

/** Reads a case's condition; numbers and yes or no are what they say. */
export function readCondition(text: string): { is?: Scalar[]; min?: number; max?: number; blank?: boolean } {
  const t = text.trim();
  if (/^(not )?blank$/i.test(t)) return { blank: !/^not/i.test(t) };
  const range = /^(-?[\d.]+)\s+to\s+(-?[\d.]+)$/i.exec(t);
  if (range) return { min: Number(range[1]), max: Number(range[2]) };
  const from = /^from\s+(-?[\d.]+)$/i.exec(t);
  if (from) return { min: Number(from[1]) };
  const to = /^to\s+(-?[\d.]+)$/i.exec(t);
  if (to) return { max: Number(to[1]) };
  return { is: t.split(',').map((s) => plainTyped(s.trim())) };
}
