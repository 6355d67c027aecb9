import { useState } from 'react';
import { counted } from '../../core/text/words.ts';
import { Button } from '../../ui/Button.tsx';
import { laterDialog } from '../../ui/Later.tsx';
import { tip } from '../../ui/tip.ts';
import type { Seen } from '../shared/View.tsx';
import { changesOf } from './looks.ts';
import css from './Looks.module.css';

const LooksDialog = laterDialog(() => import('./LooksDialog.tsx').then((m) => m.LooksDialog));

/** The looks, each recalled at one stroke; how much each would change stands on it, and what, where it is pointed at. */
export function Looks({ desk, snapshot }: Seen) {
  const { look: looks } = snapshot.documents;
  const [open, setOpen] = useState(false);
  return (
    <div className={css['looks']} role="group" aria-label="Looks">
      <span>Looks</span>
      {looks.map((look) => {
        const { count, lines } = changesOf(look, snapshot);
        return (
          <Button
            key={look.key}
            shortcut={look.hotkey || undefined}
            disabled={count === 0}
            onClick={() => void desk.act({ kind: 'recall-look', look: look.key })}
            {...tip(lines.join('\n') || 'All stands as it has it')}
          >
            {look.name}
            <small>{count === 0 ? 'stands' : counted(count, 'change')}</small>
          </Button>
        );
      })}
      <Button onClick={() => setOpen(true)}>{looks.length ? 'Edit…' : 'Keep a look…'}</Button>
      {open && <LooksDialog desk={desk} snapshot={snapshot} onClose={() => setOpen(false)} />}
    </div>
  );
}
