import { useEffect, type ReactNode } from 'react';
import { Dialog as Base, Heading, Modal, ModalOverlay } from 'react-aria-components';
import { useStable } from './stable.ts';
import css from './Dialog.module.css';

interface Props {
  title: string;
  onClose: () => void;
  children: ReactNode;
  /** What can be done, the likeliest last. */
  actions: ReactNode;
  /** For what is looked at rather than read. */
  wide?: boolean;
}

/** The dialogs that are open, the one in front last. */
const open: object[] = [];
/** What opens over a dialog and is closed first: lists and pickers of its controls, what completes a formula, a key that is waited for. */
const OVER = '[data-trigger], .cm-tooltip-autocomplete, [data-waits-for-key]';

/**
 * Escape closes what is in front, always: wherever the focus is, also where it was lost with a control that is gone or rests, and
 * whatever the control that has it makes of the key.
 */
function useEscape(onClose: () => void): void {
  const close = useStable(onClose);
  useEffect(() => {
    const me = {};
    open.push(me);
    const pressed = (event: KeyboardEvent) => {
      if (event.key !== 'Escape' || event.isComposing || open.at(-1) !== me) return;
      if (document.querySelector(OVER)) return;
      event.preventDefault();
      event.stopPropagation();
      close();
    };
    addEventListener('keydown', pressed, true);
    return () => {
      removeEventListener('keydown', pressed, true);
      open.splice(open.indexOf(me), 1);
    };
  }, [close]);
}

/**
 * Asks something before it is done. The focus goes into it and comes back where it was; Escape and a press beside it
 * close it; letter keys of the view rest meanwhile.
 */
export function Dialog({ title, onClose, children, actions, wide = false }: Props) {
  useEscape(onClose);
  return (
    <ModalOverlay
      isOpen
      isDismissable
      className={css['overlay']!}
      onOpenChange={(open) => {
        if (!open) onClose();
      }}
    >
      <Modal className={css['modal']!}>
        <Base className={`${css['dialog']} ${wide ? css['wide'] : ''}`}>
          <Heading slot="title" className={css['title']!}>
            {title}
          </Heading>
          <div className={css['body']}>{children}</div>
          <div className={css['actions']}>{actions}</div>
        </Base>
      </Modal>
    </ModalOverlay>
  );
}

/** One of a few ways to do something, chosen by radio buttons with a sentence each. */
export function Choice<T extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: T | null;
  options: readonly { value: T; label: string; hint?: string; disabled?: boolean }[];
  onChange: (value: T) => void;
}) {
  return (
    <fieldset className={css['choice']}>
      <legend>{label}</legend>
      {options.map((o) => (
        <label key={o.value}>
          <input
            type="radio"
            name={label}
            checked={value === o.value}
            disabled={o.disabled}
            onChange={() => onChange(o.value)}
          />
          <span>
            {o.label}
            {o.hint && <small>{o.hint}</small>}
          </span>
        </label>
      ))}
    </fieldset>
  );
}
