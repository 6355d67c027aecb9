import { useState } from 'react';
import { FIRST_STROKE } from '../../core/show/show.ts';
import { Button, KeyCap } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { Switch } from '../../ui/Switch.tsx';
import type { Prepared } from '../shared/desk.ts';
import {
  capOf,
  changeKey,
  COMMANDS,
  keyPressed,
  strokes,
  useKeyOf,
  type CommandId,
} from '../shared/keymap.ts';
import css from './KeysDialog.module.css';

const GROUPS = [...new Set(Object.values(COMMANDS).map((c) => c.of))];

/** All keys of the live view: each can be changed, and all of them printed. */
export function KeysDialog({
  snapshot,
  single,
  onSingle,
  onClose,
}: {
  snapshot: Prepared;
  /** Whether single keys work here. */
  single: boolean;
  onSingle: (on: boolean) => void;
  onClose: () => void;
}) {
  const keyOf = useKeyOf();
  const [waits, wait] = useState<CommandId | null>(null);
  const [said, say] = useState('');
  const { output: outputs, item: items, look: looks } = snapshot.documents;
  const others = [
    ...outputs.flatMap((o) =>
      o.zones.flatMap((z) => (z.letter ? [[strokes(z.letter), `Lane ${o.name}, ${z.name}`]] : [])),
    ),
    [FIRST_STROKE, 'The first of two keys of a lane'],
    ...[...items, ...looks].flatMap((i) => (i.hotkey ? [[i.hotkey, i.name]] : [])),
  ] as [string, string][];
  const change = (id: CommandId, event: React.KeyboardEvent) => {
    event.preventDefault();
    event.stopPropagation();
    if (event.key === 'Escape') return wait(null);
    const key = keyPressed(event);
    if (!key) return;
    const other =
      others.find(([k]) => k === key)?.[1] ??
      (Object.keys(COMMANDS) as CommandId[])
        .filter((c) => c !== id && keyOf(c) === key)
        .map((c) => COMMANDS[c].says)[0];
    say(other ? `${capOf(key)} is taken: ${other}.` : '');
    if (other) return;
    changeKey(id, key);
    wait(null);
  };
  return (
    <Dialog
      wide
      title="Keys"
      onClose={onClose}
      actions={
        <>
          <Button onClick={() => (Object.keys(COMMANDS) as CommandId[]).forEach((id) => changeKey(id, null))}>
            Reset all
          </Button>
          <Button onClick={() => print()}>Print</Button>
          <Button main onClick={onClose}>
            Close
          </Button>
        </>
      }
    >
      <div className={css['keys']} data-printed>
        <Switch on={single} onChange={onSingle}>
          Single keys work (keys with Ctrl always do)
        </Switch>
        <p role="status" aria-label="What is wrong with a key">
          {said}
        </p>
        <div className={css['groups']}>
          {GROUPS.map((of) => (
            <section key={of} aria-label={of}>
              <h3>{of}</h3>
              <ul>
                {(Object.keys(COMMANDS) as CommandId[])
                  .filter((id) => COMMANDS[id].of === of)
                  .map((id) => (
                    <li key={id}>
                      <span>{COMMANDS[id].says}</span>
                      <Button
                        aria-label={`${COMMANDS[id].says}: ${waits === id ? 'Press a key' : capOf(keyOf(id))}`}
                        aria-pressed={waits === id}
                        {...(waits === id ? { 'data-waits-for-key': true } : {})}
                        onClick={() => wait(id)}
                        onKeyDown={(event) => waits === id && change(id, event)}
                        onBlur={() => wait(null)}
                      >
                        {waits === id ? 'Press a key' : capOf(keyOf(id))}
                      </Button>
                    </li>
                  ))}
              </ul>
            </section>
          ))}
          <section aria-label="Lanes, items and looks">
            <h3>Lanes, items and looks</h3>
            <ul>
              {others.map(([key, name]) => (
                <li key={`${key} ${name}`}>
                  <span>{name}</span>
                  <KeyCap>{key}</KeyCap>
                </li>
              ))}
              <li>
                <span>An item by its number</span>
                <KeyCap>0 … 9</KeyCap>
              </li>
              <li>
                <span>Commands</span>
                <KeyCap>Ctrl+K</KeyCap>
              </li>
            </ul>
          </section>
        </div>
      </div>
    </Dialog>
  );
}
