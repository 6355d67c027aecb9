import { idOf, renamed } from '../../core/decode/reading-id.ts';
import { useMemo, useState } from 'react';
import type { SourceBundle } from '../../core/source/source.ts';
import type { FieldDef } from '../../core/sport/profile.ts';
import type { DocReading, DocType } from '../../core/tree/doc-map.ts';
import { parsePlace } from '../../core/tree/place.ts';
import { isClockReading } from '../../core/decode/reading.ts';
import { inferType, proposeTable, readPlain } from '../../core/tree/read.ts';
import type { SourceState } from '../../core/wire/wire.ts';
import { later } from '../../ui/Later.tsx';
import { Button } from '../../ui/Button.tsx';
import { useKeys } from '../../ui/keys.ts';
import { useStable } from '../../ui/stable.ts';
import { ageText } from '../shared/time.ts';
import type { DocumentLook, Looked } from './document.ts';
import { freshKey } from '../../core/text/keys.ts';
import { tableName, withDocument } from './draft.ts';
import { useFeeds } from './feeds.tsx';
import { NameInput } from './NameInput.tsx';
import { sayValue } from './ReadingTable.tsx';
import { TablePanel } from './TablePanel.tsx';
import type { Pick } from './Tree.tsx';
import { tip } from '../../ui/tip.ts';
import { NumberField } from '../../ui/NumberField.tsx';
import { RemoveCell } from './RemoveCell.tsx';
import css from './SourcesView.module.css';

const Tree = later(() => import('./Tree.tsx').then((m) => m.Tree));

const TYPES: Record<DocType, string> = {
  text: 'text, as written',
  number: 'number',
  clock: 'clock',
  flag: 'yes or no',
};

interface Props {
  bundle: SourceBundle;
  looked: Looked | null;
  /** More of what repeats is to be seen. */
  onMore: () => void;
  look: DocumentLook | null;
  state: SourceState | undefined;
  now: number;
  defs: FieldDef[];
  bundles: SourceBundle[];
  onChange: (bundle: SourceBundle) => void;
}

/** A real document to pick readings and tables from. */
export function DocumentPanel({ bundle, looked, look, onMore, state, now, defs, bundles, onChange }: Props) {
  const [picked, setPicked] = useState<Extract<Pick, { kind: 'value' }> | null>(null);
  const map = bundle.document;
  useKeys({ f: () => void look?.fetchNow() });
  const readings = map?.readings;
  const named = useMemo(() => new Set(readings?.map((r) => r.place)), [readings]);
  const pick = useStable((chosen: Pick) => {
    if (chosen.kind === 'value') return setPicked(chosen);
    const taken = bundles.flatMap((b) => b.document?.tables.map((t) => t.key) ?? []);
    const own = map?.tables.map((t) => t.key) ?? [];
    const name = tableName(bundle.source.name, chosen, map?.tables.map((t) => t.name) ?? []);
    const key = freshKey(name, [...taken, ...own], 'table');
    const table = looked && proposeTable(looked.tree, chosen.place, key, name);
    if (table) onChange(withDocument(bundle, { tables: [...(map?.tables ?? []), table] }));
  });
  const more = useStable(onMore);
  const trouble = state?.trouble;
  const recent = trouble && (state.health !== 'live' || !state.connected || now - trouble.at < 10_000);
  return (
    <section className={css['panel']} aria-label="Document">
      <div className={css['heading']}>
        <h2>Document</h2>
        <small className={css['counts']}>
          {looked ? looked.format : 'nothing good has come yet'}
          {state?.changedAt != null && `, changed ${ageText(now - state.changedAt)} ago`}
        </small>
        {look && (
          <Button shortcut="F" disabled={look.fetching} onClick={() => void look.fetchNow()}>
            {look.fetching ? 'Fetching…' : 'Fetch now'}
          </Button>
        )}
        {looked && (
          <label>
            Numbers like{' '}
            <select
              value={map?.numbers ?? 'point'}
              onChange={(e) =>
                onChange(withDocument(bundle, { numbers: e.target.value as 'point' | 'comma' }))
              }
            >
              <option value="point">1,234.5</option>
              <option value="comma">1.234,5</option>
            </select>
          </label>
        )}
        {(looked?.format === 'CSV' || looked?.format === 'XLSX') && (
          <NumberField
            label="Headings in row"
            min={0}
            max={1000}
            value={map?.heading ?? null}
            placeholder="found"
            tip={tip('Counted from 1; 0 where there are none; found where nothing is written')}
            onChange={(heading) => onChange(withDocument(bundle, { heading }))}
            onEmpty={() => onChange(withDocument(bundle, { heading: undefined }))}
          />
        )}
        {recent && (
          <span className={css['trouble']} role="status" aria-label="Trouble" {...tip(trouble.text)}>
            {trouble.text}. {looked ? 'The last good document stands.' : 'It is tried again.'}
          </span>
        )}
      </div>
      {look?.problem && looked && <p className={css['refused']}>{look.problem}</p>}
      {looked && <Tree root={looked.tree} named={named} onPick={pick} onMore={more} />}
      {picked && (
        <NewReading
          key={picked.place}
          picked={picked}
          taken={map?.readings.map((r) => r.name) ?? []}
          onCancel={() => setPicked(null)}
          onAdd={(reading) => {
            onChange(withDocument(bundle, { readings: [...(map?.readings ?? []), reading] }));
            setPicked(null);
          }}
        />
      )}
      {looked && !picked && (map?.readings.length ?? 0) + (map?.tables.length ?? 0) === 0 && (
        <p className={css['next']}>
          Pick a value to make it a reading, or make a table of what repeats. Then save.
        </p>
      )}
      <DocumentReadings bundle={bundle} looked={looked} defs={defs} bundles={bundles} onChange={onChange} />
      {map?.tables.map((table) => (
        <TablePanel
          key={table.key}
          table={table}
          read={looked?.tables.find((t) => t.key === table.key) ?? null}
          onChange={(next) =>
            onChange(
              withDocument(bundle, {
                tables: map.tables.flatMap((t) => (t === table ? (next ? [next] : []) : [t])),
              }),
            )
          }
        />
      ))}
    </section>
  );
}

