import { useEffect, useRef } from 'react';
import { isClock, type FieldValue } from '../../core/board/values.ts';
import { clockAt, clockText } from '../../core/clock/clock.ts';
import type { FieldDef } from '../../core/sport/profile.ts';
import { clockFormOf } from '../../core/sport/typed.ts';

/** A field's value as text. */
export function valueText(def: FieldDef, value: FieldValue, now: number): string {
  if (isClock(value)) return clockText(clockAt(value, now), clockFormOf(def));
  if (value === null || value === '') return '–';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  return def.kind === 'picture' ? String(value).replace(/^.*\//, '') : String(value);
}

/** A field's value, live: a running clock is drawn in every frame, in place. */
export function Digits({ def, value, now }: { def: FieldDef; value: FieldValue; now: () => number }) {
  const ref = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    if (!isClock(value) || !value.running) return;
    let frame = 0;
    const draw = () => {
      const text = valueText(def, value, now());
      if (ref.current && ref.current.textContent !== text) ref.current.textContent = text;
      frame = requestAnimationFrame(draw);
    };
    draw();
    return () => cancelAnimationFrame(frame);
  }, [def, value, now]);
  return <span ref={ref}>{valueText(def, value, now())}</span>;
}
