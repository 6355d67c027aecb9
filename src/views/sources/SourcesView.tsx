import { useEffect, useRef, useState } from 'react';
import { parseBundle, type SourceBundle } from '../../core/source/source.ts';
import type { DeskSnapshot } from '../../core/wire/wire.ts';
import { Button } from '../../ui/Button.tsx';
import { useKeys } from '../../ui/keys.ts';
import { Desk, useDesk } from '../shared/desk.ts';
import { TopBar } from '../shared/TopBar.tsx';
import { useHeard } from './bytes.ts';
import { copyOf, newBundle } from './draft.ts';
import { FramePanel } from './FramePanel.tsx';
import { LinePanel } from './LinePanel.tsx';
import { ReadingsPanel, useListening } from './ReadingsPanel.tsx';
import css from './SourcesView.module.css';

/** What is being changed on this page and not yet saved, by the source's key. */
type Drafts = Map<string, { draft: SourceBundle; base: SourceBundle }>;
const NEW = '';

const asText = (bundle: SourceBundle) => JSON.stringify(bundle);

/** Connect what the venue has: the line, how its bytes are cut, what they mean, and what they feed. */
export default function SourcesView() {
  const [desk] = useState(() => new Desk());
  const state = useDesk(desk);
  const [selected, setSelected] = useState<string | null>(null);
  const [drafts] = useState<Drafts>(() => new Map());
  const [fresh, setFresh] = useState<SourceBundle | null>(null);
  const snapshot = state.desk;
  useKeys({ 'ctrl+z': () => void desk.undo() });
  if (!snapshot) {
    return (
      <p className={css['waiting']}>
        {state.here === false
          ? 'The server does not answer. This page tries again by itself.'
          : 'Connecting…'}
      </p>
    );
  }
  const select = (key: string) => {
    setFresh(null);
    setSelected(key);
  };
  const current = fresh ?? snapshot.bundles.find((b) => b.source.key === selected) ?? snapshot.bundles[0];
  return (
    <div className={css['view']}>
      <div className={css['top']}>
        <TopBar desk={desk} state={state} here="/sources" />
      </div>
      <List
        desk={desk}
        snapshot={snapshot}
        current={fresh ? null : (current?.source.key ?? null)}
        onSelect={select}
        onNew={() => setFresh(newBundle('New source', []))}
        said={state.said}
        canUndo={state.canUndo}
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
        />
      ) : (
        <p className={css['waiting']}>
          No source is connected. Add one: a controller, a clock, whatever sends bytes.
        </p>
      )}
    </div>
  );
}

interface ListProps {
  desk: Desk;
  snapshot: DeskSnapshot;
  current: string | null;
  onSelect: (key: string) => void;
  onNew: () => void;
  said: { ok: boolean; text: string } | null;
  canUndo: boolean;
}

