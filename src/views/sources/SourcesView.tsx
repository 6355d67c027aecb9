import { useEffect, useRef, useState } from 'react';
import { healthWord, lampOf } from '../../core/source/health.ts';
import { deliveryOf, type SourceBundle } from '../../core/source/source.ts';
import type { SourceState } from '../../core/wire/wire.ts';
import { Button } from '../../ui/Button.tsx';
import { useSearch } from '../../ui/search.tsx';
import { later } from '../../ui/Later.tsx';
import { Lamp } from '../../ui/Lamp.tsx';
import type { Desk, Prepared } from '../shared/desk.ts';
import { useDesk, useKnown } from '../shared/use-desk.ts';
import { UndoRedo } from '../shared/UndoRedo.tsx';
import { FormErrors, ValidatedForm } from '../shared/ValidatedForm.tsx';
import { useEditing, type Draft } from '../shared/editing.ts';
import { SavedElsewhere } from '../shared/SavedElsewhere.tsx';
import { VersionsButton } from '../shared/Versions.tsx';
import shell from '../shared/View.module.css';
import { View, type Seen } from '../shared/View.tsx';
import { ageText, useSeconds } from '../shared/time.ts';
import { useHeard } from './bytes.ts';
import { copyOf, keyedByName, newBundle } from './draft.ts';
import { Delete, Export } from './Keeping.tsx';
import { LinePanel } from './LinePanel.tsx';
import { useListening } from './listening.ts';
import { Said } from './Said.tsx';
import { Steps } from './Steps.tsx';
import { useTrial } from './trial.ts';
import css from './SourcesView.module.css';

// What bytes mean comes after the first view: what they are and where they come from stands first.
const ReadingsPanel = later(() => import('./ReadingsPanel.tsx').then((m) => m.ReadingsPanel));

// What reads a source whole reads formulas too, and comes when something is saved or imported.
const loadReader = () => import('../../core/source/bundle.ts');

/** What is being changed on this page and not yet saved, by the source's key. */
type Drafts = Map<string, Draft<SourceBundle>>;
const NEW = '';

/** Connect what the venue has: the line, how its bytes are cut, what they mean, and what they feed. */
export default function SourcesView() {
  return (
    <View here="/sources" columns="250px minmax(0, 1fr)">
      {(seen) => <Sources {...seen} />}
    </View>
  );
}

function Sources({ desk, snapshot }: Seen) {
  const [selected, setSelected] = useState<string | null>(null);
  const [drafts] = useState<Drafts>(() => new Map());
  const [fresh, setFresh] = useState<SourceBundle | null>(null);
  const select = (key: string) => {
    setFresh(null);
    setSelected(key);
  };
  const current = fresh ?? snapshot.bundles.find((b) => b.source.key === selected) ?? snapshot.bundles[0];
  return (
    <>
      <List
        desk={desk}
        snapshot={snapshot}
        current={fresh ? null : (current?.source.key ?? null)}
        onSelect={select}
        onNew={() =>
          setFresh(
            newBundle(
              'New source',
              snapshot.bundles.map((b) => b.source.key),
            ),
          )
        }
      />
      {current ? (
        <Editor
          key={fresh ? 'new' : current.source.key}
          desk={desk}
          snapshot={snapshot}
          saved={current}
          isNew={fresh !== null}
          drafts={drafts}
          onSelect={select}
          onCancel={() => {
            drafts.delete(NEW);
            setFresh(null);
          }}
        />
      ) : (
        <p className={shell['waiting']}>
          No source is connected. Add one: a controller, a clock, whatever sends bytes.
        </p>
      )}
    </>
  );
}

interface ListProps {
  desk: Desk;
  snapshot: Prepared;
  current: string | null;
  onSelect: (key: string) => void;
  onNew: () => void;
}

