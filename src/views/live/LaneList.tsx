import { useEffect, useRef } from 'react';
import ChevronDown from 'lucide-react/icons/chevron-down';
import ChevronRight from 'lucide-react/icons/chevron-right';
import Eye from 'lucide-react/icons/eye';
import EyeOff from 'lucide-react/icons/eye-off';
import Play from 'lucide-react/icons/play';
import X from 'lucide-react/icons/x';
import type { Output, WhyQuiet } from '../../core/show/show.ts';
import { Button, KeyCap } from '../../ui/Button.tsx';
import { OnAir } from '../../ui/OnAir.tsx';
import { tip } from '../../ui/tip.ts';
import { useRememberedList } from '../../ui/remembered.ts';
import type { Desk } from '../shared/desk.ts';
import { OnSince } from './OnSince.tsx';
import type { Lanes, SeenLane } from './lanes.ts';
import css from './LaneList.module.css';

/** The lanes of all outputs, a line each, in groups that fold; the one under the keys stands out. */
export function LaneList({
  desk,
  outputs,
  lanes,
  pictures,
  onPicture,
  quiet,
  children,
}: {
  desk: Desk;
  outputs: readonly Output[];
  lanes: Lanes;
  /** The outputs whose pictures are shown. */
  pictures: readonly string[];
  onPicture: (output: string) => void;
  /** Why boards in the venue change without motion now; null while they move. */
  quiet: WhyQuiet | null;
  children: React.ReactNode;
}) {
  const [folded, fold] = useRememberedList('folded');
  return (
    <section className={css['lanes']} aria-label="Lanes">
      <div>
        <h2>Lanes</h2>
        {quiet && (
          <p className={css['quiet']} role="status">
            Quiet {quiet === 'rule' ? 'by the rule' : 'now'}: boards in the venue change without motion
          </p>
        )}
      </div>
      <div className={css['groups']}>
        {outputs.map((output) => {
          const own = lanes.lanes.filter((l) => l.output === output);
          const isFolded = folded.includes(output.key);
          const shows = pictures.includes(output.key);
          const on = own.filter((l) => l.lane.onAir).length;
          // A lane that is under the keys is seen, wherever it stands.
          const rows = isFolded ? own.filter((l) => l.key === lanes.under?.key) : own;
          return (
            <div key={output.key} className={css['group']}>
              <header>
                <h3>
                  <button
                    type="button"
                    aria-expanded={!isFolded}
                    onClick={() =>
                      fold(isFolded ? folded.filter((k) => k !== output.key) : [...folded, output.key])
                    }
                  >
                    {isFolded ? <ChevronRight size={16} /> : <ChevronDown size={16} />}
                    {output.name}
                  </button>
                </h3>
                <span>
                  {on} of {own.length} on air
                </span>
                <Button
                  aria-label={`Picture of ${output.name}`}
                  aria-pressed={shows}
                  onClick={() => onPicture(output.key)}
                  {...tip(shows ? 'Hide its picture' : 'Show its picture')}
                >
                  {shows ? <Eye size={16} /> : <EyeOff size={16} />}
                </Button>
              </header>
              <ul aria-label={`Lanes of ${output.name}`}>
                {rows.map((seen) => (
                  <Row key={seen.key} desk={desk} seen={seen} lanes={lanes} />
                ))}
              </ul>
            </div>
          );
        })}
      </div>
      <footer>{children}</footer>
    </section>
  );
}

/** One lane in a line: its letter, what is on, what is next where that is something else, take and clear. */
function Row({ desk, seen, lanes }: { desk: Desk; seen: SeenLane; lanes: Lanes }) {
  const { zone, lane, on, next } = seen;
  const under = lanes.under?.key === seen.key;
  const line = useRef<HTMLLIElement>(null);
  useEffect(() => {
    const row = line.current;
    const list = row?.closest(`.${css['groups']}`);
    if (!under || !row || !list) return;
    // The list moves, never the page: on a narrow one it stands below the picture and what takes.
    const [at, all] = [row.getBoundingClientRect(), list.getBoundingClientRect()];
    // The name of its output lies over the list's upper edge.
    const top = all.top + (row.parentElement?.previousElementSibling?.clientHeight ?? 0);
    if (at.top < top) list.scrollTop -= Math.ceil(top - at.top);
    else if (at.bottom > all.bottom) list.scrollTop += Math.ceil(at.bottom - all.bottom);
  }, [under]);
  return (
    <li ref={line} data-lane-row={seen.key} data-under={under}>
      <button
        type="button"
        className={css['pick']}
        aria-pressed={under}
        onClick={() => lanes.select(seen.key)}
      >
        <KeyCap>{zone.letter || '·'}</KeyCap>
        <b>{zone.name}</b>
        {lane.onAir ? (
          <small className={css['time']}>
            <OnSince desk={desk} since={lane.onAir.takenAt} length={on?.length ?? null} />
          </small>
        ) : (
          <small />
        )}
        <span className={css['state']}>
          {lane.onAir ? (
            <OnAir what={on?.name ?? lane.onAir.item} />
          ) : (
            <span className={css['dim']}>nothing on</span>
          )}
          {next && next.key !== lane.onAir?.item && <em>next: {next.name}</em>}
        </span>
      </button>
      <Button
        aria-label={`Take ${next?.name ?? 'nothing'} in ${zone.name}`}
        disabled={!next}
        onClick={() => lanes.take(seen)}
        {...tip(next ? `Take ${next.name}` : 'Nothing goes here yet')}
      >
        <Play size={15} />
      </Button>
      <Button
        aria-label={`Clear ${zone.name}`}
        disabled={!lane.onAir}
        onClick={() => lanes.clear(seen)}
        {...tip('Clear')}
      >
        <X size={15} />
      </Button>
    </li>
  );
}
