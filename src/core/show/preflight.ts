import { own } from '../board/own.ts';
import type { FieldState } from '../board/board.ts';
import type { Row } from '../board/tables.ts';
import type { Scalar } from '../board/values.ts';
import type { FieldDef } from '../sport/profile.ts';
import { bindingsOf, type Layout } from '../layers/kinds.ts';
import { shownIn } from '../layers/shown.ts';
import type { InputDef } from '../documents/template.ts';
import { shipped, writtenBy } from '../text/families.ts';
import { bindingState, type StateSource } from '../value/state.ts';
import { evaluate, isBlank, isKeyed, namesIn, textOf, type Scope } from '../value/value.ts';
import { missingInputs } from './show.ts';

/** What preflight looks at: the board, read only. */
export interface BoardView {
  def(key: string): FieldDef | undefined;
  stateOf(key: string): Readonly<FieldState> | undefined;
  row?: Scope['row'];
  ranked?: Scope['ranked'];
  /** The address of a picture of the library; null where there is none. */
  picture?(path: string, keyed?: boolean): string | null;
  /** Whether a font was brought in by this name. */
  font?(family: string): boolean;
}

/**
 * What the operator should know before an item goes on air: required inputs that are empty, fonts that are missing, inputs
 * that still hold the template's sample, fields that are not on the board, blank where a layer shows them, or whose source
 * is late or lost. Each is one short sentence; none means that all is well.
 */
export function preflight(
  layout: Layout,
  inputs: Record<string, Scalar>,
  defs: readonly InputDef[],
  board: BoardView,
): string[] {
  const said = new Set<string>();
  for (const label of missingInputs(defs, inputs)) said.add(`${label} is empty.`);
  for (const d of defs) {
    const value = own(inputs, d.key) ?? null;
    if (d.sample != null && value === d.sample) said.add(`${d.label} still holds the sample.`);
  }
  const read = (key: string) => {
    const state = board.stateOf(key);
    return state?.pin ? state.pin.value : (state?.value ?? null);
  };
  const scope: Scope = { field: read, input: (key) => own(inputs, key) ?? null };
  /** The rows that the value looked at last read. */
  const rows: Row[] = [];
  const { row } = board;
  if (row)
    scope.row = (table, key) => {
      const found = row(table, key);
      if (found) rows.push(found);
      return found;
    };
  if (board.ranked) scope.ranked = board.ranked;
  const known: StateSource = {
    field: (key) => (board.def(key) ? (board.stateOf(key)?.quality ?? null) : null),
    table: () => 1,
    inputs: new Set(defs.map((d) => d.key)),
  };
  const silent = new Map<string, Set<string>>();
  const silence = (quality: string, label: string) =>
    silent.set(quality, (silent.get(quality) ?? new Set()).add(label));
  // What does not show, as all stands, leaves no hole in the picture.
  for (const { layer: l, gated } of shownIn(layout.layers, scope)) {
    for (const { font } of writtenBy(l))
      if (!shipped(font) && board.font?.(font) === false) said.add(`The font ${font} is missing.`);
    for (const { property, value } of bindingsOf(l)) {
      if (property.type === 'picture') {
        rows.length = 0;
        const path = textOf(evaluate(value, scope));
        // A keyed picture that was not found shows its stand-in, and says so here.
        for (const r of rows)
          if (r['found'] === false) said.add(`The picture ${String(r['path'])} is missing.`);
        if (path !== '' && board.picture?.(path, isKeyed(value)) === null)
          said.add(`The library has no picture ${path}.`);
      }
      const blank = property.main === true && !gated && isBlank(evaluate(value, scope));
      const asked = namesIn(value);
      if (blank && property.type === 'text' && asked.tables.size > 0)
        said.add(`${l.name[0]!.toUpperCase()}${l.name.slice(1)} is blank: no row of the table says it.`);
      for (const key of asked.fields) {
        const def = board.def(key);
        const state = board.stateOf(key);
        if (!def || !state) {
          // A case for another sport is no fault.
          if (bindingState(value, known) === 'missing') said.add(`The board has no field "${key}".`);
        } else if (blank && isBlank(read(key))) said.add(`${def.label} is blank.`);
        else if (!state.pin && (state.quality === 'late' || state.quality === 'lost'))
          silence(state.quality, def.label);
      }
    }
  }
  for (const [quality, labels] of silent) {
    const [only] = labels;
    said.add(
      labels.size === 1
        ? `${only}: its source is ${quality}.`
        : `${labels.size} fields: their source is ${quality}.`,
    );
  }
  return [...said];
}
