import type { Scalar } from '../board/values.ts';
import { yesOrNo } from '../board/yes.ts';
import type { InputDef, Template } from '../documents/template.ts';
import { freshKey } from '../text/keys.ts';
import { defaultInputs } from '../workshop/inputs.ts';
import { freeNumber, HOT_KEYS, LONGEST, MOST_NUMBER, newItem, type Item, type Place } from './item.ts';
import { refuseInput } from './show.ts';

/** What of an item a row fills: what every item has, or an input, by its key. */
export type Target =
  | 'name'
  | 'number'
  | 'template'
  | 'group'
  | 'length'
  | 'hotkey'
  | 'note'
  | `input ${string}`;

/** Where a target's content comes from: a column of the rows, counted from 0, or the same text for all. */
export type From = { column: number } | { text: string };

/** What to do with a row for which there is an item of the same template and name already. */
export type WhenPresent = 'leave' | 'change' | 'again';

export interface Fill {
  rows: readonly (readonly string[])[];
  from: ReadonlyMap<Target, From>;
  /** The template of a row that names none. */
  template: FilledTemplate;
  zones: readonly Place[];
  /** All items that there are. */
  items: readonly Item[];
  there: WhenPresent;
  /** What the columns are called: by them a row is read that is of another template. */
  headings?: readonly string[];
  /** The templates that a row may name, and where an item of each goes. */
  templates?: readonly FilledTemplate[];
  zonesOf?: (template: string) => readonly Place[];
  /** The names of what has a key of the live view beside items. */
  keys?: ReadonlyMap<string, string>;
}
type FilledTemplate = Pick<Template, 'key' | 'name' | 'inputs'>;

/** What becomes of all rows. */
export interface FillPlan {
  items: Item[];
  rows: Filled[];
  /** The group that a row names, by the key of its item. */
  groups: ReadonlyMap<string, string>;
}

/** What becomes of one row. */
export interface Filled {
  kind: 'new' | 'changed' | 'same' | 'left' | 'refused';
  name: string;
  /** For a change what differs, before → after; for a refusal, why. */
  says: string;
}

/** The targets that a template's rows can fill. */
export const targetsOf = ({ inputs }: Pick<Template, 'inputs'>): { target: Target; label: string }[] => [
  { target: 'name', label: 'Name of the item' },
  { target: 'number', label: 'Number of the item' },
  { target: 'template', label: 'Template by row' },
  { target: 'group', label: 'Group by row' },
  { target: 'length', label: 'Length' },
  { target: 'hotkey', label: 'Key' },
  ...inputs.map((d) => ({ target: `input ${d.key}` as const, label: d.label })),
  { target: 'note', label: 'Note' },
];

const plain = (text: string) =>
  text
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

/** Which heading fills which target, by what both are called; each heading fills an input before it fills what all items have. */
export function matchTargets(
  headings: readonly string[],
  template: Pick<Template, 'inputs'>,
): Map<Target, From> {
  const found = new Map<Target, From>();
  const taken = new Set<number>();
  const take = (target: Target, names: readonly string[]) => {
    // What people read comes before what it is called within.
    const columns = names.map((n) => headings.findIndex((h, i) => !taken.has(i) && plain(n) === plain(h)));
    const column = columns.find((at) => at >= 0);
    if (column === undefined) return;
    taken.add(column);
    found.set(target, { column });
  };
  for (const { key, label } of template.inputs) take(`input ${key}`, [label, key]);
  // The number of a player is none of an item: two teams have the same.
  take('number', ['item number', 'item no', 'item', 'no', 'nr']);
  take('template', ['template']);
  take('group', ['group', 'part']);
  take('length', ['length', 'seconds', 'duration']);
  take('hotkey', ['hotkey', 'hot key', 'shortcut', 'key']);
  take('note', ['note', 'notes', 'remark']);
  take('name', ['name', 'title', 'item name']);
  // What an item is called when nothing says so: what its first text says.
  const first = template.inputs.find((d) => d.kind === 'text' && found.has(`input ${d.key}`));
  if (!found.has('name')) found.set('name', (first && found.get(`input ${first.key}`)) ?? { column: 0 });
  return found;
}

