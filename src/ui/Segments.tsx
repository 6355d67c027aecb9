import { Radio, RadioGroup } from 'react-aria-components';
import css from './Segments.module.css';

/** One of a few, all in sight: arrow keys go along and choose. */
export function Segments({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string | null;
  options: readonly { value: string; label: string }[];
  onChange: (value: string) => void;
}) {
  return (
    <RadioGroup
      className={css['group']!}
      aria-label={label}
      orientation="horizontal"
      value={value}
      onChange={onChange}
    >
      {options.map((o) => (
        <Radio key={o.value} value={o.value} className={css['one']!}>
          {o.label}
        </Radio>
      ))}
    </RadioGroup>
  );
}
