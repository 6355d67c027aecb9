import type { ActionBody } from '../../core/actions/actions.ts';
import type { Item } from '../../core/show/item.ts';
import { tracedKey, type Traced } from '../../core/trace/traced.ts';
import type { DeskOp, DeskSnapshot } from '../../core/wire/wire.ts';
import { openLink, type Link } from '../../stage/link.ts';
import { ActionClient } from './action-client.ts';
import { newStore, type Answer } from './desk-state.ts';
import { identity, type Identity } from './identity.ts';
import { BoardReplica } from './board-replica.ts';

export type { Answer, DeskState, Prepared } from './desk-state.ts';

type Named = Pick<Item, 'key' | 'name'>;
/** Sends what is typed of an item and not sent yet; false where that was refused. */
type Form = (item: Named) => Promise<boolean>;

/**
 * What a page works with: the line to the running Foothill, what it knows of it, and the way to act on it. All browsers
 * follow the same stream, so they agree.
 */
export class Desk extends BoardReplica {
  readonly link: Link;
  private readonly asking: ActionClient;
  private watched: Traced | null = null;
  private steps: Promise<unknown> = Promise.resolve();
  private readonly forms = new Set<Form>();

  constructor(
    /** The view that it is for: each has an undo of its own. */
    view: string,
    who: Identity = identity(),
    store = newStore(),
  ) {
    super(store, (s) => s.desk === who.desk && s.view === view);
    this.link = openLink<DeskSnapshot, DeskOp>('desk', {
      onSnapshot: (desk) => {
        this.begin(desk);
        if (this.watched) this.link.send({ t: 'watch', of: this.watched });
      },
      onOps: (ops) => this.take(ops),
      onHere: (here) => store.setState({ here }),
      onOther: ({ trace }) => {
        if (trace && this.watched && tracedKey(trace.of) === tracedKey(this.watched))
          store.setState({ trace });
      },
    });
    this.asking = new ActionClient(store, view, who, this.link);
  }

  private take(ops: readonly DeskOp[]): void {
    try {
      ops.forEach((op) => this.perform(op));
    } catch {
      // What this page knows is not what the server told of: all of it anew, rather than something that is not so.
      this.link.send({ t: 'snapshot' });
    }
  }

  /** Follows the trace of one thing, or of none. */
  watch(of: Traced | null): void {
    if (of && this.watched && tracedKey(of) === tracedKey(this.watched)) return;
    this.watched = of;
    this.store.setState({ trace: null });
    this.link.send({ t: 'watch', of });
  }

  /** Sends an action; what came of it is kept to be shown, of one that goes by itself (`aside`) only that it failed. */
  act = (action: ActionBody, aside = false): Promise<Answer> => this.asking.act(action, aside);

  /** Asks a form, before an item goes on air, whether all that is typed of the item is with the server. Gives what ends that. */
  heed(form: Form): () => void {
    this.forms.add(form);
    return () => void this.forms.delete(form);
  }

  /** Does with an item what puts it on air, once what is typed of it is saved: what is seen is what is taken. */
  withTyped = async (item: Named, action: ActionBody): Promise<void> => {
    for (const isSaved of [...this.forms]) if (!(await isSaved(item))) return;
    await this.act(action);
  };

  /** Takes an item everywhere it goes, with what is typed of it. */
  takeItem = (item: Named): Promise<void> => this.withTyped(item, { kind: 'take', item: item.key });

  /**
   * Does a step that goes by how things stand, such as an undo, when those before it are through and all that was asked for is
   * answered: each means what is the newest by then.
   */
  inTurn = <T>(step: () => Promise<T>): Promise<T> => {
    const done = this.steps.then(this.asking.settled).then(step);
    // One that fails holds up none after it.
    this.steps = done.catch(() => {});
    return done;
  };

  /** Takes an action of this person at this view back: the newest, or one by its id. */
  undo = (of?: string): Promise<Answer> => this.act({ kind: 'undo', ...(of === undefined ? {} : { of }) });

  /** Does what was taken back last again. */
  redo = (): Promise<Answer> => this.act({ kind: 'redo' });
}
