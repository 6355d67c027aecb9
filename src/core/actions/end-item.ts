import { Num, OneOf, Text } from '../document/rules.ts';
import type { Item } from '../show/item.ts';
import { isStill, itemOf, Refusal, type Lane, type Taken } from '../show/show.ts';
import { action, refuse } from './action.ts';
import { airChange, lanesFor, refuseUnready, type Put } from './air.ts';
import { ActionRequest } from './request.ts';
import type { Situation } from './situation.ts';

class EndItemRequest extends ActionRequest {
  @OneOf('end-item') kind!: 'end-item';
  @Text(1, 80) item!: string;
  /** The take that is over, by when it was, server ms. */
  @Num() takenAt!: number;
}

/** The lanes in which a take stands that is over: those in which items go off by themselves. */
const overIn = ({ show }: Situation, ended: Taken): Lane[] =>
  [...show.lanes.values()].filter((l) => isStill(l.onAir, ended) && !l.off.includes('length'));

/** The item that follows, and why it cannot where it cannot; null for none, or where that is switched off in all of these lanes. */
function followerOf(
  situation: Situation,
  item: Item,
  over: readonly Lane[],
): { item: Item; why: string | null } | null {
  if (over.every((l) => l.off.includes('follows'))) return null;
  const next = item.follows === null ? undefined : situation.show.items.get(item.follows);
  if (!next) return null;
  try {
    refuseUnready(situation, next);
    lanesFor(situation.show, next, {});
    return { item: next, why: null };
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    return { item: next, why: error.message };
  }
}

/**
 * Takes an item off whose length is over, and takes what follows it, at one moment. Foothill does this by itself; a take since then,
 * or a clear, stands.
 */
export const endItem = action({
  request: EndItemRequest,
  role: 'operate',
  decide: (situation, { item: key, takenAt }, at) => {
    const { show } = situation;
    const item = itemOf(show, key);
    const ended = { item: key, takenAt };
    const over = overIn(situation, ended);
    if (over.length === 0) refuse(`${item.name} was taken anew or cleared since.`);
    const follower = followerOf(situation, item, over);
    const next: Put[] =
      follower && follower.why === null
        ? lanesFor(show, follower.item, {}).map((lane) => ({ lane, item: follower.item }))
        : [];
    const taken = new Set(next.map((p) => p.lane));
    const off = over.filter((lane) => !taken.has(lane)).map((lane): Put => ({ lane, item: null }));
    return { change: airChange(situation, [...off, ...next], at), back: null };
  },
  sentence: (situation, { item: key, takenAt }) => {
    const item = itemOf(situation.show, key);
    const follower = followerOf(situation, item, overIn(situation, { item: key, takenAt }));
    const off = `${item.name} went off after ${item.length ?? 0} s`;
    if (!follower) return off;
    return follower.why === null
      ? `${off}, ${follower.item.name} followed`
      : `${off}. ${follower.item.name} could not follow: ${follower.why}`;
  },
});
