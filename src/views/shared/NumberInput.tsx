import { useState } from 'react';
import { clockText, parseClock } from '../../core/clock/clock.ts';

/** A whole number that can be typed and nudged; what is no number within its bounds changes nothing. */
export function Whole({
  label,
  name,
  value,
  min,
  max,
  onChange,
}: {
  label: string;
  name?: string;
  value: number;
  min: number;
  max: number;
  onChange: (n: number) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <label>
      {label}{' '}
      <input
        type="number"
        value={typed ?? value}
        min={min}
        max={max}
        aria-label={name ?? label}
        onChange={(e) => {
          setTyped(e.target.value);
          const n = Number(e.target.value);
          if (e.target.value !== '' && Number.isInteger(n) && n >= min && n <= max) onChange(n);
        }}
        onBlur={() => setTyped(null)}
      />
    </label>
  );
}

/** A time, typed as 15:00, 34.5 or 24; what is no time changes nothing. In ms. */
export function Time({
  label,
  name,
  value,
  onChange,
}: {
  label: string;
  name?: string;
  value: number;
  onChange: (ms: number) => void;
}) {
  return (
    <label>
      {label}{' '}
      <input
        key={value}
        defaultValue={clockText(value)}
        size={6}
        aria-label={name ?? label}
        onBlur={(e) => {
          const read = parseClock(e.target.value);
          if (read) onChange(read.ms);
          else e.target.value = clockText(value);
        }}
      />
    </label>
  );
}
