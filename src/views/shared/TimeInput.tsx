import { clockText, parseClock } from '../../core/clock/clock.ts';

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
