import { counted } from '../../core/text/words.ts';
import { useMemo, useState } from 'react';
import Plus from 'lucide-react/icons/plus';
import type { Derived, DerivedDoc } from '../../core/derive/derived.ts';
import type { DeskSnapshot } from '../../core/wire/wire.ts';
import { Button } from '../../ui/Button.tsx';
import { later } from '../../ui/Later.tsx';
import { useSearch } from '../../ui/search.tsx';
import type { Desk, Prepared } from '../shared/desk.ts';
import { scopeOf } from '../shared/scope.ts';
import { useDesk, useKnown } from '../shared/use-desk.ts';
import { LastAction } from '../shared/Said.tsx';
import { View, type Seen } from '../shared/View.tsx';
import { Tracing } from '../shared/trace/Tracing.tsx';
import { useTrail, type Trail } from '../shared/trace/trail.ts';
import { freshKey } from '../../core/text/keys.ts';
import type { ValueContext } from '../value/context.ts';
import { Rows } from './Rows.tsx';
import { UndoRedo } from '../shared/UndoRedo.tsx';
import { FormErrors, ValidatedForm } from '../shared/ValidatedForm.tsx';
import { useEditing } from '../shared/editing.ts';
import { SavedElsewhere } from '../shared/SavedElsewhere.tsx';
import { VersionsButton } from '../shared/Versions.tsx';
import { tip } from '../../ui/tip.ts';
import shell from '../shared/View.module.css';
import css from './DataView.module.css';

const Trial = later(() => import('../value/Trial.tsx').then((m) => m.Trial));
const ValueEditor = later(() => import('../value/ValueEditor.tsx').then((m) => m.ValueEditor));
const PickEditor = later(() => import('./PickEditor.tsx').then((m) => m.PickEditor));
const PicturesEditor = later(() => import('./PicturesEditor.tsx').then((m) => m.PicturesEditor));
const TableEditor = later(() => import('./TableEditor.tsx').then((m) => m.TableEditor));

const WHAT = {
  field: 'derived field',
  table: 'derived table',
  pick: 'pick',
  pictures: 'keyed pictures',
} as const;

function fresh(what: Derived['what'], tables: DeskSnapshot['tables']): Derived {
  const table = tables[0]?.key ?? 'home.players';
  const base = { key: '', name: `New ${WHAT[what]}` };
  if (what === 'field') return { ...base, what, value: { formula: 'home.score - away.score' } };
  if (what === 'pictures')
    return {
      ...base,
      what,
      from: ['home.players'],
      path: {
        pieces: [{ fixed: 'headshots/' }, { field: 'home.short' }, { fixed: '/' }, { field: 'number' }],
      },
      fallback: '',
    };
  if (what === 'pick') return { ...base, what, table, how: { by: 'rank', rank: 1 } };
  return {
    ...base,
    what,
    from: [table],
    join: [],
    where: null,
    compute: [],
    group: null,
    sort: [],
    rank: null,
    limit: null,
  };
}

/** What is worked out of the board: fields by any Value, ranked tables, picks; and every table with its rows. */
export default function DataView() {
  return (
    <View here="/data" columns="260px minmax(0, 1fr)">
      {(seen) => <Data {...seen} />}
    </View>
  );
}

/** What is wrong, in a sentence; what failed leaves what it said before. */
const problemText = (problem: string) =>
  /[.!?]$/.test(problem) ? problem : `${problem}. The last good value stands.`;

