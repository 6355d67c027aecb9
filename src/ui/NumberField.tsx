import { later } from './Later.tsx';
import type { NumberProps } from './NumberBox.tsx';
import css from './NumberField.module.css';

/** As it stands until what works it is here. */
function StaticNumberField({ label, value, unit, size = 4 }: NumberProps) {
  return (
    <span className={css['field']}>
      {label && <span>{label}</span>}
      <span className={css['box']}>
        <input
          readOnly
          tabIndex={-1}
          aria-hidden
          value={value ?? ''}
          style={{ width: `calc(${size}ch + 36px)` }}
        />
      </span>
      {unit}
    </span>
  );
}

/** A number, as `NumberBox` has it; what works it comes after the first view. */
export const NumberField = later<NumberProps>(
  () => import('./NumberBox.tsx').then((m) => m.NumberBox),
  StaticNumberField,
);
