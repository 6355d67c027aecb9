import css from './LiveRegion.module.css';

/**
 * News for whoever listens instead of looking: said when it changes, and unseen. What counts seconds does not belong in
 * it, or it would speak every second.
 */
export function LiveRegion({ text, label }: { text: string; label: string }) {
  return (
    <p role="status" aria-label={label} className={css['unseen']}>
      {text}
    </p>
  );
}
