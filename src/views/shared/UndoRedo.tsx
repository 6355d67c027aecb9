import { Button } from '../../ui/Button.tsx';
import { useKeys } from '../../ui/keys.ts';
import type { Desk } from './desk.ts';
import { useDesk } from './use-desk.ts';
import { tip } from '../../ui/tip.ts';
import css from './View.module.css';

interface Steps {
  /** What undo and redo would do, in words; null for nothing. */
  undo: string | null;
  redo: string | null;
  onUndo: () => void;
  onRedo: () => void;
}

/** Undo and redo by button; each says what it would do. */
export function UndoRedoButtons({ undo, redo, onUndo, onRedo }: Steps) {
  return (
    <span className={css['pair']}>
      <Button
        shortcut="Ctrl+Z"
        disabled={undo === null}
        {...tip(undo === null ? 'Nothing to undo' : `Undo: ${undo}`)}
        onClick={onUndo}
      >
        Undo
      </Button>
      <Button
        shortcut="Ctrl+Y"
        disabled={redo === null}
        {...tip(redo === null ? 'Nothing to redo' : `Redo: ${redo}`)}
        onClick={onRedo}
      >
        Redo
      </Button>
    </span>
  );
}

/** Undo and redo of this person at this view. */
export function UndoRedo({ desk }: { desk: Desk }) {
  const undo = useDesk(desk, (s) => s.undo);
  const redo = useDesk(desk, (s) => s.redo);
  return (
    <UndoRedoButtons {...{ undo, redo }} onUndo={() => void desk.undo()} onRedo={() => void desk.redo()} />
  );
}

/** The keys of undo and redo, everywhere in a view; none where the view has an undo of its own. */
export function useUndoKeys(steps: { undo: () => unknown; redo: () => unknown } | null): void {
  useKeys(
    steps
      ? {
          'ctrl+z': () => void steps.undo(),
          'ctrl+y': () => void steps.redo(),
          'ctrl+shift+z': () => void steps.redo(),
        }
      : {},
  );
}
