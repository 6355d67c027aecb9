import { useState } from 'react';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import css from './NameDialog.module.css';

/** Asks who sits at this desk; the log and the versions say it. */
export function NameDialog({
  name,
  onName,
  onClose,
}: {
  name: string;
  onName: (name: string) => void;
  onClose: () => void;
}) {
  const [typed, setTyped] = useState(name);
  return (
    <Dialog
      title="Who sits at this desk"
      onClose={onClose}
      actions={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button
            main
            onClick={() => {
              onName(typed.trim());
              onClose();
            }}
          >
            Save
          </Button>
        </>
      }
    >
      <form
        className={css['name']}
        onSubmit={(event) => {
          event.preventDefault();
          onName(typed.trim());
          onClose();
        }}
      >
        <p>The log and the versions of documents show who made each change. This browser remembers it.</p>
        <label>
          Name{' '}
          <input
            autoFocus
            value={typed}
            maxLength={80}
            autoComplete="name"
            onChange={(e) => setTyped(e.target.value)}
          />
        </label>
      </form>
    </Dialog>
  );
}