function List({ desk, snapshot, current, onSelect, onNew, said, canUndo }: ListProps) {
  const file = useRef<HTMLInputElement>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const taken = snapshot.bundles.map((b) => b.source.key);
  const add = async (bundle: SourceBundle) => {
    const answer = await desk.act({ kind: 'source', bundle });
    if (answer.ok) onSelect(bundle.source.key);
  };
  const bring = async (chosen: File) => {
    setProblem(null);
    try {
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
    <aside className={css['list']} aria-label="Sources">
      <ul>
        {snapshot.bundles.map(({ source }) => {
          const s = snapshot.sources.find((x) => x.key === source.key);
          return (
            <li key={source.key}>
              <button
                type="button"
                aria-pressed={source.key === current}
                data-source={source.key}
                onClick={() => onSelect(source.key)}
              >
                <b>{source.name}</b>
                <em data-health={s?.health}>
                  {s?.health}
                  {s?.health === 'live' && `, ${s.rate} a second`}
                </em>
                <span>{s?.address}</span>
              </button>
            </li>
          );
        })}
      </ul>
      <Button main={snapshot.bundles.length === 0} onClick={onNew}>
        Add a source
      </Button>
      <Button onClick={() => file.current?.click()}>Import from a file</Button>
      <Button shortcut="Ctrl+Z" disabled={!canUndo} onClick={() => void desk.undo()}>
        Undo
      </Button>
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
      <p role="status" aria-label="Last action" className={refused ? css['refused'] : css['dim']}>
        {refused ?? said?.text}
      </p>
    </aside>
  );
}

interface EditorProps {
  desk: Desk;
  snapshot: DeskSnapshot;
  saved: SourceBundle;
  /** It exists on this page only; saving it brings it into being. */
  isNew: boolean;
  drafts: Drafts;
  onSelect: (key: string) => void;
}

function Editor({ desk, snapshot, saved, isNew, drafts, onSelect }: EditorProps) {
  const kept = drafts.get(isNew ? NEW : saved.source.key);
  const [draft, setDraft] = useState(kept?.draft ?? saved);
  const [base, setBase] = useState(kept?.base ?? saved);
  const listening = useListening();
  const heard = useHeard(isNew ? null : saved.source.key, draft.map, listening.take);
  const dirty = isNew || asText(draft) !== asText(base);
  const taken = snapshot.bundles.map((b) => b.source.key);

  // What another desk saved shows here, unless something is being changed here: then it waits for a decision.
  useEffect(() => {
    if (asText(saved) === asText(base) || dirty) return;
    setDraft(saved);
    setBase(saved);
  }, [saved, base, dirty]);

  // What was not saved is still there on coming back to this source.
  useEffect(() => {
    drafts.set(isNew ? NEW : saved.source.key, { draft, base });
  }, [drafts, isNew, saved.source.key, draft, base]);

  const save = async () => {
    const wanted = isNew ? copyOf(draft, draft.source.name, taken) : draft;
    // Read as the server will read it, so that what comes back is known to be the same.
    const read = parseBundle(wanted);
    const bundle = read.ok ? read.value : wanted;
    const answer = await desk.act({ kind: 'source', bundle });
    if (!answer.ok) return;
    if (isNew) {
      drafts.delete(NEW);
      return onSelect(bundle.source.key);
    }
    setDraft((now) => (now === draft ? bundle : now));
    setBase(bundle);
  };
  const duplicate = async () => {
    const copy = copyOf(saved, `${saved.source.name} copy`, taken);
    const off = { ...copy, source: { ...copy.source, enabled: false } };
    if ((await desk.act({ kind: 'source', bundle: off })).ok) onSelect(off.source.key);
  };
  const discard = () => {
    setDraft(saved);
    setBase(saved);
  };

  return (
    <main className={css['editor']}>
      <header className={css['bar']}>
        <h1>{draft.source.name || 'No name'}</h1>
        <Button main={dirty} disabled={!dirty} onClick={() => void save()}>
          {isNew ? 'Connect' : 'Save'}
        </Button>
        {!isNew && (
          <>
            <Button disabled={!dirty} onClick={discard}>
              Discard changes
            </Button>
            <Button onClick={() => void duplicate()}>Duplicate</Button>
            <Export bundle={saved} />
            <Delete desk={desk} bundle={saved} />
          </>
        )}
      </header>
      {!isNew && dirty && asText(saved) !== asText(base) && (
        <p className={css['refused']}>
          It was saved at another desk meanwhile. Save puts yours in its place; Discard takes the other.
        </p>
      )}
      <LinePanel bundle={draft} onChange={setDraft} />
      {isNew ? (
        <p className={css['next']}>
          Say where the device is reached, then press Connect. Next, Foothill finds its frames and you name
          its bytes.
        </p>
      ) : (
        <FramePanel bundle={draft} heard={heard} onChange={setDraft} />
      )}
      {draft.map && (
        <ReadingsPanel
          bundle={draft}
          heard={heard}
          defs={snapshot.defs}
          bundles={snapshot.bundles}
          onChange={setDraft}
          listening={listening}
        />
      )}
    </main>
  );
}

function Export({ bundle }: { bundle: SourceBundle }) {
  const text = encodeURIComponent(JSON.stringify(bundle, null, 2));
  return (
    <a
      className={css['export']}
      href={`data:application/json;charset=utf-8,${text}`}
      download={`${bundle.source.key}.json`}
    >
      Export
    </a>
  );
}

/** Deleting asks once, and says what depends on it. */
function Delete({ desk, bundle }: { desk: Desk; bundle: SourceBundle }) {
  const [sure, setSure] = useState(false);
  if (!sure) return <Button onClick={() => setSure(true)}>Delete…</Button>;
  const feeds = bundle.patch?.links.length ?? 0;
  return (
    <span className={css['sure']}>
      {feeds === 0
        ? 'No field is fed by it.'
        : `It feeds ${feeds} ${feeds === 1 ? 'field, which' : 'fields, which'} will stand still.`}
      <Button onClick={() => void desk.act({ kind: 'remove-source', source: bundle.source.key })}>
        Delete
      </Button>
      <Button onClick={() => setSure(false)}>Keep</Button>
    </span>
  );
}
