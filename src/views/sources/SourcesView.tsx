import { useEffect, useRef, useState } from 'react';
import { deliveryOf, parseBundle, withoutSecret, type SourceBundle } from '../../core/source/source.ts';
import type { FrameMap } from '../../core/decode/frame-map.ts';
import type { BoardField, DeskSnapshot, SourceState } from '../../core/wire/wire.ts';
import { Button } from '../../ui/Button.tsx';
import { useSearch } from '../../ui/search.tsx';
import { Lamp } from '../../ui/Lamp.tsx';
import type { Desk } from '../shared/desk.ts';
import shell from '../shared/View.module.css';
import { View, type Seen } from '../shared/View.tsx';
import { Pad } from '../shared/Pad.tsx';
import { ageText, useSeconds } from '../shared/time.ts';
import { useHeard, type Heard } from './bytes.ts';
import { useDocument, useJsonLines } from './document.ts';
import { DocumentPanel } from './DocumentPanel.tsx';
import { copyOf, newBundle, withDocument } from './draft.ts';
import { FramePanel } from './FramePanel.tsx';
import { Delete, Export } from './Keeping.tsx';
import { LinePanel } from './LinePanel.tsx';
import { ReadingsPanel, useListening } from './ReadingsPanel.tsx';
import { Steps } from './Steps.tsx';
import css from './SourcesView.module.css';

/** What is being changed on this page and not yet saved, by the source's key. */
type Drafts = Map<string, { draft: SourceBundle; base: SourceBundle }>;
const NEW = '';

const asText = (bundle: SourceBundle) => JSON.stringify(bundle);

/** Connect what the venue has: the line, how its bytes are cut, what they mean, and what they feed. */
export default function SourcesView() {
  return (
    <View here="/sources" columns="250px minmax(0, 1fr)">
      {(seen) => <Sources {...seen} />}
    </View>
  );
}

