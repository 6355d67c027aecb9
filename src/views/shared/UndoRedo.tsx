import { Button } from '../../ui/Button.tsx';
import { useKeys } from '../../ui/keys.ts';
import type { Desk } from './desk.ts';
import { useDesk } from './use-desk.ts';
import { tip } from '../../ui/tip.ts';
import css from './View.module.css';

/** Undo and redo of this person at this view, by button and key; each says what it would do. */
export function UndoRedo({ desk }: { desk: Desk }) {
  const undo = useDesk(desk, (s) => s.undo);
  const redo = useDesk(desk, (s) => s.redo);
  return (
    <span className={css['pair']}>
      <Button
        shortcut="Ctrl+Z"
        disabled={undo === null}
        {...tip(undo === null ? 'Nothing to undo' : `Undo: ${undo}`)}
        onClick={() => void desk.undo()}
      >
        Undo
      </Button>
      <Button
        shortcut="Ctrl+Y"
        disabled={redo === null}
        {...tip(redo === null ? 'Nothing to redo' : `Redo: ${redo}`)}
        onClick={() => void desk.redo()}
      >
        Redo
      </Button>
    </span>
  );
}

/** The keys of undo and redo, everywhere in a view. */
export function useUndoKeys(desk: Desk | null): void {
  useKeys(
    desk
      ? {
          'ctrl+z': () => void desk.undo(),
          'ctrl+y': () => void desk.redo(),
          'ctrl+shift+z': () => void desk.redo(),
        }
      : {},
  );
}
