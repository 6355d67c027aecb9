import { useEffect, useState } from 'react';
import type { Item } from '../../core/show/item.ts';
import { laterDialog } from '../../ui/Later.tsx';
import { useKeys } from '../../ui/keys.ts';
import { fetchAhead, firstView } from '../../ui/loaded.ts';
import type { Doable } from './CommandPalette.tsx';
import type { Desk, Prepared } from './desk.ts';
import { COMMANDS, capOf, useKeyOf, useRunning } from './keymap.ts';
import { VIEWS } from './views.ts';
import { orderOf } from './rundown.ts';

const loadPalette = () => import('./CommandPalette.tsx').then((m) => m.CommandPalette);
const CommandPalette = laterDialog(loadPalette);

interface Seen {
  desk: Desk;
  snapshot: Prepared;
  /** An item is put next. */
  onNext?: (item: Item) => void;
}

/** Opens the commands by `Ctrl+K`, wherever one is. */
export function Palette(seen: Seen) {
  const [open, setOpen] = useState(false);
  useEffect(() => void firstView.then(() => fetchAhead(loadPalette)), []);
  useKeys({ 'ctrl+k': () => setOpen(true) });
  return open && <Open {...seen} onClose={() => setOpen(false)} />;
}

function Open({ onClose, ...seen }: Seen & { onClose: () => void }) {
  const running = useRunning();
  const keyOf = useKeyOf();
  const doable: Doable[] = [
    ...[...running].map(([id, run]) => ({
      id: `do ${id}`,
      says: COMMANDS[id].says,
      cap: capOf(keyOf(id)),
      run,
    })),
    ...airing(seen),
    ...VIEWS.map(({ href, name }) => ({ id: href, says: `Go to ${name}`, href })),
  ];
  return <CommandPalette doable={doable} onClose={onClose} />;
}

/** What can be put on air: items, next or at once, and looks. */
function airing({ desk, snapshot, onNext }: Seen): Doable[] {
  return [
    ...snapshot.documents.look.map((look) => ({
      id: `look ${look.key}`,
      says: `Recall ${look.name}`,
      cap: look.hotkey || undefined,
      run: (): void => void desk.act({ kind: 'recall-look', look: look.key }),
    })),
    ...orderOf(snapshot).flatMap((item) => [
      {
        id: `next ${item.key}`,
        says: `Next: ${item.number} ${item.name}`,
        run: (): void => {
          onNext?.(item);
          void desk.act({ kind: 'next', item: item.key });
        },
      },
      {
        id: `take ${item.key}`,
        says: `Take ${item.number} ${item.name}`,
        cap: item.hotkey || undefined,
        run: (): void => void desk.takeItem(item),
      },
    ]),
  ];
}