function Sources({ desk, state, snapshot }: Seen) {
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
          fields={state.fields}
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
  const search = useSearch('Find a source');
  const addressOf = (key: string) => snapshot.sources.find((x) => x.key === key)?.address ?? '';
  const shown = snapshot.bundles.filter(({ source }) => search.finds(source.name, addressOf(source.key)));
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
    <aside className={`${shell['side']} ${css['list']}`} aria-label="Sources">
      {search.box}
      <ul>
        {shown.map(({ source }) => {
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
                  {s && <Lamp health={s.health} />}
                  {s?.health}
                  {s?.health === 'live' && s.rate > 0 && `, ${s.rate} a second`}
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
        <p role="status" aria-label="Last action" className={refused ? shell['refused'] : shell['dim']}>
          {refused ?? said?.text}
        </p>
      </div>
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
  fields: ReadonlyMap<string, BoardField>;
  onSelect: (key: string) => void;
  /** A new source is not wanted after all. */
  onCancel: () => void;
}

function Editor({ desk, snapshot, saved, isNew, drafts, fields, onSelect, onCancel }: EditorProps) {
  const kept = drafts.get(isNew ? NEW : saved.source.key);
  const [draft, setDraft] = useState(kept?.draft ?? saved);
  const [base, setBase] = useState(kept?.base ?? saved);
  const listening = useListening();
  const heard = useHeard(isNew ? null : saved.source.key, draft.map, listening.take);
  const dirty = isNew || asText(draft) !== asText(base);
  const taken = snapshot.bundles.map((b) => b.source.key);
  const delivery = deliveryOf(draft.source.transport);
  const own = snapshot.sources.find((s) => s.key === saved.source.key);

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
    // What is kept at the server comes back as kept.
    const stands = withoutSecret(bundle);
    setDraft((now) => (now === draft ? stands : now));
    setBase(stands);
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
    <div className={shell['editor']}>
      <header className={shell['bar']}>
        <h2>{draft.source.name || 'No name'}</h2>
        <Button main={dirty} disabled={!dirty} onClick={() => void save()}>
          {isNew ? 'Connect' : 'Save'}
        </Button>
        {isNew && <Button onClick={onCancel}>Cancel</Button>}
        {!isNew && (
          <>
            <Button disabled={!dirty} onClick={discard}>
              Discard changes
            </Button>
            <Button onClick={() => void duplicate()}>Duplicate</Button>
            <Export bundle={saved} />
            <Delete desk={desk} snapshot={snapshot} bundle={saved} />
          </>
        )}
      </header>
      {!isNew && dirty && asText(saved) !== asText(base) && (
        <p className={shell['refused']}>
          It was saved at another desk meanwhile. Save puts yours in its place; Discard takes the other.
        </p>
      )}
      <Steps bundle={draft} kept={!dirty} heard={!isNew && (own?.lastWord ?? null) !== null} />
      {!isNew && <StateLine desk={desk} state={own} />}
      <LinePanel bundle={draft} folders={snapshot.folders} onChange={setDraft} />
      {isNew ? (
        <p className={css['next']}>{NEXT[delivery]}</p>
      ) : (
        <Said
          desk={desk}
          snapshot={snapshot}
          saved={saved}
          draft={draft}
          heard={heard}
          fields={fields}
          onChange={setDraft}
        />
      )}
      {!isNew && delivery === 'bytes' && draft.map && (
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
  );
}

/** The maps that a source may begin with: those that ship, and those of the other sources. */
function mapsFor(draft: SourceBundle, { maps, bundles }: DeskSnapshot): FrameMap[] {
  const known = new Set(maps.map((m) => m.key));
  const others = bundles.flatMap(({ source, map }) =>
    map && source.key !== draft.source.key && !known.has(map.key)
      ? [{ ...map, name: `${map.name} (${source.name})` }]
      : [],
  );
  return [...maps, ...others];
}

/** How a source is, in a line: its lamp in words, its rate, its last word, its counts and its newest trouble. */
function StateLine({ desk, state }: { desk: Desk; state: SourceState | undefined }) {
  const now = useSeconds(desk.link.serverNow);
  if (!state) return null;
  const { health, rate, lastWord, changedAt, counts, trouble, holds } = state;
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
    <p className={css['state']} data-health={health} role="status" aria-label="State">
      <Lamp health={health} />
      <b>{health}</b> {parts.filter(Boolean).join(' · ')}
      {trouble && ` · ${ageText(now - trouble.at)} ago: ${trouble.text}`}
    </p>
  );
}

const NEXT = {
  bytes:
    'Say where the device is reached, then press Connect. Next, Foothill finds its frames and you label its data.',
  documents:
    'Say where the document is, then press Connect. Next, you see what it holds and pick readings and tables from it.',
  hand: 'Press Connect, and a pad stands in for a controller.',
};

interface SaidProps {
  desk: Desk;
  snapshot: DeskSnapshot;
  saved: SourceBundle;
  draft: SourceBundle;
  heard: Heard;
  fields: ReadonlyMap<string, BoardField>;
  onChange: (bundle: SourceBundle) => void;
}

/** What a source says: bytes cut into frames or lines, documents, or what is pressed on its pad. */
function Said({ desk, snapshot, saved, draft, heard, fields, onChange }: SaidProps) {
  const { key } = saved.source;
  // What is saved is what is connected: a line that is being changed says nothing yet.
  const delivery = deliveryOf(saved.source.transport);
  const state = snapshot.sources.find((s) => s.key === key);
  const now = useSeconds(desk.link.serverNow);
  const look = useDocument(delivery === 'documents' ? key : null, draft.document, state?.changedAt ?? null);
  const lines = useJsonLines(heard.bytes, draft.document);
  if (delivery !== deliveryOf(draft.source.transport))
    return <p className={css['next']}>Save, and this source is reached the new way.</p>;
  if (delivery === 'hand')
    return (
      <Pad
        desk={desk}
        source={key}
        state={state}
        defs={snapshot.defs}
        fields={fields}
        sources={snapshot.sources}
      />
    );
  const isLines = delivery === 'bytes' && draft.document !== null;
  if (delivery === 'documents' || isLines)
    return (
      <DocumentPanel
        bundle={draft}
        looked={isLines ? lines : look.looked}
        look={isLines ? null : look}
        state={state}
        now={now}
        defs={snapshot.defs}
        bundles={snapshot.bundles}
        onChange={onChange}
      />
    );
  return (
    <>
      {lines && !draft.map && (
        <p className={css['next']}>
          Lines of JSON come in.{' '}
          <Button main onClick={() => onChange(withDocument(draft, {}))}>
            Read them as JSON lines
          </Button>
        </p>
      )}
      <FramePanel
        bundle={draft}
        heard={heard}
        maps={mapsFor(draft, snapshot)}
        eager={!lines}
        onChange={onChange}
      />
    </>
  );
}
