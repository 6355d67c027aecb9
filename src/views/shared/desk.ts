import { useSyncExternalStore } from 'react';
import type { FieldDef } from '../../core/sport/profile.ts';
import { typedText } from '../../core/sport/typed.ts';
import { MEDIA_TOKEN, MediaIndex, type MediaChange, type MediaEntry } from '../../core/media/media.ts';
import { Tables } from '../../core/board/tables.ts';
import type { FieldValue } from '../../core/board/values.ts';
import type { SourceBundle } from '../../core/source/source.ts';
import type { Part } from '../../core/tape/tape.ts';
import { tracedKey, type Traced } from '../../core/trace/traced.ts';
import type { DocumentKind } from '../../core/documents/kinds.ts';
import type { ShowAction } from '../../core/show/show.ts';
import type { BoardView } from '../../core/show/preflight.ts';
import { changedTable } from '../../core/wire/table-change.ts';
import type { BoardField, DeskOp, DeskSnapshot, Trace } from '../../core/wire/wire.ts';
import { openLink, type Link } from '../../stage/link.ts';

export interface DeskState {
  /** False while the server does not answer; null before its first word. */
  here: boolean | null;
  desk: DeskSnapshot | null;
  fields: ReadonlyMap<string, BoardField>;
  trace: Trace | null;
  /** What came of the last action from this page. */
  said: Answer | null;
  /** Whether this page did something that it can take back. */
  canUndo: boolean;
}

/** What a page can ask for; the server gives each a number and writes it down before it answers. */
export type DeskAction =
  | ShowAction
  | { kind: 'pin'; field: string; text: string }
  | { kind: 'release'; field: string }
  | { kind: 'source'; bundle: SourceBundle }
  | { kind: 'remove-source'; source: string }
  | { kind: 'give-back'; source: string }
  | { kind: 'put-document'; what: 'game' | 'profile' | 'derived'; body: { key: string } }
  | { kind: 'remove-document'; what: 'game' | 'profile' | 'derived'; key: string }
  | { kind: 'mend-document'; what: DocumentKind; key: string; body: object | null }
  | { kind: 'choose-game'; game: string; board?: 'clear' | 'keep'; air?: 'clear' | 'keep'; back?: string }
  | { kind: 'swap-sides'; scorer?: 'swapped' | 'not' }
  | TapeAction
  | RehearseAction
  | { kind: 'media'; path: string; entry: MediaEntry | null }
  | { kind: 'arrange-media'; changes: MediaChange[] }
  | { kind: 'hand'; source: string; field: string; do: 'set' | 'add' | 'start' | 'stop'; text?: string };

/** What is done to tapes. */
export interface TapeAction {
  kind: 'tape';
  do: 'record' | 'stop' | 'rename' | 'delete' | 'cut';
  tape?: string;
  name?: string;
  parts?: Part[];
}

/** What is done with the tape that is played. */
export interface RehearseAction {
  kind: 'rehearse';
  do: 'start' | 'end' | 'play' | 'pause' | 'jump' | 'speed' | 'loop';
  tape?: string;
  maps?: 'tape' | 'today';
  to?: number;
  part?: Part | null;
}

export interface Answer {
  ok: boolean;
  text: string;
  /** Its answer has not come yet. */
  pending?: boolean;
}

/** Replaces the element with the same key, or adds it. */
function withOne<T>(list: readonly T[], next: T, key: (x: T) => string): T[] {
  const at = list.findIndex((x) => key(x) === key(next));
  return at < 0 ? [...list, next] : list.map((x, i) => (i === at ? next : x));
}

/**
 * What this page knows of the running Foothill, followed over the socket, and the way to act on it. All browsers
 * follow the same stream, so they agree.
 */
export class Desk implements BoardView {
  private state: DeskState = {
    here: null,
    desk: null,
    fields: new Map(),
    trace: null,
    said: null,
    canUndo: false,
  };
  private readonly listeners = new Set<() => void>();
  private readonly fieldListeners = new Set<(keys: string[]) => void>();
  private defs = new Map<string, FieldDef>();
  readonly tables = new Tables();
  media = new MediaIndex();
  private watched: Traced | null = null;
  private readonly undos: DeskAction[] = [];
  readonly link: Link;

  constructor() {
    this.link = openLink<DeskSnapshot, DeskOp>('desk', {
      onSnapshot: (desk) => {
        this.defs = new Map(desk.defs.map((d) => [d.key, d]));
        this.media = new MediaIndex(desk.media);
        for (const t of this.tables.list()) this.tables.remove(t.key);
        const tokens = desk.tables.flatMap((t) => this.tables.put(t, t.origin, t.at));
        this.set({ desk, fields: new Map(desk.fields.map((f) => [f.key, f])) });
        if (this.watched) this.link.send({ t: 'watch', of: this.watched });
        this.tellFields([...desk.fields.map((f) => f.key), ...tokens, MEDIA_TOKEN]);
      },
      onOps: (ops) => ops.forEach((op) => this.perform(op)),
      onHere: (here) => this.set({ here }),
      onOther: ({ trace }) => {
        if (trace && this.watched && tracedKey(trace.of) === tracedKey(this.watched)) this.set({ trace });
      },
    });
  }

