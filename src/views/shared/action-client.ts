import type { ActionBody } from '../../core/actions/actions.ts';
import type { Answer, DeskStore } from './desk-state.ts';
import { newId, type Identity } from './identity.ts';

/** What the server answers to an action. */
interface Reply {
  ok: boolean;
  text?: string;
  reason?: string;
  seq?: number;
  clash?: boolean;
}

/** When a press says that it is under way, in ms. */
const UNDER_WAY_AFTER = 60;
/** Until when an action may be begun, and when its answer is given up: a commit takes two seconds at most. */
const DONE_WITHIN = 5000;
const GIVEN_UP_AFTER = 8000;

/** The way from a page to the server: one action is asked for, and what came of it is kept to be shown. */
export class ActionClient {
  /** How many actions were asked for, and which of them is answered on the screen. */
  private asked = 0;
  private shown = 0;
  private readonly open = new Set<Promise<Answer>>();

  constructor(
    private readonly store: DeskStore,
    /** The view that it is for: each has an undo of its own. */
    private readonly view: string,
    private readonly who: Identity,
    private readonly link: { realNow: () => number; reached: (seq: number) => Promise<void> },
  ) {}

  /**
   * Sends an action; what came of it is kept to be shown. One that goes by itself, `aside` of what is pressed, says no more than
   * that it failed: what was refused meanwhile stays to be read.
   */
  async act(action: ActionBody, aside = false): Promise<Answer> {
    const number = ++this.asked;
    const asked = this.post(action, aside ? null : number);
    this.open.add(asked);
    const answer = await asked;
    this.open.delete(asked);
    // Where somebody else changed the same thing, the place that is edited asks what is to be done.
    if (!aside || !answer.ok) this.say(answer.clash ? null : answer, number);
    return answer;
  }

  /** Waits until what was asked for so far has its answer, and is seen here. */
  settled = async (): Promise<void> => void (await Promise.all(this.open));

  /** Shows what came of an action, unless something that was asked after it has its answer already: a refusal is not overwritten. */
  private say(said: Answer | null, number: number): void {
    if (number < this.shown) return;
    this.shown = number;
    this.store.setState({ said });
  }

  /** `number` is that of the press that says when it is under way; null for what goes by itself. */
  private async post(action: ActionBody, number: number | null): Promise<Answer> {
    const slow = setTimeout(() => {
      if (number !== null) this.say({ ok: true, text: 'Under way…', pending: true }, number);
    }, UNDER_WAY_AFTER);
    try {
      const response = await fetch('/api/actions', {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        // What is given up here must not happen later: after this the server refuses it.
        body: JSON.stringify({
          id: newId(),
          until: this.link.realNow() + DONE_WITHIN,
          desk: this.who.desk,
          view: this.view,
          ...(this.who.name() ? { who: this.who.name() } : {}),
          ...action,
        }),
        signal: AbortSignal.timeout(GIVEN_UP_AFTER),
      });
      const body = (await response.json()) as Reply;
      // What was done is seen here before it is called done.
      if (body.seq) await this.link.reached(body.seq);
      return {
        ok: body.ok,
        text: body.text ?? body.reason ?? '',
        ...(body.clash ? { clash: true } : {}),
      };
    } catch {
      return {
        ok: false,
        text: 'The server does not answer, so nothing is known to have changed. Look before you try again.',
      };
    } finally {
      clearTimeout(slow);
    }
  }
}
