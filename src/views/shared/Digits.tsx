import { useEffect, useRef } from 'react';
import { isClock, type FieldValue } from '../../core/board/values.ts';
import { clockAt, clockText, clockUnchangedFor } from '../../core/clock/clock.ts';
import type { FieldDef } from '../../core/sport/profile.ts';
import { clockFormOf } from '../../core/sport/typed.ts';
import { inFrameAfter } from '../../stage/frames.ts';

/** A field's value as text. */
export function valueText(def: FieldDef, value: FieldValue, now: number): string {
  if (isClock(value)) return clockText(clockAt(value, now), clockFormOf(def));
  if (value === null || value === '') return '–';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  return def.kind === 'picture' ? String(value).replace(/^.*\//, '') : String(value);
}

/** A clock is looked at so often at least, in ms: a rehearsal's may run faster. */
const LOOK_EVERY = 100;

/** A field's value, live: a running clock is drawn in place. */
export function Digits({ def, value, now }: { def: FieldDef; value: FieldValue; now: () => number }) {
  const ref = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    if (!isClock(value) || !value.running) return;
    let end = () => {};
    const draw = () => {
      const at = now();
      const text = valueText(def, value, at);
      if (ref.current && ref.current.textContent !== text) ref.current.textContent = text;
      end = inFrameAfter(Math.min(LOOK_EVERY, clockUnchangedFor(value, at)), draw);
    };
    draw();
    return () => end();
  }, [def, value, now]);
  return <span ref={ref}>{valueText(def, value, now())}</span>;
}
