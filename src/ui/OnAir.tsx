import css from './OnAir.module.css';

/** The one sign of being on air: a colour and the words together. */
export function OnAir() {
  return <span className={css['sign']}>ON AIR</span>;
}
