import { Count, ListOf, isText, OneOf } from '../document/rules.ts';
import { placesIn } from '../show/item.ts';
import { itemOf, laneKey, laneOf, MOST_QUEUED } from '../show/show.ts';
import { action, refuse } from './action.ts';
import { edit } from './change.ts';
import { LaneRequest } from './request.ts';

const Keys = () => ListOf((key) => isText(key, 80) && key !== '', 'must be keys of items');

class QueueRequest extends LaneRequest {
  @OneOf('queue') kind!: 'queue';
  /** The items that are taken one after another, the first one next. */
  @Count(0, MOST_QUEUED) @Keys() items!: string[];
  /** What stood in the queue where it was changed. */
  @Count(0, MOST_QUEUED) @Keys() was!: string[];
}

/** Says which items a lane takes one after another. */
export const queue = action({
  request: QueueRequest,
  role: 'operate',
  entry: ({ output, zone }) => `queue ${output} ${zone}`,
  decide: ({ show }, request) => {
    const lane = laneOf(show, request);
    const { items, was } = request;
    if (was.join('\n') !== lane.queue.join('\n'))
      refuse('The queue was changed at another desk a moment ago. Look at it and try again.');
    const added = items.filter((key) => !lane.queue.includes(key)).map((key) => itemOf(show, key));
    const stray = added.find((item) => !placesIn(item, lane));
    if (stray) refuse(`${stray.name} does not go to that zone.`);
    if (new Set(items).size < items.length) refuse('An item stands in a queue once.');
    const change = { edits: [edit('lane', laneKey(lane), lane, { ...lane, queue: items })] };
    const { output, zone } = lane;
    return { change, back: { kind: 'queue', output, zone, items: was, was: items } };
  },
  sentence: ({ show }, { items, was }) => {
    const nameOf = (key: string) => show.items.get(key)?.name ?? key;
    const [added] = items.filter((key) => !was.includes(key));
    const [gone, ...more] = was.filter((key) => !items.includes(key));
    if (added !== undefined) return `Queued ${nameOf(added)}`;
    if (gone === undefined) return 'Changed the order of the queue';
    return more.length ? 'Emptied the queue' : `Took ${nameOf(gone)} out of the queue`;
  },
});
