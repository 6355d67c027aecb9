import type { ReactNode } from 'react';
import { Switch as Base } from 'react-aria-components';
import css from './Switch.module.css';

export interface SwitchProps {
  on: boolean;
  onChange: (on: boolean) => void;
  /** What it is called, where no words stand beside it. */
  label?: string;
  disabled?: boolean;
  children?: ReactNode;
}

/** What is on or off. */
export function SwitchBox({ on, onChange, label, disabled = false, children }: SwitchProps) {
  return (
    <Base
      className={css['switch']!}
      isSelected={on}
      isDisabled={disabled}
      onChange={onChange}
      {...(label ? { 'aria-label': label } : {})}
    >
      <span className={css['track']} aria-hidden />
      {children}
    </Base>
  );
}
