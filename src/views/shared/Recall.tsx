import { useState } from 'react';
import type { Item } from '../../core/show/item.ts';
import { KeyCap } from '../../ui/Button.tsx';
import { useKeys, useLeave } from '../../ui/keys.ts';
import type { Desk } from './desk.ts';
import css from './Recall.module.css';

/** No number of an item has more digits. */
const MOST = 6;

/** An item that is called by its number: digits, Enter puts it next, Enter again takes it; any other key leaves it. */
export function Recall({
  desk,
  items,
  onNext,
  over = false,
}: {
  desk: Desk;
  items: readonly Item[];
  /** An item is put next. */
  onNext: (item: Item) => void;
  /** It stands over what is above it, and is not there while nothing is typed. */
  over?: boolean;
}) {
  const [typed, setTyped] = useState('');
  const [armed, setArmed] = useState<string | null>(null);
  const found = items.find((i) => String(i.number) === typed.replace(/^0+/, ''));
  const next = items.find((i) => i.key === armed);
  const enter = () => {
    if (typed !== '') {
      if (!found) return;
      setTyped('');
      // Before there is an answer: the next Enter is this item's, however soon it comes, and never what a lane has next.
      setArmed(found.key);
      onNext(found);
      void desk.act({ kind: 'next', item: found.key }).then((answer) => {
        if (!answer.ok) setArmed((was) => (was === found.key ? null : was));
      });
    } else if (next) {
      setArmed(null);
      void desk.takeItem(next);
    }
  };
  const busy = typed !== '' || next !== undefined;
  // Whoever does something else in between means by Enter what that leads to, as the view shows it.
  useLeave(armed !== null, /^(Enter|Shift|Control|Alt|Meta)$/, () => setArmed(null));
  useKeys(
    {
      ...Object.fromEntries(
        Array.from('0123456789', (digit) => [
          digit,
          () => {
            setArmed(null);
            setTyped((was) => (was + digit).slice(-MOST));
          },
        ]),
      ),
      ...(busy && {
        enter,
        escape: () => {
          setTyped('');
          setArmed(null);
        },
      }),
      ...(typed !== '' && { backspace: () => setTyped((was) => was.slice(0, -1)) }),
    },
    true,
  );
  if (!busy && over) return null;
  return (
    <p className={css['recall']} data-over={over} data-busy={busy} role="status" aria-label="Call by number">
      {typed !== '' ? (
        <>
          <b>{typed}</b>
          <span>{found ? found.name : 'No item has this number'}</span>
          {found && (
            <span>
              <KeyCap>Enter</KeyCap> puts it next
            </span>
          )}
        </>
      ) : next ? (
        <>
          <b>{next.number}</b>
          <span>{next.name} is next</span>
          <span>
            <KeyCap>Enter</KeyCap> takes it
          </span>
        </>
      ) : (
        <span>Type a number to call an item</span>
      )}
    </p>
  );
}