function List({ desk, snapshot, current, onSelect, onNew }: ListProps) {
  const said = useDesk(desk, (s) => s.said);
  const sources = useKnown(desk, 'sources');
  const file = useRef<HTMLInputElement>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const search = useSearch('Find a source');
  const addressOf = (key: string) => sources.find((x) => x.key === key)?.address ?? '';
  const shown = snapshot.bundles.filter(({ source }) => search.finds(source.name, addressOf(source.key)));
  const taken = snapshot.bundles.map((b) => b.source.key);
  const add = async (bundle: SourceBundle) => {
    const answer = await desk.act({ kind: 'source', bundle });
    if (answer.ok) onSelect(bundle.source.key);
  };
  const bring = async (chosen: File) => {
    setProblem(null);
    try {
      const { parseBundle } = await loadReader();
      const parsed = parseBundle(JSON.parse(await chosen.text()));
      if (!parsed.ok) return setProblem(`${chosen.name} is not a source: ${parsed.problems.join('; ')}`);
      const { value } = parsed;
      await add(
        taken.includes(value.source.key) ? copyOf(value, `${value.source.name} imported`, taken) : value,
      );
    } catch {
      setProblem(`${chosen.name} is not JSON.`);
    }
  };
  const refused = problem ?? (said && !said.ok ? said.text : null);
  return (
    <aside className={`${shell['side']} ${css['list']}`} aria-label="Sources">
      {search.box}
      <ul>
        {shown.map(({ source }) => {
          const s = sources.find((x) => x.key === source.key);
          return (
            <li key={source.key}>
              <button
                type="button"
                aria-pressed={source.key === current}
                data-source={source.key}
                onClick={() => onSelect(source.key)}
              >
                <b>{source.name}</b>
                <em data-health={s && lampOf(s)}>
                  {s && <Lamp health={lampOf(s)} />}
                  {s && healthWord(s)}
                  {s && healthWord(s) === 'live' && s.rate > 0 && `, ${s.rate} a second`}
                </em>
                <span>{s?.address}</span>
              </button>
            </li>
          );
        })}
      </ul>
      <div className={css['foot']}>
        <Button main={snapshot.bundles.length === 0} onClick={onNew}>
          Add a source
        </Button>
        <Button onClick={() => file.current?.click()}>Import from a file</Button>
        <UndoRedo desk={desk} />
        <input
          ref={file}
          type="file"
          accept=".json,application/json"
          hidden
          onChange={(e) => {
            const [chosen] = e.target.files ?? [];
            e.target.value = '';
            if (chosen) void bring(chosen);
          }}
        />
        <p role="status" aria-label="Last action" className={refused ? shell['refused'] : shell['dim']}>
          {refused ?? said?.text}
        </p>
      </div>
    </aside>
  );
}

interface EditorProps {
  desk: Desk;
  snapshot: Prepared;
  saved: SourceBundle;
  /** It exists on this page only; saving it brings it into being. */
  isNew: boolean;
  drafts: Drafts;
  onSelect: (key: string) => void;
  /** A new source is not wanted after all. */
  onCancel: () => void;
}

const read = async (bundle: SourceBundle) =>
  (await loadReader()).parseBundle(bundle.source.key ? bundle : keyedByName(bundle, []));

