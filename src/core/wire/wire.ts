import type { Documents, ToldKind } from '../documents/kinds.ts';
import type { UndoState } from '../actions/past.ts';
import type { FieldValue } from '../board/values.ts';
import type { Patch } from '../document/patches.ts';
import type { FrameMap } from '../decode/frame-map.ts';
import type { Derived } from '../derive/derived.ts';
import type { MediaEntry } from '../media/media.ts';
import type { FieldDef } from '../sport/profile.ts';
import type { RehearsalState, TapeInfo } from '../tape/tape.ts';
import type { Stretch } from '../tape/show-time.ts';
import type { Traced } from '../trace/traced.ts';
import type { FieldState, Quality } from '../board/board.ts';
import type { Row } from '../board/tables.ts';
import type { Lane, WhyQuiet, Zone } from '../show/show.ts';
import type { Layout, LayerProps } from '../layers/kinds.ts';
import type { Unread } from '../documents/kinds.ts';
import type { LayerDelta } from '../resolve/resolver.ts';
import type { Box } from '../text/fit.ts';
import type { SourceBundle } from '../source/source.ts';
import type { Health } from '../source/health.ts';

/** Sent by the server on every stream. Deltas are numbered without gaps from the snapshot's number on. */
export type ServerMessage<Body, Op> =
  | { t: 'snapshot'; seq: number; body: Body }
  /** `at`: what it says, and all that is told after it, is done then (server ms) and not before. */
  | { t: 'delta'; seq: number; ops: Op[]; at?: number }
  | { t: 'pong'; at: number; now: number }
  /** By which time the show runs, and the tape that is rehearsed with; null: it is real. */
  | { t: 'time'; rehearsal: ShownRehearsal | null }
  | { t: 'trace'; trace: Trace | null }
  /** What came of the action of this id that the page asked for. */
  | { t: 'acted'; id: string; outcome: Outcome };

/** What came of an action: done, with the number of the desks' stream that has it; or a sentence that says why not. */
export type Outcome =
  | { ok: true; text: string; seq: number }
  | { ok: false; status: number; reason: string; clash?: true };

/** What every page knows of a rehearsal. */
export interface ShownRehearsal extends Stretch {
  /** The tape's name. */
  tape: string;
}

/** Sent by a page: ask for a snapshot, measure the clocks' offset, watch one trace (null: none). */
export type ClientMessage =
  | { t: 'snapshot' }
  /** With how long the last one took there and back, in ms, once that is known. */
  | { t: 'ping'; at: number; rtt?: number }
  | { t: 'watch'; of: Traced | null }
  /** A page could not draw a layer: it stays as it was. */
  | { t: 'fault'; fault: DrawFault }
  /** An action, as it would be posted. */
  | { t: 'act'; action: { id: string } };

/** One item on an output, under a name of its own (`mount`): its layout, where it stands, and the content of its layers. */
export interface AirItem {
  mount: string;
  zone: string;
  box: Box;
  /** How many zones are behind its own. */
  level: number;
  item: string;
  template: string;
  /** When it shows first, ms by the time of the show; nothing where no other page shows it. */
  since?: number;
  layout: Layout;
  states: Record<string, LayerProps>;
}

/** What a page draws behind everything: a colour, or a picture or a clip that covers all of it; nothing where it is transparent. */
export interface Painted {
  colour?: string;
  address?: string;
  clip?: boolean;
}

/** What a test card shows: the whole picture, and the zones in it. */
export interface Card {
  output: { name: string; width: number; height: number };
  /** `all`: it lies over all others. */
  zones: readonly (Zone & { all: boolean })[];
}

export interface AirSnapshot {
  /** The test card, over all of it; null where there is none. */
  card: Card | null;
  output: { key: string; width: number; height: number; background: Painted };
  items: AirItem[];
  /** The fonts that were brought in, by hash: a page has them before it shows anything written in them. */
  fonts: readonly string[];
  /** Nothing moves: what changes changes at once. */
  quiet?: boolean;
}

