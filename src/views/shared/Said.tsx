import { useState } from 'react';
import type { Desk } from './desk.ts';
import { useDesk } from './use-desk.ts';
import css from './View.module.css';

/** Why what was asked for here could not be done; nothing of what was done before this stood there. */
export function Refused({ desk }: { desk: Desk }) {
  const said = useDesk(desk, (s) => s.said);
  const [before] = useState(said);
  return (
    <p role="alert" className={css['refused']} hidden={said === before || said === null || said.ok}>
      {said !== before && !said?.ok && said?.text}
    </p>
  );
}

/** What came of the last action, as a sentence. */
export function LastAction({ desk, instead }: { desk: Desk; instead?: string | null }) {
  const said = useDesk(desk, (s) => s.said);
  const bad = said !== null && !said.ok;
  return (
    <p role="status" aria-label="Last action" className={css[bad || instead ? 'refused' : 'dim']}>
      {instead ?? said?.text}
    </p>
  );
}
