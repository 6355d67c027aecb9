import type { Undoable } from '../../core/actions/past.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import type { Desk } from './desk.ts';
import { useRestores } from './restores.ts';
import { useDesk } from './use-desk.ts';
import { LastAction } from './Said.tsx';
import css from './View.module.css';

/** What this person did at this view, the newest first; each can be taken back where what it touched stands as it left it. */
export function DoneDialog({ desk, onClose }: { desk: Desk; onClose: () => void }) {
  const past = useDesk(desk, (s) => s.past);
  return (
    <Dialog title="What was done here" onClose={onClose} actions={<Button onClick={onClose}>Close</Button>}>
      <ul className={css['done']} aria-label="Done">
        {past.map((p) => (
          <Line key={p.id} desk={desk} undoable={p} />
        ))}
        {past.length === 0 && <li className={css['dim']}>Nothing that can be undone yet.</li>}
      </ul>
      <LastAction desk={desk} />
    </Dialog>
  );
}

function Line({ desk, undoable }: { desk: Desk; undoable: Undoable }) {
  const restores = useRestores(desk, undoable);
  return (
    <li>
      <span>
        {undoable.text}
        {restores && <small>{restores}</small>}
      </span>
      <Button aria-label={`Undo: ${undoable.text}`} onClick={() => void desk.undo(undoable.id)}>
        Undo
      </Button>
    </li>
  );
}
