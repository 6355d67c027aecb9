import { randomUUID } from 'node:crypto';
import type { Logger } from 'pino';
import { isByHand, type SourceBundle } from '../../core/source/source.ts';
import { parseBundle } from '../../core/source/bundle.ts';
import type { DocMap } from '../../core/tree/doc-map.ts';
import type { SourceState } from '../../core/wire/wire.ts';
import type { DocumentReader } from '../ingest/document/reader.ts';
import type { ReadResult } from '../ingest/document/work.ts';
import type { SourceListener } from '../ingest/source-listener.ts';
import { openSource, type Reach } from '../ingest/open-source.ts';
import type { RunningSource } from '../ingest/running-source.ts';
import { ByteStreams } from './byte-streams.ts';
import type { Hub } from './hub.ts';
import type { Scheduler, Timer } from '../scheduler.ts';

/** As many lines may be tried at once. */
const MOST = 8;
/** A trial that no page has asked about for so long, in ms, is over: the page is gone. */
const FORGOTTEN = 15_000;
const LOOK_EVERY = 3000;

interface Trial {
  bundle: SourceBundle;
  source: RunningSource;
  askedAt: number;
}

export interface TrialHost {
  scheduler: Scheduler;
  hub: Hub;
  reach: Reach;
  reader: DocumentReader;
  logger: Logger;
}

/**
 * Lines that are open so that somebody can look at what comes, before a source is saved: nothing of it is kept, and nothing
 * of it reaches the board. Their keys are unlike any source's.
 */
export class Trials {
  private readonly all = new Map<string, Trial>();
  private readonly bytes: ByteStreams;
  private readonly timer: Timer;

  constructor(private readonly host: TrialHost) {
    this.bytes = new ByteStreams(host.hub, host.scheduler);
    this.timer = host.scheduler.setInterval(() => this.endForgotten(), LOOK_EVERY);
  }

  /** Opens a line; gives its key, or a sentence that says why not. */
  open(transport: unknown): { key: string } | { problem: string } {
    const read = parseBundle({
      schema: 1,
      source: { schema: 1, key: 'trial', name: 'Trial', transport, limits: { late: 1500, lost: 4000 } },
    });
    if (!read.ok) return { problem: `${read.problems.join('; ')}.` };
    if (isByHand(read.value.source)) return { problem: 'By hand there is no line to try.' };
    if (this.all.size >= MOST)
      return { problem: `${MOST} lines are being tried already: save or close one.` };
    const key = `trial_${randomUUID()}`;
    const bundle = { ...read.value, source: { ...read.value.source, key } };
    const listener: SourceListener = {
      received: (said) => said.kind === 'bytes' && this.bytes.push(key, said.bytes),
      read: () => {},
      now: this.host.scheduler.now,
      scheduler: this.host.scheduler,
      atOneTime: (work) => work(),
      log: this.host.logger,
    };
    const source = openSource(bundle, listener, this.host.reach, this.host.reader);
    this.all.set(key, { bundle, source, askedAt: this.host.scheduler.now() });
    this.bytes.open(key, () => source.frames?.tail ?? new Uint8Array());
    source.start();
    return { key };
  }

  /** How it is; null where it is over. Asking keeps it open. */
  state(key: string): SourceState | null {
    const trial = this.asked(key);
    trial?.source.look(this.host.scheduler.now());
    return trial?.source.state([]) ?? null;
  }

  bundle(key: string): SourceBundle | undefined {
    return this.all.get(key)?.bundle;
  }

  /** Fetches its document at once. */
  async fetchNow(key: string): Promise<SourceState | null> {
    const source = this.asked(key)?.source;
    if (!source?.documents) return null;
    await source.documents.fetchNow();
    return this.state(key);
  }

  /** Its newest good document, read by a map that is being made; null where there is none. */
  tryMap(key: string, map: DocMap | null, most?: number): Promise<ReadResult> | null {
    const source = this.asked(key)?.source;
    return source?.documents?.tryMap(map, most) ?? null;
  }

  end(key: string): void {
    this.all.get(key)?.source.stop();
    this.all.delete(key);
    this.bytes.shut(key);
  }

  stop(): void {
    this.host.scheduler.clear(this.timer);
    this.bytes.close();
    for (const key of [...this.all.keys()]) this.end(key);
  }

  private asked(key: string): Trial | undefined {
    const trial = this.all.get(key);
    if (trial) trial.askedAt = this.host.scheduler.now();
    return trial;
  }

  private endForgotten(): void {
    for (const [key, { askedAt }] of this.all)
      if (askedAt < this.host.scheduler.now() - FORGOTTEN) this.end(key);
  }
}
