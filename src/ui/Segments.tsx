import { useId } from 'react';
import css from './Segments.module.css';

/** One of a few, all in sight: the browser's own radio buttons, so arrow keys go along and choose. */
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
  const name = useId();
  return (
    <span className={css['group']} role="radiogroup" aria-label={label}>
      {options.map((o) => (
        <label key={o.value}>
          <input type="radio" name={name} checked={value === o.value} onChange={() => onChange(o.value)} />
          {o.label}
        </label>
      ))}
    </span>
  );
}
