import type { CellAt } from '../../core/trace/traced.ts';
import type { Frame } from '../../core/decode/decoder.ts';
import type { ReadingDef } from '../../core/decode/frame-map.ts';
import type { Reading } from '../../core/decode/reading.ts';
import type { Health } from '../../core/source/health.ts';
import type { SourceDoc } from '../../core/source/source.ts';
import type { SourceMemory } from '../../core/tape/memory.ts';
import type { SourceEvent } from '../../core/tape/tape.ts';
import type { DocMap } from '../../core/tree/doc-map.ts';
import type { Found } from '../../core/tree/find.ts';
import type { SourceState } from '../../core/wire/wire.ts';
import type { ReadResult } from './document/work.ts';

/** Where a cell stands in the newest document of a source, and when that came (server ms). */
export type Whereabouts = Found & { format: string; at: number };

/** What delivers a stream of bytes. */
export interface Frames {
  /** The newest bytes. */
  readonly tail: Uint8Array;
  /** The newest frame that could carry a reading, and when it came. */
  lastFor(def: ReadingDef): { frame: Frame; at: number } | null;
}

/** What delivers whole documents and can be asked for the newest. */
export interface DocumentsThere {
  fetchNow(): Promise<void>;
  /** The newest good document read by a map that is being made. */
  tryMap(map: DocMap | null, most?: number): Promise<ReadResult> | null;
  /** The newest good document, as it was fetched. */
  readonly newest: SourceEvent | null;
}

/** What is pressed by somebody. */
export interface Pad {
  readonly doc: SourceDoc;
  /** The fields whose newest word is its own. */
  readonly words: Set<string>;
  press(fields: readonly string[], at: number): void;
}

/** The readings of the newest document or line, and what it was. */
export interface LastRead {
  readings: Reading[];
  at: number;
  format: string;
}

/** A running source of any kind. What only some kinds can do stands under a name of its own, null where this one cannot. */
export interface RunningSource {
  doc: SourceDoc;
  readonly health: Health;
  refused: number;
  readonly frames: Frames | null;
  readonly documents: DocumentsThere | null;
  readonly pad: Pad | null;
  start(): void;
  stop(): void;
  /** Judges its silence at `now`; true where its health changed. */
  look(now: number): boolean;
  report(text: string, at: number): void;
  state(waiting: SourceState['waiting']): SourceState;
  /** Takes what a tape says in its line's place; `atMoment` does it at the time when it counts. */
  receive(said: SourceEvent, atMoment: (take: () => void) => void): void | Promise<void>;
  remember(zero: number): SourceMemory;
  recall(memory: SourceMemory, zero: number): void;
  /** What its newest document or line said; null where none came, or it has none. */
  readonly lastRead: LastRead | null;
  /** Where a cell of its tables stands in that. */
  whereIs(cell: CellAt): Whereabouts | null;
}
