import { healthWord, lampOf } from '../../core/source/health.ts';
import { isByHand } from '../../core/source/source.ts';
import type { FocusEvent } from 'react';
import type { SourceState } from '../../core/wire/wire.ts';
import type { Desk, DeskState, Prepared } from './desk.ts';
import { ageText, useSeconds } from './time.ts';
import { useDesk, useKnown } from './use-desk.ts';
import { LiveRegion } from '../../ui/LiveRegion.tsx';
import { Lamp } from '../../ui/Lamp.tsx';
import css from './StatusLine.module.css';

/** How long after trouble a live source is still named for it, in ms. */
const UNEASY = 10_000;

/** What folds out of the line folds in again when something else is pressed. */
const foldIn = (event: FocusEvent<HTMLDetailsElement>) => {
  if (!event.currentTarget.contains(event.relatedTarget)) event.currentTarget.open = false;
};

/** From the gravest on. */
const GRAVITY = ['lost', 'late', 'live'];

/** A source that speaks, but had trouble a moment ago. */
const uneasy = ({ trouble, connected }: SourceState, now: number) =>
  !connected || (trouble !== null && now - trouble.at < UNEASY);

/** One source in words: calm when it is live, plain when it is not. */
function words(source: SourceState, now: number, runsClocks: boolean): string {
  const since = source.lastWord === null ? 'no data yet' : `last data ${ageText(now - source.lastWord)} ago`;
  const stopped = runsClocks ? ', clocks stopped' : '';
  const word = healthWord(source);
  switch (word) {
    case 'no connection':
    case 'no answer':
      return `${source.name}: ${word} · ${since}`;
    case 'live':
      return source.rate ? `${source.name} live, ${source.rate} a second` : `${source.name} live`;
    case 'late':
    case 'lost':
      return `${source.name} ${word}${stopped} · ${since}`;
    case 'off':
      return `${source.name} off`;
  }
}

/** The health of everything that the picture hangs on, in a line. */
export function StatusLine({ desk, snapshot }: { desk: Desk; snapshot: Prepared }) {
  const time = useSeconds(desk.link.serverNow);
  const here = useDesk(desk, (s) => s.here);
  const sources = useKnown(desk, 'sources');
  const { database } = snapshot;
  // A pad is always there, so it says nothing of how things are.
  const byHand = new Set(snapshot.bundles.filter((b) => isByHand(b.source)).map((b) => b.source.key));
  const inUse = sources.filter((s) => s.health !== 'off' && !byHand.has(s.key));
  const clocks = new Set(snapshot.defs.filter((d) => d.kind === 'clock').map((d) => d.key));
  const runsClocks = (key: string) =>
    snapshot.bundles.some((b) => b.source.key === key && b.patch?.links.some((l) => clocks.has(l.field)));
  const calm = inUse.filter((s) => s.health === 'live' && !uneasy(s, time));
  // One that is well needs no name among several that are; what is not well is always named, the gravest first.
  const grave = (s: SourceState) => GRAVITY.indexOf(s.health) * 2 + (runsClocks(s.key) ? 0 : 1);
  const ill = inUse.filter((s) => !calm.includes(s)).sort((x, y) => grave(x) - grave(y));
  // What asks for an answer stands alone.
  const waits = sources.some((s) => s.waiting.length > 0);
  const [first, ...others] = ill.length === 0 && calm.length === 1 ? calm : ill;
  const say = (source: SourceState) => {
    const { health, trouble } = source;
    const also = health === 'live' && trouble && uneasy(source, time) ? ` · ${trouble.text}` : '';
    return words(source, time, runsClocks(source.key)) + also;
  };
  return (
    <div className={css['line']} role="group" aria-label="Health">
      <LiveRegion label="Health news" text={news(here, database, ill)} />
      {here === false && (
        <p className={css['bad']}>
          The server does not answer. The pictures hold; nothing can be changed until it is back.
        </p>
      )}
      {here && database.full ? (
        <p className={css['bad']}>
          The disk is full. The pictures go on; nothing can be changed until there is room on it.
        </p>
      ) : (
        here &&
        !database.ok && (
          <p className={css['bad']}>
            The database does not answer. The pictures go on; nothing can be changed until it is back.
          </p>
        )
      )}
      {here && inUse.length === 0 && <p className={css['calm']}>No source is connected.</p>}
      {here && calm.length > 1 && ill.length === 0 && !waits && (
        <p className={css['calm']}>{calm.length} sources live</p>
      )}
      {here && first && (
        <details key={first.key} className={look(first, time)} data-health={first.health} onBlur={foldIn}>
          <summary data-tip={say(first)}>{say(first)}</summary>
          <About source={first} time={time} />
        </details>
      )}
      {here && others.length > 0 && (
        <details
          onBlur={foldIn}
          className={`${css['more']} ${others.some((s) => s.health !== 'live') ? css['bad'] : css['uneasy']}`}
        >
          <summary>and {others.length} more</summary>
          <ul>
            {others.map((source) => (
              <li key={source.key} data-health={source.health}>
                <Lamp health={lampOf(source)} />
                {say(source)}
              </li>
            ))}
          </ul>
        </details>
      )}
    </div>
  );
}

/** What is worth saying aloud: what does not answer, and which source is not well; no seconds. */
function news(here: DeskState['here'], database: Prepared['database'], ill: readonly SourceState[]): string {
  if (here === false) return 'The server does not answer.';
  if (here && database.full) return 'The disk is full.';
  if (here && !database.ok) return 'The database does not answer.';
  return ill
    .filter((s) => s.health !== 'live')
    .map((s) => `${s.name} ${s.health}.`)
    .join(' ');
}

/** The look of one source's words: calm, uneasy, or plainly bad. */
function look(source: SourceState, time: number): string | undefined {
  if (source.health !== 'live') return css['bad'];
  return uneasy(source, time) ? css['uneasy'] : css['calm'];
}

/** All that is known of one source's line. */
function About({ source, time }: { source: SourceState; time: number }) {
  const { counts, trouble } = source;
  return (
    <dl>
      <dt>Address</dt>
      <dd>
        {source.address}, {source.connected ? 'connected' : 'not connected'}
      </dd>
      <dt>Good frames</dt>
      <dd>{counts.good}</dd>
      <dt>Failed checks</dt>
      <dd>{counts.badChecks}</dd>
      <dt>Bytes skipped</dt>
      <dd>{counts.skipped}</dd>
      <dt>Readings refused</dt>
      <dd>{counts.refused}</dd>
      {(counts.overtaken ?? 0) > 0 && (
        <>
          <dt>Overtaken by newer</dt>
          <dd>{counts.overtaken}</dd>
        </>
      )}
      {(counts.dropped ?? 0) > 0 && (
        <>
          <dt>Bytes dropped in a flood</dt>
          <dd>{counts.dropped}</dd>
        </>
      )}
      <dt>Last trouble</dt>
      <dd>{trouble ? `${trouble.text}, ${ageText(time - trouble.at)} ago` : 'none'}</dd>
    </dl>
  );
}
