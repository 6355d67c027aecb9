import type { ActionBody } from '../../core/actions/actions.ts';
import type { Outcome } from '../../core/wire/wire.ts';
import type { Link } from '../../stage/link.ts';
import type { Answer, DeskStore } from './desk-state.ts';
import { newId, type Identity } from './identity.ts';

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
    private readonly link: Pick<Link, 'realNow' | 'reached' | 'act'>,
  ) {}

  /**
   * Sends an action; what came of it is kept to be shown. One that goes by itself, `aside` of what is pressed, says no more than
   * that it failed: what was refused meanwhile stays to be read.
   */
  async act(action: ActionBody, aside = false): Promise<Answer> {
    const number = ++this.asked;
    const asked = this.ask(action, aside ? null : number);
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
  private async ask(action: ActionBody, number: number | null): Promise<Answer> {
    const slow = setTimeout(() => {
      if (number !== null) this.say({ ok: true, text: 'Under way…', pending: true }, number);
    }, UNDER_WAY_AFTER);
    // What is given up here must not happen later: after this the server refuses it.
    const asked = {
      id: newId(),
      until: this.link.realNow() + DONE_WITHIN,
      desk: this.who.desk,
      view: this.view,
      ...(this.who.name() ? { who: this.who.name() } : {}),
      ...action,
    };
    const givenUp = AbortSignal.timeout(GIVEN_UP_AFTER);
    try {
      const outcome = (await unlessAborted(givenUp, this.link.act(asked))) ?? (await post(asked, givenUp));
      if (!outcome.ok) return { ok: false, text: outcome.reason, ...(outcome.clash ? { clash: true } : {}) };
      // What was done is seen here before it is called done.
      if (outcome.seq) await this.link.reached(outcome.seq);
      return { ok: true, text: outcome.text };
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

/** Asks by a request of its own. */
async function post(action: object, signal: AbortSignal): Promise<Outcome> {
  const headers = { 'content-type': 'application/json' };
  const body = JSON.stringify(action);
  const response = await fetch('/api/actions', { method: 'POST', headers, body, signal });
  return (await response.json()) as Outcome;
}

/** What is waited for, unless it is given up before. */
const unlessAborted = <T>(signal: AbortSignal, work: Promise<T>): Promise<T> =>
  new Promise((done, failed) => {
    signal.addEventListener('abort', () => failed(signal.reason as Error));
    work.then(done, failed);
  });
