import { Button } from '../../ui/Button.tsx';
import { useKeys } from '../../ui/keys.ts';
import css from './View.module.css';

/** Asks at the bottom of the view whether something is to be done, and says what comes of it; each answer has a key. */
export function Question({
  label,
  heading,
  says,
  yes,
  yesKey,
  no,
  onYes,
  onNo,
}: {
  /** What it is called. */
  label: string;
  heading: string;
  /** What comes of it: a sentence, or one thing a line. */
  says: string | readonly string[];
  yes: string;
  yesKey: string;
  no: string;
  onYes: () => void;
  onNo: () => void;
}) {
  useKeys({ [yesKey.toLowerCase()]: onYes, escape: onNo }, true);
  return (
    <div className={css['armed']} role="status" aria-label={label}>
      <div>
        <b>{heading}</b>
        {typeof says === 'string' ? (
          <span>{says}</span>
        ) : (
          <ul>
            {says.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
        )}
      </div>
      <Button main shortcut={yesKey} onClick={onYes}>
        {yes}
      </Button>
      <Button shortcut="Esc" onClick={onNo}>
        {no}
      </Button>
    </div>
  );
}
