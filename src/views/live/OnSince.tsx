import type { Desk } from '../shared/desk.ts';
import { ageText, useSeconds } from '../shared/time.ts';

/** How long something has been on, or how long it stays where it goes off by itself after so many seconds. */
export function OnSince({ desk, since, length }: { desk: Desk; since: number; length: number | null }) {
  const now = useSeconds(desk.link.serverNow);
  if (length === null) return ageText(now - since);
  return `${Math.max(0, Math.ceil((since + length * 1000 - now) / 1000))} s left`;
}
