import { useEffect, useRef, useState, type ReactNode } from 'react';
import { Button } from './Button.tsx';
import css from './ConfirmButton.module.css';

/**
 * A button that asks once more where something is lost, in its own place. The focus goes to the way back, and from there
 * back to the button; Escape is the way back too.
 */
export function ConfirmButton({
  label = 'Delete…',
  says,
  yes = 'Delete',
  no = 'Keep',
  main = false,
  disabled = false,
  ready = true,
  onYes,
}: {
  label?: string;
  /** What is lost by it. */
  says: ReactNode;
  yes?: string;
  no?: string;
  main?: boolean;
  disabled?: boolean;
  /** What is lost is known by now. */
  ready?: boolean;
  onYes: () => void;
}) {
  const [asked, setAsked] = useState<boolean | null>(null);
  const place = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    // Not when it first stands there: only where somebody asked or went back.
    if (asked !== null) place.current?.querySelector<HTMLElement>('button:last-of-type')?.focus();
  }, [asked]);
  return (
    <span
      ref={place}
      className={css['sure']}
      onKeyDown={(event) => {
        if (event.key !== 'Escape' || !asked) return;
        event.preventDefault();
        setAsked(false);
      }}
    >
      {asked ? (
        <>
          <span>{says}</span>
          <Button main={main} disabled={!ready} onClick={onYes}>
            {yes}
          </Button>
          <Button onClick={() => setAsked(false)}>{no}</Button>
        </>
      ) : (
        <Button main={main} disabled={disabled} onClick={() => setAsked(true)}>
          {label}
        </Button>
      )}
    </span>
  );
}
