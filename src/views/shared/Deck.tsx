import Circle from 'lucide-react/icons/circle';
import { useEffect, useState } from 'react';
import { clockText } from '../../core/clock/clock.ts';
import type { DeskSnapshot } from '../../core/wire/wire.ts';
import { Button } from '../../ui/Button.tsx';
import type { Desk } from './desk.ts';
import { useKnown } from './use-desk.ts';
import css from './Deck.module.css';

/** How often a position is drawn anew, in ms. */
const DRAW_EVERY = 100;

/** Where the tape that is played stands, in ms; null where none is played. */
export function usePosition(desk: Desk, rehearsal: DeskSnapshot['rehearsal']): number | null {
  const [, draw] = useState(0);
  const running = rehearsal?.playing ?? false;
  useEffect(() => {
    if (!running) return;
    const timer = setInterval(() => draw((n) => n + 1), DRAW_EVERY);
    return () => clearInterval(timer);
  }, [running]);
  if (!rehearsal) return null;
  // What stands, stands: nothing is worked out from a time that is measured again and again.
  if (!rehearsal.playing || rehearsal.seeking) return rehearsal.position;
  return Math.min(rehearsal.length, Math.max(0, desk.link.serverNow() - rehearsal.zero));
}

/** The plain sign of a rehearsal, on every view: nothing here is the game. */
export function RehearsalSign({ desk }: { desk: Desk }) {
  const rehearsal = useKnown(desk, 'rehearsal');
  const position = usePosition(desk, rehearsal);
  if (!rehearsal || position === null) return null;
  const steer = (what: 'play' | 'pause' | 'end') => void desk.act({ kind: 'rehearse', do: what });
  return (
    <div className={css['sign']} role="status" aria-label="Rehearsal">
      <b>REHEARSAL</b>
      <a href="/tapes">{rehearsal.name}</a>
      <span className={css['position']}>
        {clockText(position)} of {clockText(rehearsal.length)}
      </span>
      {rehearsal.speed !== 1 && <span>{rehearsal.speed}×</span>}
      <span className={css['what']}>A tape speaks; the real sources are shut.</span>
      <Button onClick={() => steer(rehearsal.playing ? 'pause' : 'play')}>
        {rehearsal.playing ? 'Pause' : 'Play'}
      </Button>
      <Button onClick={() => steer('end')}>End rehearsal</Button>
    </div>
  );
}

/** That everything is being recorded, on every view. */
export function RecordingSign({ desk }: { desk: Desk }) {
  const recording = useKnown(desk, 'tapes').find((t) => t.recording);
  if (!recording) return null;
  return (
    <a href="/tapes" className={css['recording']} aria-label="Recording">
      <Circle size={11} fill="currentColor" /> Rec {clockText(recording.length)}
    </a>
  );
}
