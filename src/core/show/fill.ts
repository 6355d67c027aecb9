import type { Scalar } from '../board/values.ts';
import { yesOrNo } from '../board/yes.ts';
import type { InputDef, Template } from '../documents/template.ts';
import { freshKey } from '../text/keys.ts';
import { defaultInputs } from '../workshop/inputs.ts';
import { freeNumber, MOST_NUMBER, newItem, type Item, type Place } from './item.ts';
import { refuseInput } from './show.ts';

/** What of an item a row fills: its name, number or note, or an input, by its key. */
export type Target = 'name' | 'number' | 'note' | `input ${string}`;

/** Where a target's content comes from: a column of the rows, counted from 0, or the same text for all. */
export type From = { column: number } | { text: string };

/** What to do with a row for which there is an item of the same template and name already. */
export type WhenPresent = 'leave' | 'change' | 'again';

export interface Fill {
  rows: readonly (readonly string[])[];
  from: ReadonlyMap<Target, From>;
  template: Pick<Template, 'key' | 'name' | 'inputs'>;
  zones: readonly Place[];
  /** All items that there are. */
  items: readonly Item[];
  there: WhenPresent;
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
    const column = headings.findIndex((h, i) => !taken.has(i) && names.some((n) => plain(n) === plain(h)));
    if (column < 0) return;
    taken.add(column);
    found.set(target, { column });
  };
  for (const { key, label } of template.inputs) take(`input ${key}`, [label, key]);
  // The number of a player is none of an item: two teams have the same.
  take('number', ['item number', 'item no', 'item']);
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
  if (def.kind === 'number') return Number(text.replace(',', '.'));
  if (def.kind !== 'choice' || def.rows) return text;
  return (
    def.choices?.find((c) => [c.value, c.label].some((said) => plain(said) === plain(text)))?.value ?? text
  );
}

/**
 * What becomes of items when rows fill a template: a new item for each, or a change of the one of the same name. Nothing is changed
 * by it; what a row cannot fill is refused with a sentence and the others go on.
 */
export function planFill({ rows, from, template, zones, items, there }: Fill): {
  items: Item[];
  rows: Filled[];
} {
  const known = new Map(items.map((i) => [i.key, i]));
  const made = new Map<string, Item>();
  const said: Filled[] = [];
  for (const [i, cells] of rows.entries()) {
    const textOf = (target: Target) => {
      const at = from.get(target);
      return at === undefined ? null : 'text' in at ? at.text : (cells[at.column] ?? '').trim();
    };
    const name = (textOf('name') ?? '').slice(0, 80);
    if (cells.every((c) => c.trim() === '')) continue;
    const refuse = (says: string) => void said.push({ kind: 'refused', name: name || `Row ${i + 1}`, says });
    if (name === '') {
      refuse('It has no name.');
      continue;
    }
    const same = [...known.values()].find((i) => i.template === template.key && i.name === name);
    if (same && made.has(same.key) && there !== 'again') {
      refuse('A row before it has the same name.');
      continue;
    }
    if (same && there === 'leave') {
      said.push({ kind: 'left', name, says: '' });
      continue;
    }
    const was = there === 'change' ? same : undefined;
    const inputs = { ...(was?.inputs ?? defaultInputs(template)) };
    let wrong: string | null = null;
    for (const def of template.inputs) {
      const text = textOf(`input ${def.key}`);
      if (text === null) continue;
      const value = parseInput(def, text);
      wrong ??= refuseInput(def, def.key, value);
      inputs[def.key] = value;
    }
    const number = Number(textOf('number') || NaN);
    const asked = Number.isNaN(number) ? null : number;
    if (asked !== null && (!Number.isInteger(asked) || asked < 1 || asked > MOST_NUMBER))
      wrong ??= `${textOf('number')} is no number of an item.`;
    const other = asked !== null && [...known.values()].find((i) => i.number === asked && i !== was);
    if (other) wrong ??= `${other.name} has the number ${asked} already.`;
    if (wrong !== null) {
      refuse(wrong);
      continue;
    }
    const note = textOf('note');
    const is: Item = {
      ...(was ??
        newItem({
          key: freshKey(name, (k) => known.has(k), 'item'),
          number: 0,
          name,
          template: template.key,
          zones: [...zones],
        })),
      inputs,
      number: asked ?? was?.number ?? freeNumber(known.values()),
      ...(note === null ? {} : { note: note.slice(0, 2000) }),
    };
    const differ = was ? differences(template, was, is) : [];
    said.push(
      was
        ? { kind: differ.length ? 'changed' : 'same', name, says: differ.join(', ') }
        : { kind: 'new', name, says: '' },
    );
    if (was && differ.length === 0) continue;
    known.set(is.key, is);
    made.set(is.key, is);
  }
  return { items: [...made.values()], rows: said };
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
    ...(was.note === is.note ? [] : [`Note: ${shown(was.note)} → ${shown(is.note)}`]),
  ];
}
