import { clockOf, runningDef, runningKey, runs } from './running.ts';
import type { FieldDef } from '../sport/profile.ts';
import { refuseValue } from '../sport/typed.ts';
import { NONE, withMore } from './lists.ts';
import { Tables, type Row, type TableMemory } from './tables.ts';
import { sameValue, shifted, type FieldValue, type Quality } from './values.ts';

export type { Quality } from './values.ts';

export interface FieldState {
  /** What the source says, pinned or not. */
  value: FieldValue;
  /** Who said it: a source's key, `game`, or blank before the first word. */
  origin: string;
  /** When it last changed, server ms. */
  at: number;
  quality: Quality;
  /** The value that the operator holds over it. */
  pin?: { value: FieldValue; at: number };
}

export type Change =
  | { key: string; value: FieldValue; origin: string }
  | { key: string; pin: FieldValue }
  | { key: string; release: true };

export interface Applied {
  /** The board's number after the changes; it grows by one for each apply that changed something. */
  seq: number;
  /** Fields whose value as pages see it changed. */
  changed: readonly string[];
  /** Fields of which anything changed, the above among them. */
  touched: readonly string[];
  /** Changes refused, each with a sentence; the last good value stands. */
  refused: readonly { key: string; reason: string }[];
}

/** What sources had said at one moment, as plain data. Times count from that moment, in ms. */
export interface BoardMemory {
  /** `at` is null for what never changed. */
  fields: { key: string; value: FieldValue; origin: string; at: number | null; quality: Quality }[];
  tables: TableMemory[];
}

/** True for what a source said: not the game's own, not derived, not blank. */
export const isSaid = (origin: string) => origin !== '' && origin !== 'game' && origin !== 'derived';

interface Entry {
  def: FieldDef;
  state: FieldState;
}

/** A field's value as pages see it: the pin where there is one. */
const seen = (state: FieldState): FieldValue => (state.pin ? state.pin.value : state.value);

/**
 * The one live sheet: what Foothill holds to be true now. All changes of one `apply` become visible together,
 * under one number; equal values are no change.
 */
export class Board {
  readonly tables = new Tables();
  private number = 0;
  private readonly all = new Map<string, Entry>();
  /** What was written last: it is what is read next, and is then not looked for again. */
  private newest: Entry | undefined;

  constructor(defs: Iterable<FieldDef>) {
    for (const def of defs) this.define(def);
  }

  /** Adds a field while the board runs; one that is there keeps its value. */
  define(def: FieldDef): void {
    const known = this.all.get(def.key);
    if (known) known.def = def;
    else this.all.set(def.key, { def, state: { value: null, origin: '', at: 0, quality: 'none' } });
  }

  /** Takes a field away. */
  undefine(key: string): void {
    this.newest = undefined;
    this.all.delete(key);
  }

  get seq(): number {
    return this.number;
  }

  get fields(): FieldDef[] {
    return [...this.all.values()].map((e) => e.def);
  }

  /** The field of a key; for each clock there is also one that says whether it runs, `clock.game.running`. */
  def(key: string): FieldDef | undefined {
    const entry = this.all.get(key);
    const clock = entry ? undefined : this.clockOf(key);
    return entry ? entry.def : clock && runningDef(clock.def);
  }

  state(key: string): Readonly<FieldState> | undefined {
    return this.all.get(key)?.state ?? this.clockOf(key)?.state;
  }

  private clockOf(key: string): Entry | undefined {
    const clock = clockOf(key);
    return clock === null ? undefined : this.all.get(clock);
  }

  /** The value as pages see it: the pin where there is one. An unknown field reads as blank. */
  read(key: string): FieldValue {
    const entry = this.newest?.def.key === key ? this.newest : this.all.get(key);
    if (entry) return seen(entry.state);
    const clock = this.clockOf(key);
    return clock ? runs(seen(clock.state)) : null;
  }

  /** A row of a table by its key. */
  row(table: string, key: string): Row | undefined {
    return this.tables.row(table, key);
  }

  /** A row of a table by its rank, from 1. */
  ranked(table: string, rank: number): Row | undefined {
    return this.tables.ranked(table, rank);
  }

