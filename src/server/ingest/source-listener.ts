import type { Scheduler } from '../scheduler.ts';
import type { Logger } from 'pino';
import type { SourceEvent } from '../../core/tape/tape.ts';
import type { DocumentRead } from '../../core/tree/read.ts';

/** Who listens to a source, and by which time. */
export interface SourceListener {
  /** Everything that comes from it, before it is used. */
  received(said: SourceEvent): void;
  /** What that says, read. */
  read(read: DocumentRead, at: number): void;
  /** The time of the show, ms. It stands while `during` does its work, so that one event has one time. */
  now(): number;
  /** What a source waits by before it tries again. */
  scheduler: Scheduler;
  atOneTime(work: () => void): void;
  log: Logger;
}