/** A cell's text as an input holds it; the text itself where it is nothing of its kind, which is refused then. */
function parseInput(def: InputDef, text: string): Scalar {
  if (text === '') return null;
  if (def.kind === 'switch') return yesOrNo(text) ?? text;
  if (def.kind === 'number') {
    const number = Number(text.replace(',', '.'));
    return Number.isFinite(number) ? number : text;
  }
  if (def.kind !== 'choice' || def.rows) return text;
  return (
    def.choices?.find((c) => [c.value, c.label].some((said) => plain(said) === plain(text)))?.value ?? text
  );
}

/** A length as it is typed, in s: `8`, `8 s`, `1:30`; null for what is none. */
function secondsIn(text: string): number | null {
  const [, minutes, seconds] = /^(\d{1,3}):([0-5]\d)$/.exec(text) ?? [];
  if (minutes !== undefined) return Number(minutes) * 60 + Number(seconds);
  const plainly = /^(\d+(?:[.,]\d+)?)\s*s?$/i.exec(text)?.[1];
  return plainly === undefined ? null : Number(plainly.replace(',', '.'));
}

/** A row's cell that cannot be used, in a sentence. */
class Unusable extends Error {}
const refuse = (says: string): never => {
  throw new Unusable(says);
};

/** A row as it is read: what its cells say of each target; null where nothing is said of one. */
type TextOf = (target: Target) => string | null;

/** What rows say that is read alike for every template. */
class Reader {
  private readonly matched = new Map<string, ReadonlyMap<Target, From>>();

  constructor(private readonly fill: Fill) {}

  /** The template that a row is of. */
  template(cells: readonly string[]): FilledTemplate {
    const named = this.textOf(cells, this.fill.from)('template');
    if (!named) return this.fill.template;
    const wanted = plain(named);
    return (
      this.fill.templates?.find((t) => plain(t.name) === wanted || plain(t.key) === wanted) ??
      refuse(`There is no template “${named}”.`)
    );
  }

  /** What a row says by the columns of its template. */
  row(cells: readonly string[], template: FilledTemplate): TextOf {
    return this.textOf(cells, template === this.fill.template ? this.fill.from : this.fromFor(template));
  }

  private fromFor(template: FilledTemplate): ReadonlyMap<Target, From> {
    const known = this.matched.get(template.key);
    if (known) return known;
    // What all items have was said for all; inputs are found by what they are called.
    const common = [...this.fill.from].filter(([target]) => !target.startsWith('input '));
    const own = [...matchTargets(this.fill.headings ?? [], template)].filter(([t]) => t.startsWith('input '));
    const from = new Map([...common, ...own]);
    this.matched.set(template.key, from);
    return from;
  }

  private textOf =
    (cells: readonly string[], from: ReadonlyMap<Target, From>): TextOf =>
    (target) => {
      const at = from.get(target);
      return at === undefined ? null : 'text' in at ? at.text.trim() : (cells[at.column] ?? '').trim();
    };
}

/** The number that a row asks for; null for none. */
function numberAsked(textOf: TextOf, others: Iterable<Item>): number | null {
  const text = textOf('number') ?? '';
  if (text === '') return null;
  const number = Number(text);
  if (!Number.isInteger(number) || number < 1 || number > MOST_NUMBER)
    refuse(`${text} is no number of an item.`);
  for (const other of others)
    if (other.number === number) refuse(`${other.name} has the number ${number} already.`);
  return number;
}

/** The length that a row says, in s; undefined where nothing is said of it. */
function lengthAsked(textOf: TextOf): number | null | undefined {
  const text = textOf('length');
  if (text === null) return undefined;
  if (text === '') return null;
  const seconds = secondsIn(text);
  if (seconds === null || seconds < 0.5 || seconds > LONGEST)
    return refuse(`${text} is no length; write seconds, such as 8 or 1:30.`);
  return seconds;
}

/** The key that a row says; undefined where nothing is said of it. */
function hotkeyAsked(textOf: TextOf, others: Iterable<Item>, keys: Fill['keys']): string | undefined {
  const text = textOf('hotkey');
  if (text === null || text === '') return text ?? undefined;
  const key =
    HOT_KEYS.find((k) => k.toLowerCase() === text.replace(/\s/g, '').toLowerCase()) ??
    refuse(`${text} is no key of an item; there are F2, F4, F6 to F10, and Shift+A to Shift+Z.`);
  for (const other of others) if (other.hotkey === key) refuse(`${other.name} has the key ${key} already.`);
  const look = keys?.get(key);
  if (look !== undefined) refuse(`${look} has the key ${key} already.`);
  return key;
}

