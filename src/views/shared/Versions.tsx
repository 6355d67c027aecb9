import { useState } from 'react';
import { Button } from '../../ui/Button.tsx';
import { laterDialog } from '../../ui/Later.tsx';
import type { VersionsDialog } from './VersionsDialog.tsx';

const Versions = laterDialog(() => import('./VersionsDialog.tsx').then((m) => m.VersionsDialog));

/** The way to the versions of what is edited. */
export function VersionsButton(props: Omit<Parameters<typeof VersionsDialog>[0], 'onClose'>) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button onClick={() => setOpen(true)}>Versions…</Button>
      {open && <Versions {...props} onClose={() => setOpen(false)} />}
    </>
  );
}
