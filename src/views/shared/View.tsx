import { useState, type ReactNode } from 'react';
import type { DeskSnapshot } from '../../core/wire/wire.ts';
import { Desk, useDesk, type DeskState } from './desk.ts';
import { Heading, TopBar } from './TopBar.tsx';
import { useUndoKeys } from './UndoRedo.tsx';
import css from './View.module.css';

/** What every view works with: the way to act, what this page knows, and the server's own state, which is there. */
export interface Seen {
  desk: Desk;
  state: DeskState;
  snapshot: DeskSnapshot;
}

/** A view's shell: it follows the server, says what it waits for, and has the way to the other views at its top. */
export function View({
  here,
  columns,
  children,
}: {
  here: string;
  /** The widths of its columns below the top. */
  columns: string;
  children: (seen: Seen) => ReactNode;
}) {
  const [desk] = useState(() => new Desk(here.slice(1)));
  const state = useDesk(desk);
  useUndoKeys(desk);
  if (!state.desk) {
    return (
      <p className={css['waiting']}>
        {state.here === false
          ? 'The server does not answer. This page tries again by itself.'
          : 'Connecting…'}
      </p>
    );
  }
  return (
    <div className={css['view']} style={{ gridTemplateColumns: columns }}>
      <div className={css['top']}>
        <TopBar desk={desk} state={state} here={here} />
      </div>
      <main className={css['main']}>
        <Heading here={here} />
        {children({ desk, state, snapshot: state.desk })}
      </main>
    </div>
  );
}

/** What came of the last action, as a sentence. */
export function LastAction({ state, instead }: { state: DeskState; instead?: string | null }) {
  const { said } = state;
  const bad = said !== null && !said.ok;
  return (
    <p role="status" aria-label="Last action" className={css[bad || instead ? 'refused' : 'dim']}>
      {instead ?? said?.text}
    </p>
  );
}
