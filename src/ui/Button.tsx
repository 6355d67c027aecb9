import type { ButtonHTMLAttributes, ReactNode } from 'react';
import css from './Button.module.css';

/** A key's name, shown where its action is. */
export function KeyCap({ children }: { children: ReactNode }) {
  return <kbd className={css['key']}>{children}</kbd>;
}

interface Props extends ButtonHTMLAttributes<HTMLButtonElement> {
  /** The one thing to do next. */
  main?: boolean;
  /** The key that does the same. */
  shortcut?: string | undefined;
}

export function Button({ main, shortcut, children, className, ...rest }: Props) {
  return (
    <button
      type="button"
      className={[css['button'], main && css['main'], className].filter(Boolean).join(' ')}
      aria-keyshortcuts={shortcut}
      {...rest}
    >
      {children}
      {shortcut && <KeyCap>{shortcut}</KeyCap>}
    </button>
  );
}