/**
 * What becomes of items when rows fill a template, each its own where it names one: a new item for each, or a change of the one of the
 * same name. Nothing is changed by it; what a row cannot fill is refused with a sentence and the others go on.
 */
export function planFill(fill: Fill): FillPlan {
  const { rows, items, there } = fill;
  const reader = new Reader(fill);
  const known = new Map(items.map((i) => [i.key, i]));
  const made = new Map<string, Item>();
  const groups = new Map<string, string>();
  const said: Filled[] = [];
  /** What becomes of one row; null where it changes nothing. */
  const planned = (cells: readonly string[]): Filled => {
    const template = reader.template(cells);
    const textOf = reader.row(cells, template);
    const name = (textOf('name') ?? '').slice(0, 80) || refuse('It has no name.');
    const same = [...known.values()].find((i) => i.template === template.key && i.name === name);
    if (same && made.has(same.key) && there !== 'again') refuse('A row before it has the same name.');
    if (same && there === 'leave') return { kind: 'left', name, says: '' };
    const was = there === 'change' ? same : undefined;
    const others = [...known.values()].filter((i) => i !== was);
    const inputs = { ...(was?.inputs ?? defaultInputs(template)) };
    for (const def of template.inputs) {
      const text = textOf(`input ${def.key}`);
      if (text === null) continue;
      const value = parseInput(def, text);
      const wrong = refuseInput(def, def.key, value);
      if (wrong !== null) refuse(wrong);
      inputs[def.key] = value;
    }
    const number = numberAsked(textOf, others);
    const length = lengthAsked(textOf);
    const hotkey = hotkeyAsked(textOf, others, fill.keys);
    const note = textOf('note');
    const zones = template === fill.template ? fill.zones : (fill.zonesOf?.(template.key) ?? []);
    const is: Item = {
      ...(was ??
        newItem({
          ...{ key: freshKey(name, (k) => known.has(k), 'item'), number: 0, name },
          ...{ template: template.key, zones: [...zones] },
        })),
      inputs,
      number: number ?? was?.number ?? freeNumber(known.values()),
      ...(length === undefined ? {} : { length }),
      ...(hotkey === undefined ? {} : { hotkey }),
      ...(note === null ? {} : { note: note.slice(0, 2000) }),
    };
    const group = textOf('group') ?? '';
    if (group !== '') groups.set(is.key, group.slice(0, 80));
    const differ = was ? differences(template, was, is) : [];
    if (was && differ.length === 0) return { kind: 'same', name, says: '' };
    known.set(is.key, is);
    made.set(is.key, is);
    return { kind: was ? 'changed' : 'new', name, says: differ.join(', ') };
  };
  for (const [i, cells] of rows.entries()) {
    if (cells.every((c) => c.trim() === '')) continue;
    try {
      said.push(planned(cells));
    } catch (error) {
      if (!(error instanceof Unusable)) throw error;
      const name = reader.row(cells, fill.template)('name');
      said.push({ kind: 'refused', name: name?.slice(0, 80) || `Row ${i + 1}`, says: error.message });
    }
  }
  return { items: [...made.values()], rows: said, groups };
}

function differences({ inputs }: Pick<Template, 'inputs'>, was: Item, is: Item): string[] {
  const shown = (value: unknown) =>
    value === null || value === undefined || value === '' ? 'blank' : String(value);
  return [
    ...(was.number === is.number ? [] : [`Number: ${was.number} → ${is.number}`]),
    ...inputs.flatMap(({ key, label }) =>
      (was.inputs[key] ?? null) === (is.inputs[key] ?? null)
        ? []
        : [`${label}: ${shown(was.inputs[key])} → ${shown(is.inputs[key])}`],
    ),
    ...(was.length === is.length ? [] : [`Length: ${shown(was.length)} → ${shown(is.length)}`]),
    ...(was.hotkey === is.hotkey ? [] : [`Key: ${shown(was.hotkey)} → ${shown(is.hotkey)}`]),
    ...(was.note === is.note ? [] : [`Note: ${shown(was.note)} → ${shown(is.note)}`]),
  ];
}
