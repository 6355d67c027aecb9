import { useState, type ReactNode } from 'react';
import { Guard } from '../../ui/Guard.tsx';
import { Desk, type Prepared } from './desk.ts';
import { Heading, TopBar } from './TopBar.tsx';
import { Palette } from './Palette.tsx';
import { doAgain, takeBack, useUndoKeys } from './UndoRedo.tsx';
import { useDesk, usePrepared } from './use-desk.ts';
import css from './View.module.css';

/** What every view works with: the way to act and to know, and what people prepared, which is there. */
export interface Seen {
  desk: Desk;
  snapshot: Prepared;
}

/** A view's shell: it follows the server, says what it waits for, and has the way to the other views at its top. */
export function View({
  here,
  columns,
  ownUndo = false,
  children,
}: {
  here: string;
  /** The widths of its columns below the top. */
  columns: string;
  /** It has an undo of its own: its keys are not the desk's. */
  ownUndo?: boolean;
  children: (seen: Seen) => ReactNode;
}) {
  const [desk] = useState(() => new Desk(here.slice(1)));
  const snapshot = usePrepared(desk);
  useUndoKeys(ownUndo ? null : { undo: () => takeBack(desk), redo: () => doAgain(desk) });
  if (!snapshot) return <Connecting desk={desk} />;
  return (
    <div className={css['view']} style={{ gridTemplateColumns: columns }}>
      <div className={css['top']}>
        <Guard name="The top bar">
          <TopBar desk={desk} snapshot={snapshot} here={here} />
          <Palette desk={desk} snapshot={snapshot} />
        </Guard>
      </div>
      <main className={css['main']}>
        <Heading here={here} />
        <Guard name="This view">
          <Body seen={{ desk, snapshot }}>{children}</Body>
        </Guard>
      </main>
    </div>
  );
}

/** What a view draws, within what catches its faults. */
const Body = ({ seen, children }: { seen: Seen; children: (seen: Seen) => ReactNode }) => children(seen);

/** What stands in a view's place before the server's first word. */
export function Connecting({ desk }: { desk: Desk }) {
  const here = useDesk(desk, (s) => s.here);
  return (
    <p className={css['waiting']}>
      {here === false ? 'The server does not answer. This page tries again by itself.' : 'Connecting…'}
    </p>
  );
}
