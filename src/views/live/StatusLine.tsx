import type { DeskSnapshot, SourceState } from '../../core/wire/wire.ts';
import type { DeskState } from './desk.ts';
import { ageText, useSeconds } from './time.ts';
import css from './StatusLine.module.css';

/** One source in words: calm when it is live, plain when it is not. */
function words(source: SourceState, now: number): string {
  const since = source.lastWord === null ? 'not heard yet' : `no word for ${ageText(now - source.lastWord)}`;
  switch (source.health) {
    case 'live':
      return `${source.name} live, ${source.rate} a second`;
    case 'late':
      return `${source.name} late: ${since}. Its clocks are stopped.`;
    case 'lost':
      return `${source.name} lost: ${since}. Its clocks are stopped.`;
    case 'off':
      return `${source.name} off`;
  }
}

/** The health of everything that the picture hangs on, in a line. */
export function StatusLine({
  here,
  desk,
  now,
}: {
  here: DeskState['here'];
  desk: DeskSnapshot;
  now: () => number;
}) {
  const time = useSeconds(now);
  return (
    <div className={css['line']} role="status" aria-label="Health">
      {here === false && (
        <p className={css['bad']}>
          The server does not answer. The pictures hold; nothing can be changed until it is back.
        </p>
      )}
      {here && !desk.database.ok && (
        <p className={css['bad']}>
          The database does not answer. The pictures go on; nothing can be changed until it is back.
        </p>
      )}
      {here && desk.sources.length === 0 && <p>No source is connected.</p>}
      {here &&
        desk.sources.map((source) => {
          const { counts, trouble } = source;
          const recent = trouble && time - trouble.at < 10_000;
          return (
            <details
              key={source.key}
              className={source.health === 'live' ? (recent ? css['uneasy'] : css['calm']) : css['bad']}
              data-health={source.health}
            >
              <summary>
                {words(source, time)}
                {source.health === 'live' && recent && ` · ${trouble.text}`}
              </summary>
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
                <dt>Last trouble</dt>
                <dd>{trouble ? `${trouble.text}, ${ageText(time - trouble.at)} ago` : 'none'}</dd>
              </dl>
            </details>
          );
        })}
    </div>
  );
}