/** A layer that could not be drawn: of which item, and what the browser says. */
export interface DrawFault {
  item: string;
  layer: string;
  text: string;
}

/** A page of an output that is open somewhere. */
export interface OpenPage {
  id: number;
  output: string;
  /** What it shows: `page`, `key`, or the colour behind it as `rrggbb`. */
  as: string;
  /** The address that it is at, or `this machine`. */
  from: string;
  /** Server ms. */
  since: number;
  /** How late what is sent is there, in ms; null before that is known. */
  late: number | null;
  /** The newest layer that it could not draw, of late; nothing where it draws all. */
  fault?: DrawFault;
  /** It asks for the time no more (silent), does not take what is sent (behind), or was open until `since` (gone). */
  state: 'open' | 'behind' | 'silent' | 'gone';
}

export type AirOp =
  | { op: 'layers'; deltas: readonly LayerDelta[] }
  | { op: 'take'; item: AirItem }
  | { op: 'clear'; mount: string }
  | { op: 'quiet'; quiet: boolean }
  | { op: 'fonts'; fonts: readonly string[] };

export interface SourceState {
  key: string;
  name: string;
  address: string;
  health: Health;
  connected: boolean;
  /** Server ms of the last good word, null before the first. */
  lastWord: number | null;
  /** Good frames a second, over the last seconds. */
  rate: number;
  /** For documents: server ms when the content last changed. */
  changedAt?: number | null;
  /** For what is pressed by hand: the fields that hold a word of it. */
  holds?: string[];
  counts: {
    good: number;
    badChecks: number;
    skipped: number;
    refused: number;
    /** Frames that newer ones of the same moment overtook, and bytes that were let go in a flood. */
    overtaken?: number;
    dropped?: number;
  };
  /** The newest trouble, as a sentence, and when. */
  trouble: { text: string; at: number } | null;
  /** Fields of its own that another source still holds since it was silent: what holds, and what it says. */
  waiting: { field: string; held: FieldValue; back: FieldValue }[];
}

/** A source's bytes on their stream, as hexadecimal; its snapshot holds the newest ones. */
export interface BytesOp {
  hex: string;
}

/** A table as desks see it. */
export interface DeskTable {
  key: string;
  name: string;
  columns: string[];
  rows: [string, Row][];
  origin: string;
  at: number;
  quality: Quality;
}

/** What changed in a table that desks have: the rows that are new or other; the order of all where it is another. */
export interface TableChange extends Omit<DeskTable, 'columns'> {
  change: true;
  order?: string[];
}

export interface BoardField extends FieldState {
  key: string;
}

export interface LogLine {
  at: number;
  text: string;
  /** Who did it; blank where that is not known. */
  who: string;
}

export interface DeskSnapshot {
  defs: FieldDef[];
  /** The documents that desks follow one by one, by kind. */
  documents: { [K in ToldKind]: Documents[K][] };
  /** The game that is played. */
  playing: string | null;
  /** What is derived: by whom, and what went wrong, by key. */
  derived: { doc: Derived; own: boolean }[];
  problems: Record<string, string>;
  /** Frame maps that are there to be used. */
  maps: FrameMap[];
  /** The media library. */
  media: MediaEntry[];
  fields: BoardField[];
  tables: DeskTable[];
  lanes: Lane[];
  /** Documents that could not be read, which stand in the database as they are. */
  unread: Unread[];
  sources: SourceState[];
  /** Sources as they are saved, without what must not leave the server. */
  bundles: SourceBundle[];
  /** The folders that files may be read from. */
  folders: string[];
  tapes: TapeInfo[];
  rehearsal: RehearsalState | null;
  /** Whether it answers, and whether its disk has no room any more. */
  database: { ok: boolean; full: boolean };
  /** The outputs that show their test card. */
  cards: string[];
  /** Why boards in the venue change without motion now; null while they move. */
  quiet: WhyQuiet | null;
  /** The pages of the outputs that are open now. */
  pages: OpenPage[];
  /** Those that were open and are not any more. */
  gone: OpenPage[];
  log: LogLine[];
  /** What can be undone and redone, by whom and at which view. */
  undos: UndoState[];
  /** How often each document was saved, by `kind/key`: a save names the one that it began from. */
  revisions: Record<string, number>;
}

