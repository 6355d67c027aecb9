import type { FieldDef } from '../../core/sport/profile.ts';
import type { Answer, Desk } from '../shared/desk.ts';
import { useDesk } from '../shared/use-desk.ts';

/** What a field is held back at, as typed; undefined where it is not. */
export const useHeld = (desk: Desk, field: string): string | undefined =>
  useDesk(desk, (s) => s.held?.get(field));

/** Begins or ends to hold edits back. */
export const holdEdits = (desk: Desk, on: boolean): void =>
  desk.store.setState({ held: on ? new Map() : null });

/** Pins a field at what was typed, or holds that back with other edits. */
export function pinOrHold(desk: Desk, field: string, text: string): Promise<Answer> {
  const { held } = desk.store.getState();
  if (!held) return desk.act({ kind: 'pin', field, text });
  desk.store.setState({ held: new Map([...held, [field, text]]) });
  return Promise.resolve({ ok: true, text: '' });
}

/** A number one up or down, as far as the field goes; from what is held back, where something is. */
export function stepField(desk: Desk, def: FieldDef, by: number): void {
  const { held } = desk.store.getState();
  const at = Number(held?.get(def.key) ?? desk.read(def.key) ?? 0);
  if (def.kind !== 'integer') return;
  const { min, max } = def;
  const to = Math.min(max, Math.max(min, (Number.isFinite(at) ? at : 0) + by));
  if (to !== at) void pinOrHold(desk, def.key, String(to));
}
