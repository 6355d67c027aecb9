import type { Logger } from 'pino';
import { isSaid, type Board } from '../../core/board/board.ts';
import { tableMemory } from '../../core/board/tables.ts';
import type { RotationMemory } from '../../core/derive/rotation.ts';
import { DiskFull, type Memory, type Store } from '../store/store.ts';
import { atRest } from '../../core/actions/memory-rows.ts';
import { machineTime, waiting, type Scheduler } from '../scheduler.ts';

/** How long a commit waits at most for a batch that is on its way, in ms. */
const PATIENCE = 2000;
/** A table rests this long for each of its cells before it is saved again, in ms: a long one that changes all the time costs little. */
const REST_A_CELL = 0.05;

/** Saves what changed on the board in batches, so that it is there when server and controller both died. */
export class BoardSaver {
  private readonly unsaved = new Set<string>();
  private readonly unsavedTables = new Set<string>();
  /** From when on a table may be saved again. */
  private readonly resting = new Map<string, number>();
  private saving = false;
  private held = false;

  constructor(
    private readonly board: Board,
    private readonly store: Pick<Store, 'ok' | 'saveBoard'>,
    private readonly logger: Logger,
    private readonly scheduler: Scheduler = machineTime,
    /** Where the rotation of a pick stands; null for what is none. */
    private readonly rotation: (key: string) => RotationMemory | null = () => null,
  ) {}

  note(fields: readonly string[], tables: readonly string[] = []): void {
    for (const key of fields) this.unsaved.add(key);
    for (const key of tables) this.unsavedTables.add(key);
  }

  /** Saves what was noted, clocks at rest. What cannot be saved now is tried again with the next batch. */
  async save(): Promise<void> {
    const now = this.scheduler.now();
    const tables = [...this.unsavedTables].filter((key) => (this.resting.get(key) ?? 0) <= now);
    if (this.saving || this.held || !this.store.ok || this.unsaved.size + tables.length === 0) return;
    this.saving = true;
    const keys = [...this.unsaved];
    this.unsaved.clear();
    for (const key of tables) this.unsavedTables.delete(key);
    const memory = [
      ...keys.flatMap((key) => this.rotationMemory(key)),
      ...tables.flatMap((key) => this.table(key, now)),
    ];
    try {
      await this.store.saveBoard(
        keys.flatMap((field) => {
          // A field may have gone meanwhile, with the sport that it was of.
          const state = this.board.state(field);
          return state
            ? [{ field, value: atRest(state.value, now), origin: state.origin, at: state.at }]
            : [];
        }),
        memory,
      );
    } catch (error) {
      this.note(keys, tables);
      // Of a full disk everybody is told already, many times a second would fill it more.
      if (!(error instanceof DiskFull))
        this.logger.warn({ err: error }, 'the board could not be saved; it will be tried again');
    } finally {
      this.saving = false;
    }
  }

  private rotationMemory(key: string): Memory[] {
    const body = this.rotation(key);
    return body ? [{ kind: 'rotation', key, body }] : [];
  }

  /** A table as sources said it; those that are worked out are worked out again. */
  private table(key: string, now: number): Memory[] {
    const table = this.board.tables.get(key);
    if (table && !isSaid(table.origin)) return [];
    if (table) this.resting.set(key, now + table.rows.size * table.columns.length * REST_A_CELL);
    return [{ kind: 'table', key, body: table ? tableMemory(table) : null }];
  }

  /** Does what writes board values itself: a batch on its way arrives before it, and none sets out until it is over. */
  async alone<T>(work: () => Promise<T>): Promise<T> {
    this.held = true;
    for (let waited = 0; this.saving && waited < PATIENCE; waited += 5) await waiting(this.scheduler, 5);
    return work().finally(() => (this.held = false));
  }
}
