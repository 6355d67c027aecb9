import { useSyncExternalStore } from 'react';
import type { FieldDef } from '../../core/sport/profile.ts';
import { MEDIA_TOKEN, MediaIndex } from '../../core/media/media.ts';
import { Tables } from '../../core/board/tables.ts';
import type { FieldValue } from '../../core/board/values.ts';
import { tracedKey, type Traced } from '../../core/trace/traced.ts';
import type { BoardView } from '../../core/show/preflight.ts';
import type { BoardField, DeskOp, DeskSnapshot, Trace } from '../../core/wire/wire.ts';
import type { ActionBody } from '../../core/actions/actions.ts';
import type { UndoState } from '../../core/actions/past.ts';
import { own } from '../../core/board/own.ts';
import { changedDesk, changedTables } from './desk-ops.ts';
import { identity, newId, type Identity } from './identity.ts';
import { openLink, type Link } from '../../stage/link.ts';

export interface DeskState {
  /** False while the server does not answer; null before its first word. */
  here: boolean | null;
  desk: DeskSnapshot | null;
  fields: ReadonlyMap<string, BoardField>;
  trace: Trace | null;
  /** What came of the last action from this page. */
  said: Answer | null;
  /** What an undo would take back and a redo would do again, in words; null for nothing. */
  undo: string | null;
  redo: string | null;
}

/** What the server answers to an action. */
interface Reply {
  ok: boolean;
  text?: string;
  reason?: string;
  seq?: number;
  clash?: boolean;
}

export interface Answer {
  ok: boolean;
  text: string;
  /** Its answer has not come yet. */
  pending?: boolean;
  /** It was refused because somebody else changed the same thing meanwhile. */
  clash?: boolean;
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
    undo: null,
    redo: null,
  };
  private readonly listeners = new Set<() => void>();
  private readonly fieldListeners = new Set<(keys: string[]) => void>();
  private defs = new Map<string, FieldDef>();
  readonly tables = new Tables();
  media = new MediaIndex();
  private watched: Traced | null = null;
  readonly link: Link;

  constructor(
    /** The view that it is for: each has an undo of its own. */
    private readonly view: string,
    private readonly who: Identity = identity(),
  ) {
    this.link = openLink<DeskSnapshot, DeskOp>('desk', {
      onSnapshot: (desk) => {
        this.defs = new Map(desk.defs.map((d) => [d.key, d]));
        this.media = new MediaIndex(desk.media);
        for (const t of this.tables.list()) this.tables.remove(t.key);
        const tokens = desk.tables.flatMap((t) => this.tables.put(t, t.origin, t.at));
        this.set({ desk, fields: new Map(desk.fields.map((f) => [f.key, f])) });
        this.takeUndo(desk.undos);
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

  /** The revision of a document that this page knows: a save names the one that it began from. 0 for none. */
  revisionOf = (kind: string, key: string): number =>
    own(this.state.desk?.revisions ?? {}, `${kind}/${key}`) ?? 0;

  /** Sends an action; what came of it is kept to be shown. */
  async act(action: ActionBody): Promise<Answer> {
    const number = ++this.asked;
    const answer = await this.post(action, number);
    // Where somebody else changed the same thing, the place that is edited asks what is to be done.
    this.say(answer.clash ? null : answer, number);
    return answer;
  }

  /** How many actions were asked for, and which of them is answered on the screen. */
  private asked = 0;
  private shown = 0;

  /** Shows what came of an action, unless something that was asked after it has its answer already: a refusal is not overwritten. */
  private say(said: Answer | null, number: number): void {
    if (number < this.shown) return;
    this.shown = number;
    this.set({ said });
  }

  /** Takes the newest action of this person at this view back. What is on air is never changed by an undo. */
  undo(): Promise<Answer> {
    return this.act({ kind: 'undo' });
  }

  /** Does what was taken back last again. */
  redo(): Promise<Answer> {
    return this.act({ kind: 'redo' });
  }

  /** Notes what the server says of this person's undo at this view. */
  private takeUndo(states: readonly UndoState[]): void {
    const mine = states.find((s) => s.desk === this.who.desk && s.view === this.view);
    if (mine) this.set({ undo: mine.undo, redo: mine.redo });
  }

  private async post(action: ActionBody, number: number): Promise<Answer> {
    const slow = setTimeout(
      () => this.say({ ok: true, text: 'Under way…', pending: true }, number),
      UNDER_WAY_AFTER,
    );
    try {
      const response = await fetch('/api/actions', {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        // What is given up here must not happen later: after this the server refuses it.
        body: JSON.stringify({
          id: newId(),
          until: this.link.realNow() + DONE_WITHIN,
          desk: this.who.desk,
          view: this.view,
          ...(this.who.name() ? { who: this.who.name() } : {}),
          ...action,
        }),
        signal: AbortSignal.timeout(GIVEN_UP_AFTER),
      });
      const body = (await response.json()) as Reply;
      // What was done is seen here before it is called done.
      if (body.seq) await this.link.reached(body.seq);
      return {
        ok: body.ok,
        text: body.text ?? body.reason ?? '',
        ...(body.clash ? { clash: true } : {}),
      };
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
        return this.tellFields(op.fields.map((f) => f.key));
      }
      case 'tables': {
        const { tables, news } = changedTables(desk.tables, op);
        const tokens = [
          ...news.flatMap((t) => this.tables.put(t, t.origin, t.at)),
          ...op.gone.flatMap((key) => this.tables.remove(key)),
        ];
        this.set({ desk: { ...desk, tables } });
        return this.tellFields(tokens);
      }
      case 'undo':
        return this.takeUndo(op.states);
      default: {
        const next = changedDesk(desk, op);
        if (next.media !== desk.media) this.media = new MediaIndex(next.media);
        if (next.defs !== desk.defs) this.defs = new Map(next.defs.map((d) => [d.key, d]));
        const other = next.fields !== desk.fields;
        this.set({ desk: next, ...(other ? { fields: new Map(next.fields.map((f) => [f.key, f])) } : {}) });
        if (other) this.tellFields(next.fields.map((f) => f.key));
        if (next.media !== desk.media) this.tellFields([MEDIA_TOKEN]);
      }
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

/** When a press says that it is under way, in ms. */
const UNDER_WAY_AFTER = 60;
/** Until when an action may be begun, and when its answer is given up: a commit takes two seconds at most. */
const DONE_WITHIN = 5000;
const GIVEN_UP_AFTER = 8000;

export function useDesk(desk: Desk): DeskState {
  return useSyncExternalStore(desk.subscribe, desk.getState);
}
