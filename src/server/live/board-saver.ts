import type { Logger } from 'pino';
import type { Board } from '../../core/board/board.ts';
import type { Store } from '../store/store.ts';
import { atRest } from '../../core/actions/memory-rows.ts';
import { machineTime, waiting, type Scheduler } from '../scheduler.ts';

/** How long a commit waits at most for a batch that is on its way, in ms. */
const PATIENCE = 2000;

/** Saves what changed on the board in batches, so that it is there when server and controller both died. */
export class BoardSaver {
  private readonly unsaved = new Set<string>();
  private saving = false;
  private held = false;

  constructor(
    private readonly board: Board,
    private readonly store: Pick<Store, 'ok' | 'saveBoard'>,
    private readonly logger: Logger,
    private readonly scheduler: Scheduler = machineTime,
  ) {}

  note(keys: readonly string[]): void {
    for (const key of keys) this.unsaved.add(key);
  }

  /** Saves what was noted, clocks at rest. What cannot be saved now is tried again with the next batch. */
  async save(): Promise<void> {
    if (this.saving || this.held || this.unsaved.size === 0 || !this.store.ok) return;
    this.saving = true;
    const keys = [...this.unsaved];
    this.unsaved.clear();
    const now = this.scheduler.now();
    try {
      await this.store.saveBoard(
        keys.flatMap((field) => {
          // A field may have gone meanwhile, with the sport that it was of.
          const state = this.board.state(field);
          return state
            ? [{ field, value: atRest(state.value, now), origin: state.origin, at: state.at }]
            : [];
        }),
      );
    } catch (error) {
      this.note(keys);
      this.logger.warn({ err: error }, 'the board could not be saved; it will be tried again');
    } finally {
      this.saving = false;
    }
  }

  /** Does what writes board values itself: a batch on its way arrives before it, and none sets out until it is over. */
  async alone<T>(work: () => Promise<T>): Promise<T> {
    this.held = true;
    for (let waited = 0; this.saving && waited < PATIENCE; waited += 5) await waiting(this.scheduler, 5);
    return work().finally(() => (this.held = false));
  }
}
