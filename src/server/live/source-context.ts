import type { Logger } from 'pino';
import type { Applied, Board } from '../../core/board/board.ts';
import type { Reach } from '../ingest/open-source.ts';
import type { DocumentReader } from '../ingest/document/reader.ts';
import type { Scheduler } from '../scheduler.ts';
import type { Hub } from './hub.ts';

/** What changed on the board: tokens of fields and rows for what shows them, fields and tables for the desks. */
export interface BoardUpdate extends Pick<Applied, 'changed' | 'touched'> {
  tables?: string[];
}

/** What sources work in. */
export interface SourceContext {
  board: Board;
  hub: Hub;
  spread: (changes: BoardUpdate) => void;
  reach: Reach;
  logger: Logger;
  reader: DocumentReader;
  scheduler: Scheduler;
  /** The time of the show, ms. */
  now: () => number;
  /** A tape speaks in place of the sources: no line is opened, nothing is fetched. */
  tape?: boolean;
}