function Data({ desk, snapshot }: Seen) {
  const tables = useKnown(desk, 'tables');
  // A link may name one.
  const [selected, setSelected] = useState(() => new URLSearchParams(location.search).get('derived'));
  const [made, setMade] = useState<Derived | null>(null);
  const search = useSearch('Find data');
  const trail = useTrail(desk);
  const derived = snapshot.derived.map((d) => d.doc);
  const plain = tables.filter((t) => t.origin !== 'derived');
  const select = (key: string) => {
    setMade(null);
    setSelected(key);
    trail.close();
  };
  const chosen = selected ?? snapshot.derived.find((d) => d.own)?.doc.key ?? plain[0]?.key ?? derived[0]?.key;
  const current = made ?? derived.find((d) => d.key === chosen) ?? null;
  const table = tables.find((t) => t.key === chosen) ?? null;
  const entry = (key: string, name: string, what: string) => (
    <li key={key} className={css['entry']}>
      <button
        type="button"
        data-entry={key}
        aria-pressed={!made && chosen === key}
        onClick={() => select(key)}
      >
        <b>{name}</b>
        {snapshot.problems[key] && (
          <em className={css['fails']} {...tip(snapshot.problems[key])}>
            fails
          </em>
        )}
        <span>
          {key} · {what}
        </span>
      </button>
    </li>
  );
  return (
    <>
      <aside className={shell['side']} aria-label="Data">
        {search.box}
        <div className={css['new']}>
          {(['field', 'table', 'pick', 'pictures'] as const).map((what) => (
            <Button
              key={what}
              aria-label={`New ${WHAT[what]}`}
              onClick={() => {
                trail.close();
                setMade(fresh(what, tables));
              }}
            >
              <Plus size={14} /> {what}
            </Button>
          ))}
        </div>
        {[true, false].map((own) => {
          const here = snapshot.derived.filter((d) => d.own === own && search.finds(d.doc.name, d.doc.key));
          return (
            here.length > 0 && (
              <section key={String(own)} className={css['part']}>
                <h2 className={css['heading']}>{own ? 'Calculated here' : 'Calculated by the sport'}</h2>
                <ul>{here.map(({ doc }) => entry(doc.key, doc.name, doc.what))}</ul>
              </section>
            )
          );
        })}
        <h2 className={css['heading']}>Tables from sources</h2>
        <ul>
          {plain
            .filter((t) => search.finds(t.name, t.key))
            .map((t) => entry(t.key, t.name, `${counted(t.rows.length, 'row')} from ${t.origin}`))}
        </ul>
      </aside>
      {current ? (
        <Editor
          key={made ? `new ${made.what}` : current.key}
          desk={desk}
          snapshot={snapshot}
          saved={current}
          isNew={made !== null}
          own={made !== null || (snapshot.derived.find((d) => d.doc.key === current.key)?.own ?? false)}
          onSelect={select}
          trail={trail}
        />
      ) : (
        <div className={shell['editor']}>
          {table ? (
            <section className={shell['panel']} aria-label={table.name}>
              <h2>{table.name}</h2>
              <p className={shell['dim']}>
                From {table.origin},{' '}
                {table.quality === 'ok' ? 'its source speaks' : `its source is ${table.quality}`}. Also at{' '}
                <a href={`/state/tables/${table.key}.csv`}>CSV</a>,{' '}
                <a href={`/state/tables/${table.key}.json`}>JSON</a>,{' '}
                <a href={`/state/tables/${table.key}.xml`}>XML</a>.
              </p>
              <Rows
                label={`Rows of ${table.name}`}
                columns={table.columns}
                rows={table.rows}
                traced={{ table: table.key, trail }}
              />
            </section>
          ) : (
            <p className={shell['waiting']}>
              No table comes in yet. Connect a source that has one, or choose a game.
            </p>
          )}
          <Traced desk={desk} trail={trail} />
        </div>
      )}
    </>
  );
}

/** What was chosen to be traced, at the foot of the page. */
function Traced({ desk, trail }: { desk: Desk; trail: Trail }) {
  if (!trail.at) return null;
  return (
    <div className={css['trace']}>
      <Tracing desk={desk} trail={trail} />
    </div>
  );
}

interface EditorProps {
  trail: Trail;
  desk: Desk;
  snapshot: Prepared;
  saved: Derived;
  isNew: boolean;
  /** False for what the sport derives: saving makes one's own of it. */
  own: boolean;
  onSelect: (key: string) => void;
}

/** What is being made has its key when it is saved. */
const read = async (derived: Derived) => {
  const { parseDerived } = await import('../../core/derive/derived.ts');
  const key = derived.key || 'new';
  const parsed = parseDerived({ schema: 1, key, derived: { ...derived, key } });
  return parsed.ok
    ? parsed
    : { ...parsed, problems: parsed.problems.map((p) => p.replace(/^derived\./, '')) };
};

