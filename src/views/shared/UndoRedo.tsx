import { useState } from 'react';
import History from 'lucide-react/icons/rotate-ccw-clock';
import type { Undoable } from '../../core/actions/past.ts';
import { Button } from '../../ui/Button.tsx';
import { useKeys } from '../../ui/keys.ts';
import { laterDialog } from '../../ui/Later.tsx';
import { Question } from './Question.tsx';
import type { Desk } from './desk.ts';
import { useDesk } from './use-desk.ts';
import { tip } from '../../ui/tip.ts';
import { useRedoes, useRestores } from './restores.ts';
import css from './View.module.css';

const DoneDialog = laterDialog(() => import('./DoneDialog.tsx').then((m) => m.DoneDialog));

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

/**
 * Takes the newest action at this view back, or one by its id. Where that changes what is on air it is shown first what it restores,
 * and done when it is asked for again.
 */
export function takeBack(desk: Desk, id?: string): Promise<void> {
  return desk.inTurn(async () => {
    const { past, armed } = desk.store.getState();
    // A second press means what is shown, whatever became the newest since.
    const asked = id ?? armed;
    const one = (asked === null ? undefined : past.find((p) => p.id === asked)) ?? past[0];
    const arms = one?.air !== undefined && armed !== one.id;
    desk.store.setState({ armed: arms ? one.id : null, redoArmed: false });
    if (!arms) await desk.undo(one?.id);
  });
}

/** Does again what was taken back last. Where that changes what is on air it is shown first, and done when it is asked for again. */
export function doAgain(desk: Desk): Promise<void> {
  return desk.inTurn(async () => {
    const { redoes, redoArmed } = desk.store.getState();
    const arms = redoes.length > 0 && !redoArmed;
    desk.store.setState({ armed: null, redoArmed: arms });
    if (!arms) await desk.redo();
  });
}

/** Undo and redo of this person at this view, and the list of what was done. */
export function UndoRedo({ desk }: { desk: Desk }) {
  const undo = useDesk(desk, (s) => s.undo);
  const redo = useDesk(desk, (s) => s.redo);
  const armed = useDesk(desk, (s) => s.past.find((p) => p.id === s.armed) ?? null);
  const redoArmed = useDesk(desk, (s) => s.redoArmed);
  const [listed, list] = useState(false);
  return (
    <>
      <UndoRedoButtons
        {...{ undo, redo }}
        onUndo={() => void takeBack(desk)}
        onRedo={() => void doAgain(desk)}
      />
      <Button aria-label="What was done here" {...tip('What was done here')} onClick={() => list(true)}>
        <History size={16} />
      </Button>
      {armed && <Armed desk={desk} undoable={armed} />}
      {redoArmed && <RedoArmed desk={desk} text={redo ?? ''} />}
      {listed && <DoneDialog desk={desk} onClose={() => list(false)} />}
    </>
  );
}

/** What an undo would put back on air, and whether it is to be done. */
function Armed({ desk, undoable }: { desk: Desk; undoable: Undoable }) {
  return (
    <Question
      label="Undo of what is on air"
      heading={`Undo: ${undoable.text}`}
      says={useRestores(desk, undoable)}
      yes="Undo"
      yesKey="Ctrl+Z"
      no="Leave it"
      onYes={() => void takeBack(desk, undoable.id)}
      onNo={() => desk.store.setState({ armed: null })}
    />
  );
}

/** What a redo would put on air, and whether it is to be done. */
function RedoArmed({ desk, text }: { desk: Desk; text: string }) {
  return (
    <Question
      label="Redo of what is on air"
      heading={`Redo: ${text}`}
      says={useRedoes(desk)}
      yes="Redo"
      yesKey="Ctrl+Y"
      no="Leave it"
      onYes={() => void doAgain(desk)}
      onNo={() => desk.store.setState({ redoArmed: false })}
    />
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
