import { nameOfPlace } from '../../core/actions/world.ts';
import type { UndoState } from '../../core/actions/past.ts';
import { own } from '../../core/board/own.ts';
import { clockOf, runningDef, runningKey, runs } from '../../core/board/running.ts';
import { Tables } from '../../core/board/tables.ts';
import type { FieldValue } from '../../core/board/values.ts';
import { fontsOf } from '../../core/media/fonts.ts';
import { MEDIA_TOKEN, MediaIndex, type MediaEntry } from '../../core/media/media.ts';
import type { BoardView } from '../../core/show/preflight.ts';
import type { FieldDef } from '../../core/sport/profile.ts';
import type { DeskOp, DeskSnapshot } from '../../core/wire/wire.ts';
import { declareFonts } from '../../stage/fonts.ts';
import { changedDesk, changedTables } from './desk-ops.ts';
import type { DeskStore } from './desk-state.ts';

/** What a page knows of the running Foothill: it takes what the server says, and reads like the board. */
export class BoardReplica implements BoardView {
  private readonly fieldListeners = new Set<(keys: string[]) => void>();
  private defs = new Map<string, FieldDef>();
  readonly tables = new Tables();
  media = new MediaIndex();
  /** The families of the fonts that were brought in. */
  private families: ReadonlySet<string> = new Set();

  constructor(
    readonly store: DeskStore,
    /** Whether an undo is that of this person at this view. */
    private readonly isMine: (state: UndoState) => boolean,
  ) {}

  /** Begins from all that the server knows. */
  begin(desk: DeskSnapshot): void {
    this.defs = new Map(desk.defs.map((d) => [d.key, d]));
    this.takeMedia(desk.media);
    for (const t of this.tables.list()) this.tables.remove(t.key);
    const tokens = desk.tables.flatMap((t) => this.tables.put(t, t.origin, t.at));
    this.store.setState({ desk, fields: new Map(desk.fields.map((f) => [f.key, f])) });
    this.takeUndo(desk.undos);
    this.tellFields([...desk.fields.map((f) => f.key), ...tokens, MEDIA_TOKEN]);
  }

  def = (key: string): FieldDef | undefined => {
    const clock = this.defs.get(clockOf(key) ?? '');
    return this.defs.get(key) ?? (clock && runningDef(clock));
  };

  read = (key: string): FieldValue => {
    const field = this.store.getState().fields.get(key);
    if (field) return field.pin ? field.pin.value : field.value;
    const clock = clockOf(key);
    return clock === null ? null : runs(this.read(clock));
  };
  row = (table: string, key: string) => this.tables.row(table, key);
  ranked = (table: string, rank: number) => this.tables.ranked(table, rank);

  picture = (path: string, keyed = false) => this.media.address(path, keyed);

  font = (family: string) => this.families.has(family);

  /** The field's state, as preflight asks for it. */
  stateOf = (key: string) => {
    const { fields } = this.store.getState();
    const clock = clockOf(key);
    const field = fields.get(key);
    if (field || clock === null) return field;
    const of = fields.get(clock);
    return (
      of && {
        ...of,
        key,
        value: this.read(key),
        ...(of.pin ? { pin: { ...of.pin, value: this.read(key) } } : {}),
      }
    );
  };

  /** The revision of a document that this page knows: a save names the one that it began from. 0 for none. */
  revisionOf = (kind: string, key: string): number =>
    own(this.store.getState().desk?.revisions ?? {}, nameOfPlace(kind, key)) ?? 0;

  /** Tells the keys of fields as they change. */
  onFields(listener: (keys: string[]) => void): () => void {
    this.fieldListeners.add(listener);
    return () => this.fieldListeners.delete(listener);
  }

  /** Takes a piece of news. */
  perform(op: DeskOp): void {
    const { desk, fields: before } = this.store.getState();
    if (!desk) return;
    switch (op.op) {
      case 'fields': {
        const fields = new Map(before);
        for (const f of op.fields) fields.set(f.key, f);
        this.store.setState({ fields });
        return this.tellFields(op.fields.map((f) => f.key));
      }
      case 'tables': {
        const { tables, news } = changedTables(desk.tables, op);
        const tokens = [
          ...news.flatMap((t) => this.tables.put(t, t.origin, t.at)),
          ...op.gone.flatMap((key) => this.tables.remove(key)),
        ];
        this.store.setState({ desk: { ...desk, tables } });
        return this.tellFields(tokens);
      }
      case 'undo':
        return this.takeUndo(op.states);
      default: {
        const next = changedDesk(desk, op);
        if (next.media !== desk.media) this.takeMedia(next.media);
        if (next.defs !== desk.defs) this.defs = new Map(next.defs.map((d) => [d.key, d]));
        const other = next.fields !== desk.fields;
        this.store.setState({
          desk: next,
          ...(other ? { fields: new Map(next.fields.map((f) => [f.key, f])) } : {}),
        });
        if (other) this.tellFields(next.fields.map((f) => f.key));
        if (next.media !== desk.media) this.tellFields([MEDIA_TOKEN]);
      }
    }
  }

  private takeMedia(media: readonly MediaEntry[]): void {
    this.media = new MediaIndex(media);
    const fonts = fontsOf(media);
    this.families = new Set([...fonts.values()].map((f) => f.family));
    void declareFonts([...fonts.keys()]);
  }

  /** Notes what the server says of this person's undo at this view. */
  private takeUndo(states: readonly UndoState[]): void {
    const mine = states.find(this.isMine);
    if (!mine) return;
    const { undo, redo, redoes, past } = mine;
    // A second press means what is shown.
    this.store.setState({ undo, redo, redoes, past, redoArmed: false });
  }

  private tellFields(fields: string[]): void {
    // Whoever asks whether a clock runs hears of it with the clock.
    const keys = fields.flatMap((key) =>
      this.defs.get(key)?.kind === 'clock' ? [key, runningKey(key)] : [key],
    );
    for (const listener of this.fieldListeners) listener(keys);
  }
}