  /** Applies all changes at once, at server time `at` (ms). Refused ones are named; the rest stand. */
  apply(changes: readonly Change[], at: number): Applied {
    let changed: Applied['changed'] = NONE;
    let touched: Applied['touched'] = NONE;
    let refused: Applied['refused'] = NONE;
    for (const change of changes) {
      const entry = this.all.get(change.key);
      if (!entry) {
        refused = withMore(refused, { key: change.key, reason: `the board has no field "${change.key}"` });
        continue;
      }
      const reason =
        'release' in change ? null : refuseValue(entry.def, 'pin' in change ? change.pin : change.value);
      if (reason) {
        refused = withMore(refused, { key: change.key, reason });
        continue;
      }
      this.newest = entry;
      const { state } = entry;
      const before = seen(state);
      if (!this.write(state, change, at)) continue;
      touched = withMore(touched, change.key);
      const after = seen(state);
      if (sameValue(before, after)) continue;
      changed = withMore(changed, change.key);
      if (runs(before) !== runs(after)) changed = withMore(changed, runningKey(change.key));
    }
    if (touched.length) this.number++;
    return { seq: this.number, changed, touched, refused };
  }

  /** Sets how far the fields of one origin can be trusted; gives those that this changed. */
  mark(origin: string, quality: Quality): string[] {
    const touched: string[] = [];
    for (const [key, { state }] of this.all) {
      if (state.origin !== origin || state.quality === quality) continue;
      state.quality = quality;
      touched.push(key);
    }
    if (touched.length) this.number++;
    return touched;
  }

  /** Marks fields that nothing feeds any more; gives those that this changed. */
  orphan(keys: Iterable<string>): string[] {
    const touched: string[] = [];
    for (const key of keys) {
      const state = this.all.get(key)?.state;
      if (!state || state.quality === 'lost') continue;
      state.quality = 'lost';
      touched.push(key);
    }
    if (touched.length) this.number++;
    return touched;
  }

  /** All that sources said, with times counted from server time `zero` (ms). Pins, the game and what is derived stay out. */
  remember(zero: number): BoardMemory {
    const fields = [...this.all.values()].flatMap(({ def: { key }, state: { value, origin, at, quality } }) =>
      isSaid(origin)
        ? [{ key, value: shifted(value, -zero), origin, at: at === 0 ? null : at - zero, quality }]
        : [],
    );
    return { fields, tables: this.tables.remember(isSaid, zero) };
  }

  /**
   * Makes what sources said what it was at a moment that now counts as server time `zero` (ms): what was not said then
   * is blank. Fields that the board has not, or values that do not fit them, are left out.
   */
  recall(memory: BoardMemory, zero: number): Pick<Applied, 'changed' | 'touched'> & { tables: string[] } {
    const said = new Map(memory.fields.map((f) => [f.key, f]));
    const changed: string[] = [];
    const touched: string[] = [];
    for (const [key, { def, state }] of this.all) {
      const was = said.get(key);
      const fits = was && !refuseValue(def, was.value);
      if (!fits && !isSaid(state.origin)) continue;
      const before = seen(state);
      if (fits)
        Object.assign(state, {
          value: shifted(was.value, zero),
          origin: was.origin,
          at: was.at === null ? 0 : was.at + zero,
          quality: was.quality,
        });
      else Object.assign(state, { value: null, origin: '', at: 0, quality: 'none' });
      touched.push(key);
      if (!sameValue(before, seen(state))) changed.push(key);
      if (runs(before) !== runs(seen(state))) changed.push(runningKey(key));
    }
    const { keys, tokens } = this.tables.recall(memory.tables, isSaid, zero);
    this.number++;
    return { changed: [...changed, ...tokens], touched, tables: keys };
  }

  private write(state: FieldState, change: Change, at: number): boolean {
    if ('release' in change) {
      if (!state.pin) return false;
      delete state.pin;
      return true;
    }
    if ('pin' in change) {
      if (state.pin && sameValue(state.pin.value, change.pin)) return false;
      state.pin = { value: change.pin, at };
      return true;
    }
    const same = sameValue(state.value, change.value);
    if (same && state.origin === change.origin && state.quality === 'ok') return false;
    if (!same) {
      state.value = change.value;
      state.at = at;
    }
    state.origin = change.origin;
    state.quality = 'ok';
    return true;
  }
}