/** What has all templates. */
export interface TemplatesIn {
  documents: Pick<DeskSnapshot['documents'], 'template'>;
}

/** The documents that desks follow one by one; a source comes with all that belongs to it. */
export interface DeskDocuments extends Pick<Documents, ToldKind> {
  lane: Lane;
  source: SourceBundle;
  media: MediaEntry;
}

/** A document as it is now; what has no revision is not saved as a whole. */
export type DocumentOp = {
  [K in keyof DeskDocuments]: {
    op: 'document';
    kind: K;
    key: string;
    doc: DeskDocuments[K];
    revision?: number;
  };
}[keyof DeskDocuments];

/** What a save changed in a document that is saved as a whole: it stood at the revision before this one. */
export interface ChangedOp {
  op: 'changed';
  kind: ToldKind;
  key: string;
  patches: readonly Patch[];
  revision: number;
}

/** What of a snapshot follows from several documents. */
export type WorldPart = 'playing' | 'defs' | 'fields' | 'derived' | 'maps' | 'unread' | 'revisions';

export type DeskOp =
  | { op: 'fields'; fields: BoardField[] }
  | { op: 'tables'; tables: (DeskTable | TableChange)[]; gone: string[] }
  | DocumentOp
  | ChangedOp
  | { op: 'document-gone'; kind: keyof DeskDocuments; key: string }
  /** What follows from documents: the sport's fields, what is derived, which game is played, what could not be read. */
  | { op: 'world'; world: Partial<Pick<DeskSnapshot, WorldPart>> }
  | { op: 'undo'; states: UndoState[] }
  | { op: 'sources'; sources: SourceState[] }
  | { op: 'deck'; tapes: TapeInfo[]; rehearsal: RehearsalState | null }
  | { op: 'problems'; problems: Record<string, string> }
  | { op: 'database'; ok: boolean; full: boolean }
  | { op: 'pages'; pages: OpenPage[]; gone: OpenPage[] }
  | { op: 'cards'; cards: string[] }
  | { op: 'quiet'; quiet: WhyQuiet | null }
  /** A line of the log; it may stand in the place of the one before. */
  | { op: 'log'; line: LogLine; replaces: boolean };

/** One thing that a traced value was made of, and what it says now; `of` is null for what cannot be traced further. */
export interface TracedPart {
  of: Traced | null;
  name: string;
  says: string;
}

/** Why something says what it says: from the bytes to the layers that show it. */
export interface Trace {
  of: Traced;
  name: string;
  /** What it says now; blank for nothing. */
  says: string;
  /** Who said it, by name; null before the first word. */
  origin: string | null;
  frame?: {
    source: string;
    /** Hexadecimal, two digits a byte. */
    hex: string;
    /** The same as text; unprintable bytes as a middle dot. */
    text: string;
    at: number;
    /** Where the reading stands in it: bytes from (included) to (not). */
    places: { from: number; to: number }[];
  };
  /** The place in a document, or the line, that it came from, and what is written there. */
  document?: { source: string; format: string; place: string; raw: string; at: number };
  /** For what is derived: by which step, of what, and how many parts more there are. */
  derived?: { how: string | null; from: TracedPart[]; more: number };
  reading?: { name: string; kind: string; raw: string; value: string; problem?: string };
  patch?: { reading: string; running?: string; converted: boolean };
  /** Where it is seen on air. */
  uses: { item: string; layer: string; property: string }[];
}