function NewReading({
  picked,
  taken,
  onAdd,
  onCancel,
}: {
  picked: Extract<Pick, { kind: 'value' }>;
  taken: string[];
  onAdd: (reading: DocReading) => void;
  onCancel: () => void;
}) {
  const [name, setName] = useState(() => nameFor(picked));
  const [place, setPlace] = useState(picked.place);
  const [as, setAs] = useState<DocType>(() => inferType([picked.value]));
  const problem = !name.trim()
    ? 'Give it a name.'
    : taken.includes(name.trim())
      ? 'That name is taken.'
      : parsePlace(place) === null
        ? 'This is no place in a document.'
        : null;
  const read = readPlain(name, picked.value, as);
  return (
    <form
      className={css['new']}
      aria-label="New reading"
      onKeyDown={(e) => e.key === 'Escape' && onCancel()}
      onSubmit={(event) => {
        event.preventDefault();
        if (!problem) onAdd({ name: name.trim(), place, as });
      }}
    >
      <label>
        Name <input autoFocus value={name} onChange={(e) => setName(e.target.value)} maxLength={80} />
      </label>
      <label>
        Place <input value={place} onChange={(e) => setPlace(e.target.value)} size={48} />
      </label>
      <label>
        Kind{' '}
        <select value={as} onChange={(e) => setAs(e.target.value as DocType)}>
          {Object.entries(TYPES).map(([k, label]) => (
            <option key={k} value={k}>
              {label}
            </option>
          ))}
        </select>
      </label>
      <span className={css['now']}>→ {read.problem ?? sayValue(read.value ?? null)}</span>
      <Button type="submit" main disabled={problem !== null} {...tip(problem)}>
        Add reading
      </Button>
      <Button onClick={onCancel}>Cancel</Button>
    </form>
  );
}

/** A name made of what marks the record out and the value's own name: `home score`. */
function nameFor({ place, name }: Extract<Pick, { kind: 'value' }>): string {
  const marks = [...place.matchAll(/='([^']*)'\]/g)].map((m) => m[1]!);
  return [...marks, name].join(' ').replace(/[_-]+/g, ' ').slice(0, 80);
}

function DocumentReadings({
  bundle,
  looked,
  defs,
  bundles,
  onChange,
}: Omit<Props, 'look' | 'onMore' | 'state' | 'now'>) {
  const readings = bundle.document?.readings ?? [];
  const feeds = useFeeds({
    bundle,
    defs,
    bundles,
    onChange,
    nowOf: (name) => {
      const value = looked?.readings.find((r) => r.name === name)?.value ?? null;
      return isClockReading(value) ? value.ms : value;
    },
  });
  if (readings.length === 0) return null;
  const change = (was: DocReading, next: DocReading | null) =>
    onChange(
      withDocument(bundle, { readings: readings.flatMap((r) => (r === was ? (next ? [next] : []) : [r])) }),
    );
  return (
    <table className={`${css['table']} ${css['places']}`}>
      <thead>
        <tr>
          <th>Reading</th>
          <th>Place</th>
          <th>Kind</th>
          <th>Now</th>
          <th>{feeds.heading}</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {readings.map((r) => {
          const now = looked?.readings.find((x) => x.name === r.name);
          return (
            <tr key={idOf(r)} data-reading={r.name}>
              <td>
                <NameInput
                  name={r.name}
                  taken={readings.map((x) => x.name)}
                  onRename={(name) => change(r, renamed(r, name))}
                />
              </td>
              <td>
                <input
                  key={r.place}
                  defaultValue={r.place}
                  aria-label={`Place of the reading ${r.name}`}
                  {...tip(r.place)}
                  onBlur={(e) => {
                    const place = e.target.value.trim();
                    if (place === r.place) return;
                    if (parsePlace(place)) change(r, { ...r, place });
                    else e.target.value = r.place;
                  }}
                />
              </td>
              <td>
                <select
                  value={r.as}
                  aria-label={`Kind of ${r.name}`}
                  onChange={(e) => change(r, { ...r, as: e.target.value as DocType })}
                >
                  {Object.entries(TYPES).map(([k, label]) => (
                    <option key={k} value={k}>
                      {label}
                    </option>
                  ))}
                </select>
              </td>
              <td className={css['now']}>{now ? (now.problem ?? sayValue(now.value ?? null)) : '–'}</td>
              <td>{feeds.cell(idOf(r))}</td>
              <RemoveCell name={r.name} onRemove={() => change(r, null)} />
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
