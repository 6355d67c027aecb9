import type { FieldDef } from '../sport/profile.ts';
import { isClock, type FieldValue } from './values.ts';

const END = '.running';

/** The key under which it is read whether the clock of a field runs: `clock.game.running` says yes or no. */
export const runningKey = (clock: string): string => `${clock}${END}`;

/** The clock of which such a key tells; null for any other key. */
export const clockOf = (key: string): string | null => (key.endsWith(END) ? key.slice(0, -END.length) : null);

/** Whether a value is a clock that runs; null where it is no clock. */
export const runs = (value: FieldValue): boolean | null => (isClock(value) ? value.running : null);

/** What is said of a clock's running, as a field. */
export const runningDef = (def: FieldDef): FieldDef | undefined =>
  def.kind === 'clock'
    ? { key: runningKey(def.key), label: `${def.label} running`, kind: 'flag', group: def.group }
    : undefined;

/** Fields, and for each clock among them whether it runs: what a rule may ask for. */
export const withRunning = (defs: readonly FieldDef[]): FieldDef[] =>
  defs.flatMap((def) => {
    const more = runningDef(def);
    return more ? [def, more] : [def];
  });