function Editor({ desk, snapshot, saved, isNew, drafts, onSelect, onCancel }: EditorProps) {
  const kept = drafts.get(isNew ? NEW : saved.source.key);
  const find = (key: string) => desk.store.getState().desk?.bundles.find((b) => b.source.key === key);
  const editing = useEditing({
    ...{ desk, kind: 'source', key: saved.source.key, saved, isNew, kept },
    current: () => find(saved.source.key),
    read,
  });
  const { draft, base, revision, dirty, set: setDraft } = editing;
  const listening = useListening();
  const trial = useTrial();
  /** What is listened to: the saved source, or the line that is being tried. */
  const listened = isNew ? trial.key : saved.source.key;
  const heard = useHeard(listened, draft.map, listening.take);
  const taken = snapshot.bundles.map((b) => b.source.key);
  const delivery = deliveryOf(draft.source.transport);
  const stateNow = useDesk(desk, (s) => s.desk!.sources.find((x) => x.key === saved.source.key));
  const own = isNew ? trial.state : stateNow;
  const line = JSON.stringify(draft.source.transport);
  const isTried = trial.line === line;

  // What was not saved is still there on coming back to this source.
  useEffect(() => {
    drafts.set(isNew ? NEW : saved.source.key, { draft, base, revision });
  }, [drafts, isNew, saved.source.key, draft, base, revision]);

  const save = async (over = false) => {
    const wanted = isNew ? keyedByName(draft, taken) : draft;
    // Read as the server will read it, so that what comes back is known to be the same.
    const { parseBundle } = await loadReader();
    const read = parseBundle(wanted);
    const bundle = read.ok ? read.value : wanted;
    if (isNew) await trial.end();
    const { ok } = await editing.save(() => ({ kind: 'source', bundle }), over);
    if (!ok || !isNew) return;
    drafts.delete(NEW);
    onSelect(bundle.source.key);
  };
  const duplicate = async () => {
    const copy = copyOf(saved, `${saved.source.name} copy`, taken);
    const off = { ...copy, source: { ...copy.source, enabled: false } };
    if ((await desk.act({ kind: 'source', bundle: off })).ok) onSelect(off.source.key);
  };
  return (
    <ValidatedForm editing={editing}>
      <div className={shell['editor']}>
        <header className={shell['bar']}>
          <h2>{draft.source.name || 'No name'}</h2>
          {isNew && delivery !== 'hand' && (
            <Button
              main={!isTried}
              disabled={isTried}
              onClick={() => void trial.connect(draft.source.transport)}
            >
              Connect
            </Button>
          )}
          <Button
            main={isNew ? isTried || delivery === 'hand' : dirty}
            disabled={!dirty}
            onClick={() => void save()}
          >
            Save
          </Button>
          {isNew && <Button onClick={onCancel}>Cancel</Button>}
          {!isNew && (
            <>
              <Button disabled={!dirty} onClick={editing.discard}>
                Discard changes
              </Button>
              <Button onClick={() => void duplicate()}>Duplicate</Button>
              <VersionsButton
                {...{
                  desk,
                  kind: 'source',
                  documentKey: saved.source.key,
                  name: saved.source.name,
                  now: saved,
                }}
              />
              <Export bundle={saved} />
              <Delete desk={desk} snapshot={snapshot} bundle={saved} />
            </>
          )}
        </header>
        <SavedElsewhere editing={editing} onKeep={() => void save(true)} />
        <FormErrors />
        <Steps bundle={draft} kept={!dirty} heard={(own?.lastWord ?? null) !== null} />
        <StateLine desk={desk} state={own} />
        {trial.problem && <p className={shell['refused']}>{trial.problem}</p>}
        <LinePanel bundle={draft} folders={snapshot.folders} onChange={setDraft} />
        {isNew && (!isTried || !trial.key) ? (
          <p className={css['next']}>{NEXT[delivery]}</p>
        ) : (
          <Said
            desk={desk}
            snapshot={snapshot}
            source={listened!}
            transport={isNew ? draft.source.transport : saved.source.transport}
            state={own}
            draft={draft}
            heard={heard}
            onChange={setDraft}
          />
        )}
        {(!isNew || isTried) && delivery === 'bytes' && draft.map && (
          <ReadingsPanel
            bundle={draft}
            heard={heard}
            defs={snapshot.defs}
            bundles={snapshot.bundles}
            onChange={setDraft}
            listening={listening}
          />
        )}
      </div>
    </ValidatedForm>
  );
}

/** How a source is, in a line: its lamp in words, its rate, its last word, its counts and its newest trouble. */
function StateLine({ desk, state }: { desk: Desk; state: SourceState | undefined }) {
  const now = useSeconds(desk.link.serverNow);
  if (!state) return null;
  const word = healthWord(state);
  const { rate, lastWord, changedAt, counts, trouble, holds } = state;
  const parts = [
    rate > 0 ? `${rate} a second` : '',
    lastWord === null
      ? holds
        ? 'nothing was pressed yet'
        : 'not heard yet'
      : `last data ${ageText(now - lastWord)} ago`,
    changedAt == null ? '' : `changed ${ageText(now - changedAt)} ago`,
    counts.good || counts.badChecks ? `${counts.good} good` : '',
    counts.badChecks ? `${counts.badChecks} bad` : '',
    counts.skipped ? `${counts.skipped} bytes skipped` : '',
    counts.refused ? `${counts.refused} refused` : '',
  ];
  return (
    <p className={css['state']} data-health={lampOf(state)} role="status" aria-label="State">
      <Lamp health={lampOf(state)} />
      <b>{word}</b> {parts.filter(Boolean).join(' · ')}
      {trouble && ` · ${ageText(now - trouble.at)} ago: ${trouble.text}`}
    </p>
  );
}

const NEXT = {
  bytes:
    'Say where the device is reached, then press Connect: Foothill listens, finds its frames, and you label its data. Nothing is kept before you press Save.',
  documents:
    'Say where the document is, then press Connect: you see what it holds and pick readings and tables from it. Nothing is kept before you press Save.',
  hand: 'Press Save, and a pad stands in for a controller.',
};
