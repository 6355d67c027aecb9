import { own } from '../board/own.ts';
import type { Scalar } from '../board/values.ts';
import type { Box } from '../text/fit.ts';
import type { InputDef } from '../documents/template.ts';

/** A template with its inputs filled in, under a name and a number, ready to take. */
export interface Item {
  id: string;
  number: number;
  name: string;
  template: string;
  zone: string;
  inputs: Record<string, Scalar>;
}

/** A named rectangle of an output, in px. */
export interface Zone extends Box {
  key: string;
  name: string;
}

/** A picture that goes out: its size in px and its zones. */
export interface Output {
  schema: 1;
  key: string;
  name: string;
  width: number;
  height: number;
  zones: Zone[];
}

/** What stands in a zone, with the inputs as they were taken. */
export interface OnAir {
  item: string;
  inputs: Record<string, Scalar>;
  /** Server ms. */
  takenAt: number;
}

/** The operator's handle on one zone: what is on, what is next. */
export interface Lane {
  zone: string;
  next: string | null;
  onAir: OnAir | null;
}

export interface Show {
  items: Map<string, Item>;
  lanes: Map<string, Lane>;
}

export type ShowAction =
  | { kind: 'take'; item: string }
  | { kind: 'clear'; zone: string }
  | { kind: 'next'; zone: string; item: string }
  | { kind: 'edit'; item: string; inputs: Record<string, Scalar> };

/** The rows that an accepted action writes; applied together or not at all. */
export interface ShowChange {
  item?: Item;
  lane?: Lane;
}

/** Raised with a sentence for the operator when an action cannot be done. */
export class Refusal extends Error {}

/**
 * What an action would change, given the show and each template's inputs. Changes nothing itself.
 * Throws a Refusal, with a sentence that says what to do, when the action cannot be done.
 */
export function decide(
  show: Show,
  action: ShowAction,
  inputsOf: (template: string) => InputDef[],
  now: number,
): ShowChange {
  if (action.kind === 'clear') {
    const lane = laneOf(show, action.zone);
    if (!lane.onAir) throw new Refusal('Nothing is on air there, so there is nothing to clear.');
    return { lane: { ...lane, onAir: null } };
  }
  const item = show.items.get(action.item);
  if (!item) throw new Refusal(`There is no item "${action.item}"; it may have been deleted.`);
  if (action.kind === 'next') {
    if (item.zone !== action.zone) throw new Refusal(`${item.name} belongs to another zone.`);
    return { lane: { ...laneOf(show, action.zone), next: item.id } };
  }
  const defs = inputsOf(item.template);
  if (action.kind === 'edit') {
    for (const [key, value] of Object.entries(action.inputs)) {
      const problem = refuseInput(
        defs.find((d) => d.key === key),
        key,
        value,
      );
      if (problem) throw new Refusal(problem);
    }
    return { item: { ...item, inputs: { ...item.inputs, ...action.inputs } } };
  }
  const missing = missingInputs(defs, item.inputs);
  if (missing.length)
    throw new Refusal(`${item.name} needs ${missing.join(' and ')} before it can go on air.`);
  return {
    lane: {
      ...laneOf(show, item.zone),
      next: item.id,
      onAir: { item: item.id, inputs: { ...item.inputs }, takenAt: now },
    },
  };
}

/** Makes a decided change part of the show. */
export function applyShow(show: Show, change: ShowChange): void {
  if (change.item) show.items.set(change.item.id, change.item);
  if (change.lane) show.lanes.set(change.lane.zone, change.lane);
}

/** The labels of required inputs that are still empty. */
export function missingInputs(defs: readonly InputDef[], inputs: Record<string, Scalar>): string[] {
  return defs.filter((d) => d.required && (own(inputs, d.key) ?? '') === '').map((d) => d.label);
}

/** True when an item was edited since it went on air: what is on air is not what its inputs say now. */
export function editedSince(onAir: OnAir, item: Item): boolean {
  const keys = new Set([...Object.keys(onAir.inputs), ...Object.keys(item.inputs)]);
  return [...keys].some((k) => (own(onAir.inputs, k) ?? null) !== (own(item.inputs, k) ?? null));
}

function laneOf(show: Show, zone: string): Lane {
  const lane = show.lanes.get(zone);
  if (!lane) throw new Refusal(`There is no zone "${zone}" on this output.`);
  return lane;
}

function refuseInput(def: InputDef | undefined, key: string, value: Scalar): string | null {
  if (!def) return `This template has no input "${key}".`;
  if (value === null) return null;
  if (def.kind === 'switch') return typeof value === 'boolean' ? null : `${def.label} is on or off.`;
  if (typeof value !== 'string') return `${def.label} is a text.`;
  if (def.kind === 'choice' && !def.choices?.some((c) => c.value === value)) {
    return `${def.label} is one of ${def.choices?.map((c) => c.label).join(', ')}.`;
  }
  const limit = def.maxLength ?? 200;
  return value.length > limit ? `${def.label} is limited to ${limit} characters.` : null;
}