  def = (key: string) => this.defs.get(key);
  field = (key: string) => this.state.fields.get(key);

  read = (key: string): FieldValue => {
    const field = this.state.fields.get(key);
    return field?.pin ? field.pin.value : (field?.value ?? null);
  };
  row = (table: string, key: string) => this.tables.row(table, key);
  ranked = (table: string, rank: number) => this.tables.ranked(table, rank);

  picture = (path: string) => this.media.address(path);

  /** The field's state, as preflight asks for it. */
  stateOf = (key: string) => this.state.fields.get(key);

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  readonly getState = () => this.state;

  /** Tells the keys of fields as they change. */
  onFields(listener: (keys: string[]) => void): () => void {
    this.fieldListeners.add(listener);
    return () => this.fieldListeners.delete(listener);
  }

  /** Follows the trace of one thing, or of none. */
  watch(of: Traced | null): void {
    if (of && this.watched && tracedKey(of) === tracedKey(this.watched)) return;
    this.watched = of;
    this.set({ trace: null });
    this.link.send({ t: 'watch', of });
  }

  /** Sends an action; what came of it is kept to be shown, and its opposite to be undone. */
  act(action: DeskAction): Promise<Answer> {
    const answer = this.carryOut(action);
    this.acting = answer;
    return answer;
  }

  /** What is being done at this moment: an undo waits for it, so that it takes back what was done last. */
  private acting: Promise<unknown> = Promise.resolve();

  private async carryOut(action: DeskAction): Promise<Answer> {
    const id = newId();
    const opposite = this.opposite(action, id);
    const answer = await this.post(action, id);
    if (answer.ok && opposite) this.undos.push(opposite);
    this.set({ said: answer, canUndo: this.undos.length > 0 });
    return answer;
  }

  /**
   * Takes the newest pin, release or edit of this page back. What is on air is never changed by an undo. One that is
   * refused, or that nobody answers, is not lost: it can be tried again.
   */
  undo(): Promise<void> {
    const undone = this.takeBack(this.acting);
    this.acting = undone;
    return undone;
  }

  private async takeBack(before: Promise<unknown>): Promise<void> {
    await before;
    const action = this.undos.at(-1);
    if (!action) return this.set({ said: { ok: false, text: 'There is nothing to undo.' } });
    const said = await this.post(action);
    if (said.ok) this.undos.splice(this.undos.lastIndexOf(action), 1);
    this.set({ said, canUndo: this.undos.length > 0 });
  }

  /** What takes an action back; `id` is the action's own. */
  private opposite(action: DeskAction, id: string): DeskAction | null {
    if (action.kind === 'edit') {
      const was = this.state.desk?.items.find((i) => i.id === action.item)?.inputs ?? {};
      return {
        ...action,
        inputs: Object.fromEntries(Object.keys(action.inputs).map((k) => [k, was[k] ?? null])),
      };
    }
    if (action.kind === 'source' || action.kind === 'remove-source') {
      const key = action.kind === 'source' ? action.bundle.source.key : action.source;
      const was = this.state.desk?.bundles.find((b) => b.source.key === key);
      return was ? { kind: 'source', bundle: was } : { kind: 'remove-source', source: key };
    }
    if (action.kind === 'swap-sides') return action;
    if (action.kind === 'media') return { ...action, entry: this.media.find(action.path) ?? null };
    if (action.kind === 'arrange-media') {
      const moved = action.changes.map(({ path }) => ({ path, entry: this.media.find(path) ?? null }));
      return { ...action, changes: moved };
    }
    if (action.kind === 'choose-game') {
      const was = this.state.desk?.playing;
      return was ? { kind: 'choose-game', game: was, back: id } : null;
    }
    if (action.kind === 'put-document' || action.kind === 'remove-document') {
      const { what } = action;
      const key = action.kind === 'put-document' ? action.body.key : action.key;
      const was = documentOf(this.state.desk, what, key);
      return was ? { kind: 'put-document', what, body: was } : { kind: 'remove-document', what, key };
    }
    if (action.kind === 'tape' && action.do === 'rename') {
      const name = this.state.desk?.tapes.find((t) => t.key === action.tape)?.name;
      return name === undefined ? null : { ...action, name };
    }
    if (action.kind === 'hand') {
      const was = this.state.fields.get(action.field)?.value ?? null;
      if (action.do === 'start') return { ...action, do: 'stop' };
      if (action.do === 'stop') return { ...action, do: 'start' };
      return { ...action, do: 'set', text: typedText(was) };
    }
    if (action.kind !== 'pin' && action.kind !== 'release') return null;
    const pin = this.state.fields.get(action.field)?.pin;
    return pin
      ? { kind: 'pin', field: action.field, text: typedText(pin.value) }
      : { kind: 'release', field: action.field };
  }

