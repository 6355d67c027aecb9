import css from './Lamp.module.css';

/** How a source is, as a lamp beside the word for it: filled where it speaks or is lost, a ring where it is late or off. */
export function Lamp({ health }: { health: 'live' | 'late' | 'lost' | 'off' }) {
  return <span className={css['lamp']} data-lamp={health} aria-hidden="true" />;
}
