import { later } from './Later.tsx';
import type { SwitchProps } from './SwitchBox.tsx';
import css from './Switch.module.css';

/** As it stands until what works it is here. */
const StaticSwitch = ({ on, children }: SwitchProps) => (
  <span className={css['switch']} data-selected={on || undefined}>
    <span className={css['track']} />
    {children}
  </span>
);

/** What is on or off; what works it comes after the first view. */
export const Switch = later<SwitchProps>(
  () => import('./SwitchBox.tsx').then((m) => m.SwitchBox),
  StaticSwitch,
);