  private async post(action: DeskAction, id = newId()): Promise<Answer> {
    const slow = setTimeout(
      () => this.set({ said: { ok: true, text: 'Under way…', pending: true } }),
      UNDER_WAY_AFTER,
    );
    try {
      const response = await fetch('/api/actions', {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        // What is given up here must not happen later: after this the server refuses it.
        body: JSON.stringify({ id, until: this.link.realNow() + DONE_WITHIN, ...action }),
        signal: AbortSignal.timeout(GIVEN_UP_AFTER),
      });
      const body = (await response.json()) as { ok: boolean; text?: string; reason?: string; seq?: number };
      // What was done is seen here before it is called done.
      if (body.seq) await this.link.reached(body.seq);
      return { ok: body.ok, text: body.text ?? body.reason ?? '' };
    } catch {
      return {
        ok: false,
        text: 'The server does not answer, so nothing is known to have changed. Look before you try again.',
      };
    } finally {
      clearTimeout(slow);
    }
  }

  private perform(op: DeskOp): void {
    const { desk } = this.state;
    if (!desk) return;
    switch (op.op) {
      case 'fields': {
        const fields = new Map(this.state.fields);
        for (const f of op.fields) fields.set(f.key, f);
        this.set({ fields });
        this.tellFields(op.fields.map((f) => f.key));
        return;
      }
      case 'tables': {
        const known = new Map(desk.tables.map((t) => [t.key, t]));
        for (const key of op.gone) known.delete(key);
        const news = op.tables.flatMap((t) => {
          const was = known.get(t.key);
          const now = !('change' in t) ? t : was && changedTable(was, t);
          return now ? [now] : [];
        });
        for (const t of news) known.set(t.key, t);
        const tokens = [
          ...news.flatMap((t) => this.tables.put(t, t.origin, t.at)),
          ...op.gone.flatMap((key) => this.tables.remove(key)),
        ];
        this.set({ desk: { ...desk, tables: [...known.values()] } });
        return this.tellFields(tokens);
      }
      case 'item':
        return this.set({ desk: { ...desk, items: withOne(desk.items, op.item, (i) => i.id) } });
      case 'lane':
        return this.set({ desk: { ...desk, lanes: withOne(desk.lanes, op.lane, (l) => l.zone) } });
      case 'sources':
        return this.set({ desk: { ...desk, sources: op.sources } });
      case 'source':
        return this.set({
          desk: { ...desk, bundles: withOne(desk.bundles, op.bundle, (b) => b.source.key) },
        });
      case 'source-gone':
        return this.set({ desk: { ...desk, bundles: desk.bundles.filter((b) => b.source.key !== op.key) } });
      case 'deck':
        return this.set({ desk: { ...desk, tapes: op.tapes, rehearsal: op.rehearsal } });
      case 'problems':
        return this.set({ desk: { ...desk, problems: op.problems } });
      case 'database':
        return this.set({ desk: { ...desk, database: { ok: op.ok } } });
      case 'log':
        return this.set({ desk: { ...desk, log: [...desk.log, op.line].slice(-40) } });
    }
  }

  private set(change: Partial<DeskState>): void {
    this.state = { ...this.state, ...change };
    for (const listener of this.listeners) listener();
  }

  private tellFields(keys: string[]): void {
    for (const listener of this.fieldListeners) listener(keys);
  }
}

/** A document as the server has it now. */
function documentOf(
  desk: DeskSnapshot | null,
  what: 'game' | 'profile' | 'derived',
  key: string,
): { key: string } | null {
  if (what === 'game') return desk?.games.find((g) => g.key === key) ?? null;
  if (what === 'profile') return desk?.profiles.find((p) => p.key === key) ?? null;
  const found = desk?.derived.find((d) => d.own && d.doc.key === key)?.doc;
  return found ? ({ schema: 1, key, derived: found } as { key: string }) : null;
}

/** When a press says that it is under way, in ms. */
const UNDER_WAY_AFTER = 60;
/** Until when an action may be begun, and when its answer is given up: a commit takes two seconds at most. */
const DONE_WITHIN = 5000;
const GIVEN_UP_AFTER = 8000;

/** An id for one action, so that a request that arrives twice is done once. */
function newId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(12));
  return [...bytes].map((b) => b.toString(16).padStart(2, '0')).join('');
}

export function useDesk(desk: Desk): DeskState {
  return useSyncExternalStore(desk.subscribe, desk.getState);
}
