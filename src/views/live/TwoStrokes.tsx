import { useState } from 'react';
import { FIRST_STROKE } from '../../core/show/show.ts';
import { KeyCap } from '../../ui/Button.tsx';
import { useKeys, useLeave } from '../../ui/keys.ts';
import recall from '../shared/Recall.module.css';
import type { Lanes } from './lanes.ts';

const ALPHABET = Array.from('ABCDEFGHIJKLMNOPQRSTUVWXYZ');

/** A lane that is put under the keys by a point and then its letter: the second stroke is never anything else's. */
export function TwoStrokes({ lanes }: { lanes: Lanes }) {
  /** What was pressed behind the point; null while no point was. */
  const [typed, setTyped] = useState<string | null>(null);
  const some = lanes.lanes.filter((l) => l.zone.letter.length > 1);
  const waits = typed !== null && some.length > 0;
  const second = (letter: string) => {
    const lane = some.find((l) => l.zone.letter === FIRST_STROKE + letter);
    if (lane) lanes.select(lane.key);
    setTyped(lane ? null : letter);
  };
  // Whoever does something else means that.
  useLeave(waits, /^([a-z]|Shift|Control|Alt|Meta|Escape)$/i, () => setTyped(null));
  useKeys(
    {
      ...(some.length > 0 && { [FIRST_STROKE]: () => setTyped('') }),
      ...(waits && {
        escape: () => setTyped(null),
        ...Object.fromEntries(ALPHABET.map((letter) => [letter.toLowerCase(), () => second(letter)])),
      }),
    },
    true,
  );
  if (!waits) return null;
  return (
    <p className={recall['recall']} data-over data-busy role="status" aria-label="Lane by two keys">
      <b>
        {FIRST_STROKE} {typed || '…'}
      </b>
      <span>
        {typed
          ? `No lane has ${FIRST_STROKE} ${typed}`
          : some
              .slice(0, 3)
              .map((l) => `${l.zone.letter.slice(1)} ${l.output.name}, ${l.zone.name}`)
              .join(' · ') + (some.length > 3 ? ' · …' : '')}
      </span>
      <span>
        <KeyCap>Esc</KeyCap> leaves it
      </span>
    </p>
  );
}
