import { useRef, useState } from 'react';
import { Listener, type ChangedRun } from '../../core/decode/listen.ts';
import type { Parts } from '../../core/decode/parts.ts';

/** How long the controller is left alone before a button is waited for, in ms. */
const LEARN = 1500;

export interface Listening {
  phase: 'off' | 'learning' | 'hearing';
  runs: ChangedRun[];
  start: () => void;
  stop: () => void;
  take: (frame: Parts) => void;
}

/** Listening for what a button of the controller changes: first what moves by itself is learnt, then changes light up. */
export function useListening(): Listening {
  const [phase, setPhase] = useState<Listening['phase']>('off');
  const [runs, setRuns] = useState<ChangedRun[]>([]);
  const live = useRef({ listener: new Listener(), phase: 'off' as Listening['phase'], since: 0 });
  const go = (next: Listening['phase']) => {
    live.current.phase = next;
    setPhase(next);
  };
  return {
    phase,
    runs,
    start: () => {
      live.current = { listener: new Listener(), phase: 'learning', since: performance.now() };
      setRuns([]);
      go('learning');
    },
    stop: () => {
      setRuns([]);
      go('off');
    },
    take: (frame) => {
      const { listener, phase: now, since } = live.current;
      if (now === 'off') return;
      if (now === 'learning') {
        listener.learn(frame);
        if (performance.now() - since > LEARN) go('hearing');
        return;
      }
      listener.receive(frame);
      setRuns(listener.runs());
    },
  };
}
