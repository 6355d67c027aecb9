import type { Logger } from 'pino';
import type { Change } from '../../core/actions/change.ts';
import type { ActionRecord } from './action-rows.ts';
import { inTime } from './trouble.ts';

const LOOK_EVERY = 1000;
/** As many looks in a row without an answer, and the database is said to be away. */
const MISSES = 2;

/** An action whose commit may or may not have happened when the database fell silent, with its opposite. */
export interface Doubt {
  action: ActionRecord;
  undo: Change;
  /** Resolves once the commit has come to an end, whichever. */
  settled: Promise<unknown>;
}

interface Parts {
  /** Asks the database anything. */
  ask: () => Promise<unknown>;
  /** Takes an action back that counts as not done, should it stand there. */
  settle: (doubt: Doubt) => Promise<void>;
  log: Logger;
  onUp: (up: boolean) => void;
}

/** Whether the database is there, and what is to be settled on its return. */
export class Watch {
  private up = true;
  private timer: NodeJS.Timeout | null = null;
  private readonly inDoubt: Doubt[] = [];
  private looking = false;
  private missed = 0;

  constructor(private readonly parts: Parts) {}

  get ok(): boolean {
    return this.up;
  }

  start(): void {
    this.timer = setInterval(() => void this.look(), LOOK_EVERY);
  }

  stop(): void {
    if (this.timer) clearInterval(this.timer);
  }

  /** The database did not answer to a commit: that is said at once, and the commit is settled later. */
  lost(doubt: Doubt): void {
    this.inDoubt.push(doubt);
    this.setUp(false);
  }

  /**
   * Asks the database whether it is there; on its return settles what was in doubt before saying so. One answer that is late is
   * no reason to alarm everybody: on a busy machine that happens, and whoever changes something hears of it at once anyway.
   */
  async look(): Promise<void> {
    if (this.looking) return;
    this.looking = true;
    try {
      await inTime(this.parts.ask());
      while (this.inDoubt.length) {
        await this.inDoubt[0]!.settled;
        await this.parts.settle(this.inDoubt[0]!);
        this.inDoubt.shift();
      }
      this.missed = 0;
      this.setUp(true);
    } catch (error) {
      if (++this.missed < MISSES) return;
      if (this.up) this.parts.log.error({ err: error }, 'the database was asked and gave no answer');
      this.setUp(false);
    } finally {
      this.looking = false;
    }
  }

  private setUp(up: boolean): void {
    if (this.up === up) return;
    this.up = up;
    this.parts.log[up ? 'info' : 'error'](
      { database: up },
      up ? 'the database answers again' : 'the database does not answer',
    );
    this.parts.onUp(up);
  }
}
