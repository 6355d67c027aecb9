import type { Board, Change } from '../../core/board/board.ts';
import { isClock } from '../../core/board/values.ts';
import { clockAt, stoppedClock } from '../../core/clock/clock.ts';
import type { Arbiter } from '../../core/patch/arbiter.ts';
import { isForHand } from '../../core/sport/field.ts';
import type { Pad } from '../ingest/running-source.ts';

/** The place of what is set by hand: behind every device. */
const HAND_PLACE = 9;

/** What a hand feeds: every field that a game changes. */
export const handLinks = (board: Board) =>
  board.fields.filter(isForHand).map(({ key }) => ({ field: key, priority: HAND_PLACE }));

/** After a restart a hand's own last words are still its words: these. */
export function ownWords(hand: Pad, board: Board): Change[] {
  const { key } = hand.doc;
  return board.fields
    .filter((def) => isForHand(def) && board.state(def.key)?.origin === key)
    .map((def) => ({ key: def.key, value: board.state(def.key)!.value, origin: key }));
}

/** A clock that runs by hand has nobody to say that it is over: it stops at its end. Gives those that are there. */
export function endedClocks(hand: Pad, board: Board, now: number): Change[] {
  return [...hand.words].flatMap((key): Change[] => {
    const value = board.state(key)?.value;
    if (!isClock(value) || !value.running || clockAt(value, now) !== value.until) return [];
    return [{ key, value: stoppedClock(value.until, value.direction, now), origin: hand.doc.key }];
  });
}

/** A hand's word is good while it holds the field: once a device has it again, the next word starts from that. */
export function releaseFields(hand: Pad, arbiter: Arbiter): void {
  for (const field of hand.words) {
    if (arbiter.holder(field) === hand.doc.key) continue;
    hand.words.delete(field);
    arbiter.forget(hand.doc.key, field);
  }
}
