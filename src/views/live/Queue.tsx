import ArrowLeft from 'lucide-react/icons/arrow-left';
import X from 'lucide-react/icons/x';
import { Button } from '../../ui/Button.tsx';
import type { Lanes, SeenLane } from './lanes.ts';
import css from './LaneView.module.css';

/** The items that a lane takes one after another: the first is what follows; each can be moved forward or taken out. */
export function Queue({
  seen,
  lanes,
  nameOf,
}: {
  seen: SeenLane;
  lanes: Lanes;
  nameOf: (item: string) => string;
}) {
  const { queue } = seen.lane;
  const forward = (key: string) =>
    lanes.queue(seen, (now) => {
      const i = now.indexOf(key);
      return i < 1 ? [...now] : [...now.slice(0, i - 1), key, now[i - 1]!, ...now.slice(i + 1)];
    });
  return (
    <div className={css['queue']} role="group" aria-label="Queue">
      <span>Queue</span>
      <ol aria-label="Queued">
        {queue.map((key, i) => (
          <li key={key}>
            {i > 0 && (
              <button type="button" aria-label={`${nameOf(key)} earlier`} onClick={() => forward(key)}>
                <ArrowLeft size={14} />
              </button>
            )}
            <span>
              {i + 1} {nameOf(key)}
            </span>
            <button
              type="button"
              aria-label={`${nameOf(key)} out of the queue`}
              onClick={() => lanes.queue(seen, (now) => now.filter((k) => k !== key))}
            >
              <X size={14} />
            </button>
          </li>
        ))}
      </ol>
      {queue.length > 1 && <Button onClick={() => lanes.queue(seen, () => [])}>Empty</Button>}
    </div>
  );
}
