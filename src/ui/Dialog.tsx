import type { ReactNode } from 'react';
import { Dialog as Base, Heading, Modal, ModalOverlay } from 'react-aria-components';
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

/**
 * Asks something before it is done. The focus goes into it and comes back where it was; Escape and a press beside it
 * close it; letter keys of the view rest meanwhile.
 */
export function Dialog({ title, onClose, children, actions, wide = false }: Props) {
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
