import css from './OnAir.module.css';

/** The one sign of being on air: a colour and the words together; where room is short, what is on air is itself the sign. */
export function OnAir({ what }: { what?: string }) {
  if (what === undefined) return <span className={css['sign']}>ON AIR</span>;
  return (
    <span className={`${css['sign']} ${css['what']}`} role="img" aria-label={`On air: ${what}`}>
      {what}
    </span>
  );
}
