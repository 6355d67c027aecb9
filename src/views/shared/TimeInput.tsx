import { clockText, parseClock } from '../../core/clock/clock.ts';
import type { NumberProps } from '../../ui/NumberBox.tsx';
import { NumberField } from '../../ui/NumberField.tsx';

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

/** A stretch of time that is typed in seconds, by halves of one. In ms. */
export function Seconds({
  label,
  value,
  min,
  onChange,
  tip,
}: {
  label: string;
  value: number;
  /** The shortest that may stand there, in ms. */
  min: number;
  onChange: (ms: number) => void;
  tip?: NumberProps['tip'];
}) {
  return (
    <NumberField
      label={label}
      unit="s"
      min={min / 1000}
      step={0.5}
      decimals={1}
      value={value / 1000}
      onChange={(s) => onChange(Math.round(s * 1000))}
      {...(tip ? { tip } : {})}
    />
  );
}
