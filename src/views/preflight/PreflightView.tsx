import { useEffect, useMemo, useState } from 'react';
import CircleCheck from 'lucide-react/icons/circle-check';
import { SEVERITIES, type Fix, type Severity } from '../../core/show/finding.ts';
import { findings } from '../../core/show/findings.ts';
import { gathered, type Gathered } from '../../core/show/findings-of-data.ts';
import { counted } from '../../core/text/words.ts';
import { Button } from '../../ui/Button.tsx';
import { useSearch } from '../../ui/search.tsx';
import type { Desk } from '../shared/desk.ts';
import { LastAction } from '../shared/Said.tsx';
import { UndoRedo } from '../shared/UndoRedo.tsx';
import { useDesk, useKnown } from '../shared/use-desk.ts';
import { View, type Seen } from '../shared/View.tsx';
import { useFits } from './fits.ts';
import shell from '../shared/View.module.css';
import css from './PreflightView.module.css';

const HEADINGS: Record<Severity, string> = {
  now: 'Wrong now',
  taken: 'Wrong when it is taken',
  look: 'Worth a look',
};

/** How often it is asked what is left of the disk, in ms. */
const DISK_EVERY = 20_000;

/** Everything that would embarrass, the worst first, each with one step to its fix. It follows what changes. */
export default function PreflightView() {
  return (
    <View here="/preflight" columns="minmax(0, 1fr)">
      {(seen) => <Findings {...seen} />}
    </View>
  );
}

function useDisk(): number | null {
  const [room, setRoom] = useState<number | null>(null);
  useEffect(() => {
    const ask = () =>
      void fetch('/healthz')
        .then((answer) => answer.json() as Promise<{ disk?: number | null }>)
        .then(
          ({ disk }) => setRoom(disk ?? null),
          () => setRoom(null),
        );
    ask();
    const timer = setInterval(ask, DISK_EVERY);
    return () => clearInterval(timer);
  }, []);
  return room;
}

/** The fields of the board, looked at once a second: no check needs them sooner. */
function useFieldsNow(desk: Desk) {
  const [fields, setFields] = useState(() => desk.store.getState().fields);
  useEffect(() => {
    const timer = setInterval(() => setFields(desk.store.getState().fields), 1000);
    return () => clearInterval(timer);
  }, [desk]);
  return fields;
}

function Findings({ desk, snapshot }: Seen) {
  const sources = useKnown(desk, 'sources');
  const tables = useKnown(desk, 'tables');
  const rehearsal = useKnown(desk, 'rehearsal');
  const here = useDesk(desk, (s) => s.here);
  const disk = useDisk();
  const fits = useFits(desk, snapshot);
  const fields = useFieldsNow(desk);
  const found = useMemo(
    () => findings({ ...snapshot, sources, tables, rehearsal, disk, fits: fits ?? new Map() }, desk),
    // The board is read through the desk; its fields are what makes the answer change.
    // oxlint-disable-next-line react/exhaustive-deps
    [snapshot, sources, tables, rehearsal, disk, fits, fields, desk],
  );
  const search = useSearch('Find in what was found');
  const shown = found.filter((f) => search.finds(f.subject, f.text));
  const { item, output } = snapshot.documents;
  const looked = `${counted(item.length, 'item')}, ${counted(output.length, 'output')} and ${counted(sources.length, 'source')} are looked at all the time.`;
  return (
    <div className={`${shell['editor']} ${css['view']}`}>
      <header className={shell['bar']}>
        <h2>Preflight</h2>
        {search.box}
        <UndoRedo desk={desk} />
      </header>
      <LastAction desk={desk} />
      <p className={shell['dim']} role="status" aria-label="What is looked at">
        {here === false ? 'The server does not answer: this is how things stood.' : looked}
        {fits === null && ' How texts fit is being drawn…'}
      </p>
      {found.length === 0 && fits !== null && (
        <p className={css['well']}>
          <CircleCheck size={20} /> Nothing would embarrass you.
        </p>
      )}
      {SEVERITIES.map((severity) => {
        const own = shown.filter((f) => f.severity === severity);
        if (own.length === 0) return null;
        return (
          <section
            key={severity}
            className={shell['panel']}
            data-severity={severity}
            aria-label={HEADINGS[severity]}
          >
            <h2>
              {HEADINGS[severity]} <small>{own.length}</small>
            </h2>
            <ul className={css['found']}>
              {gathered(own).map((g) => (
                <Line key={g.first.key} desk={desk} gathered={g} />
              ))}
            </ul>
          </section>
        );
      })}
      {shown.length === 0 && found.length > 0 && (
        <p className={shell['dim']}>Nothing found has these words.</p>
      )}
    </div>
  );
}

function Line({ desk, gathered: { first, all, subject } }: { desk: Desk; gathered: Gathered }) {
  if (all.length === 1)
    return (
      <li data-finding={first.key}>
        <b>{subject}</b>
        <span>{first.text}</span>
        <Step desk={desk} fix={first.fix} />
      </li>
    );
  return (
    <li data-finding={first.key} data-several={all.length}>
      <details>
        <summary>
          <b>{subject}</b>
          <span>{first.text}</span>
        </summary>
        <ul>
          {all.map((f) => (
            <li key={f.key} data-finding={f.key}>
              <b>{f.subject}</b>
              <Step desk={desk} fix={f.fix} />
            </li>
          ))}
        </ul>
      </details>
    </li>
  );
}

/** The one step to what mends it. */
function Step({ desk, fix }: { desk: Desk; fix: Fix }) {
  return 'act' in fix ? (
    <Button onClick={() => void desk.act(fix.act)}>{fix.label}</Button>
  ) : (
    <a href={fix.href} {...(fix.href.startsWith('/air/') ? { target: '_blank', rel: 'noreferrer' } : {})}>
      {fix.label}
    </a>
  );
}
