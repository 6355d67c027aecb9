import { healthWord } from '../../core/source/health.ts';
import { useRef } from 'react';
import { useVirtualizer } from '@tanstack/react-virtual';
import { isByHand, type SourceBundle } from '../../core/source/source.ts';
import type { Desk, Prepared } from '../shared/desk.ts';
import { useDesk } from '../shared/use-desk.ts';
import { Button } from '../../ui/Button.tsx';
import { useSearch } from '../../ui/search.tsx';
import { tip } from '../../ui/tip.ts';
import shell from '../shared/View.module.css';
import { proposals, readingLines, type ReadingLine } from './overview.ts';
import css from './PatchView.module.css';

/** A reading that is on its way to a field: dragged, or chosen to be put somewhere. */
export interface Carried {
  source: string;
  /** Its id, and what people call it. */
  reading: string;
  name: string;
}
export const DRAGGED = 'application/x-foothill-reading';
export const plural = (n: number, one: string, many: string) => (n === 1 ? `one ${one}` : `${n} ${many}`);

type Proposed = ReturnType<typeof proposals>;
type Row =
  | { kind: 'source'; bundle: SourceBundle; said: string | null }
  | { kind: 'reading'; bundle: SourceBundle; line: ReadingLine };

/** How high a row is before it has been measured, in px. */
const HIGH = { source: 34, reading: 31 };

interface Props {
  desk: Desk;
  snapshot: Prepared;
  carried: Carried | null;
  onCarry: (what: Carried | null) => void;
  onAccept: (bundle: SourceBundle, found: Proposed) => void;
}

/** All readings of all sources, drawn only where they are seen. */
export function ReadingsList({ desk, snapshot, carried, onCarry, onAccept }: Props) {
  const search = useSearch('Find a reading');
  const area = useRef<HTMLDivElement>(null);
  const label = (key: string) =>
    snapshot.defs.find((d) => d.key === key)?.label ?? `${key}, not in this sport`;
  const rows = snapshot.bundles.flatMap((bundle): Row[] => {
    const { name } = bundle.source;
    const lines = readingLines(bundle).filter((l) => search.finds(name, l.name, ...l.feeds.map(label)));
    if (lines.length === 0 && search.active) return [];
    return [
      { kind: 'source', bundle, said: lines.length ? null : nothingIn(bundle) },
      ...lines.map((line) => ({ kind: 'reading' as const, bundle, line })),
    ];
  });
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => area.current,
    estimateSize: (i) => HIGH[rows[i]!.kind],
    getItemKey: (i) => {
      const row = rows[i]!;
      return `${row.bundle.source.key} ${row.kind === 'reading' ? row.line.id : ''}`;
    },
    gap: 3,
    overscan: 8,
  });
  return (
    <aside className={shell['side']} aria-label="Readings">
      {search.box}
      <div ref={area} className={css['readings']}>
        <div role="list" className={css['rows']} style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map((item) => {
            const row = rows[item.index]!;
            return (
              <div
                role="listitem"
                key={item.key}
                ref={virtual.measureElement}
                data-index={item.index}
                style={{ transform: `translateY(${item.start}px)` }}
              >
                {row.kind === 'source' ? (
                  <Source
                    row={row}
                    desk={desk}
                    found={proposals(row.bundle, snapshot.defs)}
                    onAccept={(found) => onAccept(row.bundle, found)}
                  />
                ) : (
                  <Reading row={row} label={label} carried={carried} onCarry={onCarry} />
                )}
              </div>
            );
          })}
        </div>
      </div>
      {rows.length === 0 && (
        <p className={shell['dim']}>
          {search.active ? 'No reading matches.' : 'No source is connected yet. Add one under Sources.'}
        </p>
      )}
    </aside>
  );
}

function nothingIn({ source, document }: SourceBundle): string {
  const tables = document?.tables.length ?? 0;
  if (isByHand(source)) return 'Stands by for every field, behind all devices.';
  return tables ? `${plural(tables, 'table', 'tables')}, no single reading.` : 'No reading has a name yet.';
}

function Source({
  desk,
  row: { bundle, said },
  found,
  onAccept,
}: {
  row: Extract<Row, { kind: 'source' }>;
  desk: Desk;
  found: Proposed;
  onAccept: (found: Proposed) => void;
}) {
  const word = useDesk(desk, (s) => {
    const source = s.desk!.sources.find((x) => x.key === bundle.source.key);
    return source && healthWord(source);
  });
  return (
    <section className={css['source']} data-readings={bundle.source.key}>
      <h2>
        {bundle.source.name} <em data-health={word}>{word}</em>
      </h2>
      {found.length > 0 && (
        <Button
          onClick={() => onAccept(found)}
          {...tip(found.map((f) => `${f.name} → ${f.field.label}`).join('\n'))}
        >
          Accept {found.length === 1 ? 'the suggestion' : `all ${found.length} suggestions`}
        </Button>
      )}
      {said && <p className={shell['dim']}>{said}</p>}
    </section>
  );
}

function Reading({
  row: { bundle, line },
  label,
  carried,
  onCarry,
}: {
  row: Extract<Row, { kind: 'reading' }>;
  label: (key: string) => string;
  carried: Carried | null;
  onCarry: (what: Carried | null) => void;
}) {
  const { key } = bundle.source;
  const what: Carried = { source: key, reading: line.id, name: line.name };
  const mine = carried?.source === key && carried.reading === line.id;
  return (
    <button
      type="button"
      draggable
      className={css['reading']}
      data-unused={line.feeds.length === 0 && !line.runs}
      aria-pressed={mine}
      onClick={() => onCarry(mine ? null : what)}
      onDragStart={(event) => {
        event.dataTransfer.setData(DRAGGED, JSON.stringify(what));
        event.dataTransfer.effectAllowed = 'link';
      }}
    >
      <b>{line.name}</b>
      <span>
        {line.feeds.length ? line.feeds.map(label).join(', ') : line.runs ? 'runs a clock' : 'feeds nothing'}
      </span>
    </button>
  );
}