function Editor({ desk, snapshot, saved, isNew, own, onSelect, trail }: EditorProps) {
  const tables = useKnown(desk, 'tables');
  // What is tried is tried on the board as it is now.
  useDesk(desk, (s) => s.fields);
  const current = () => desk.store.getState().desk?.derived.find((d) => d.doc.key === saved.key)?.doc;
  const editing = useEditing({ desk, kind: 'derived', key: saved.key, saved, isNew, current, read });
  const { draft, dirty, set: setDraft } = editing;
  const context: ValueContext = useMemo(
    () => ({
      defs: snapshot.defs,
      tables,
      inputs: {},
      now: 'the board now',
      scope: scopeOf(desk),
    }),
    [desk, snapshot.defs, tables],
  );
  const taken = [...snapshot.defs.map((d) => d.key), ...tables.map((t) => t.key)];
  const save = async (over = false) => {
    const key = isNew ? freshKey(draft.name, taken, draft.what) : draft.key;
    const put = (derived: Derived) =>
      ({
        kind: 'put-document',
        what: 'derived',
        body: { schema: 1, key, derived: { ...derived, key } } as DerivedDoc,
      }) as const;
    const { ok } = await editing.save(put, over);
    if (ok && isNew) onSelect(key);
  };
  return (
    <ValidatedForm editing={editing}>
      <div className={shell['editor']}>
        <header className={`${shell['bar']} ${css['entry']}`}>
          <input
            value={draft.name}
            maxLength={80}
            aria-label="Name"
            onChange={(e) => setDraft({ ...draft, name: e.target.value })}
          />
          <code>{draft.key}</code>
          <Button main={dirty && !editing.clash} disabled={!dirty} onClick={() => void save()}>
            {isNew ? 'Create' : own ? 'Save' : 'Save as our own'}
          </Button>
          {!isNew && (
            <Button disabled={!dirty} onClick={editing.discard}>
              Discard changes
            </Button>
          )}
          {own && !isNew && (
            <VersionsButton
              {...{ desk, kind: 'derived', documentKey: saved.key, name: saved.name }}
              now={{ schema: 1, key: saved.key, derived: saved }}
            />
          )}
          {own && !isNew && (
            <Button
              onClick={() => void desk.act({ kind: 'remove-document', what: 'derived', key: saved.key })}
            >
              Delete
            </Button>
          )}
          {!isNew && (draft.what === 'field' || draft.what === 'pick') && (
            <Button onClick={() => trail.start({ field: saved.key })}>Trace</Button>
          )}
          <UndoRedo desk={desk} />
        </header>
        <LastAction desk={desk} />
        <SavedElsewhere editing={editing} onKeep={() => void save(true)} />
        <FormErrors />
        {snapshot.problems[saved.key] && !isNew && (
          <p className={shell['refused']}>{problemText(snapshot.problems[saved.key]!)}</p>
        )}
        {draft.what === 'field' && (
          <section className={shell['panel']} aria-label="Value">
            <h2>Value</h2>
            <Trial value={draft.value} context={context} />
            <ValueEditor
              value={draft.value}
              context={context}
              label={draft.name}
              onChange={(value) => setDraft({ ...draft, value })}
            />
          </section>
        )}
        {draft.what === 'table' && (
          <TableEditor
            table={draft}
            tables={tables}
            reader={{
              table: (key) => desk.tables.get(key),
              row: desk.row,
              ranked: desk.ranked,
              keyAt: (key, rank) => desk.tables.keyAt(key, rank),
              read: desk.read,
            }}
            context={context}
            traced={dirty ? null : { table: saved.key, trail }}
            onChange={setDraft}
          />
        )}
        {draft.what === 'pictures' && (
          <PicturesEditor
            pictures={draft}
            snapshot={snapshot}
            desk={desk}
            context={context}
            onChange={setDraft}
          />
        )}
        {draft.what === 'pick' && <PickEditor pick={draft} desk={desk} onChange={setDraft} />}
        <Traced desk={desk} trail={trail} />
      </div>
    </ValidatedForm>
  );
}
