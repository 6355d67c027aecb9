import type { Board } from '../../core/board/board.ts';
import type { FieldValue } from '../../core/board/values.ts';
import type { World } from '../../core/actions/world.ts';
import { Dependents, type Followed } from '../../core/resolve/dependents.ts';
import { QUIET } from '../../core/show/quiet.ts';
import type { WhyQuiet } from '../../core/show/show.ts';
import { edgeIn, type Trigger } from '../../core/show/trigger.ts';
import type { Scheduler, Timer } from '../scheduler.ts';
import { compiled, evaluate, truthOf, type Value } from '../../core/value/value.ts';

/** A value that something is done by: of a trigger, by its key, or the rule of when it is quiet. */
interface Watched extends Followed {
  of: string;
  /** What it said last, and whether all that it asks for could be trusted then. */
  was: FieldValue;
  sound: boolean;
  /** Who says what it asks for: another source's word is no event. */
  from: string;
}

interface Parts {
  board: Board;
  scheduler: Scheduler;
  world: World;
  /** A trigger did what it waits for, and its wait is over. */
  fire: (trigger: string) => void;
  /** It is quiet now, for what reason; null: no more. */
  quiet: (why: WhyQuiet | null) => void;
}

/**
 * What is done by itself because the board says something: triggers, and when it is quiet. What sources say counts; what somebody
 * corrects, exchanges or begins by hand does not.
 */
export class Rules {
  private readonly watched = new Map<string, Watched>();
  private readonly dependents: Dependents<Watched>;
  private readonly waiting = new Map<string, Timer>();
  private byHand = 0;
  private holds = false;
  private told: WhyQuiet | null = null;

  constructor(private readonly parts: Parts) {
    this.dependents = new Dependents(parts.board);
  }

  /** Follows triggers and rule as they are now; what they say at this moment is where they begin. */
  begin(): void {
    const { trigger, quiet } = this.parts.world.documents;
    const wanted = new Map<string, Value>([...trigger.values()].map((t) => [`trigger ${t.key}`, t.when]));
    const { rule } = quiet.get(QUIET) ?? { rule: null };
    if (rule) wanted.set(QUIET, rule);
    for (const [of, one] of [...this.watched])
      if (JSON.stringify(wanted.get(of)) !== JSON.stringify(one.value)) {
        this.dependents.drop(one);
        this.watched.delete(of);
      }
    for (const [of, value] of wanted) {
      if (this.watched.has(of)) continue;
      const scope = this.dependents.scope({});
      const one = {
        of,
        value,
        work: compiled(value),
        scope,
        tokens: new Set<string>(),
        was: null,
        sound: false,
        from: '',
      };
      this.watched.set(of, one);
      this.dependents.followFields(one);
      this.note(one);
    }
    for (const [key, timer] of this.waiting)
      if (!trigger.get(key)?.on) {
        this.parts.scheduler.clear(timer);
        this.waiting.delete(key);
      }
    this.settle();
  }

  /** Does what somebody does by hand: whatever changes by it, nothing is taken because of it. */
  unmoved<T>(work: () => T): T {
    this.byHand++;
    try {
      return work();
    } finally {
      this.byHand--;
    }
  }

  /** Looks at what the board says anew after a change of it. */
  react(changed: readonly string[], touched: readonly string[]): void {
    if (this.watched.size === 0) return;
    for (const one of this.dependents.of([...changed, ...touched])) {
      const { was, sound, from } = one;
      this.note(one);
      const trigger = this.triggerOf(one);
      // What was silent a moment ago tells nothing of when it happened.
      if (!trigger?.on || this.byHand > 0 || !sound || !one.sound || from !== one.from) continue;
      if (edgeIn(trigger.edge, was, one.was)) this.wait(trigger);
    }
    this.settle();
  }

  stop(): void {
    for (const timer of this.waiting.values()) this.parts.scheduler.clear(timer);
    this.waiting.clear();
  }

  private triggerOf = ({ of }: Watched): Trigger | undefined =>
    this.parts.world.documents.trigger.get(of.slice('trigger '.length));

  private note(one: Watched): void {
    one.was = this.dependents.work(one);
    const states = [...one.tokens].map((key) => this.parts.board.state(key));
    one.sound = states.every((s) => !s || s.pin !== undefined || s.quality === 'ok');
    one.from = states.map((s) => s?.origin ?? '').join(' ');
    if (one.of === QUIET) this.holds = truthOf(one.was) === true;
  }

  /** One that waits already begins to wait anew. */
  private wait({ key, wait }: Trigger): void {
    this.parts.scheduler.clear(this.waiting.get(key));
    const due = () => {
      this.waiting.delete(key);
      const trigger = this.parts.world.documents.trigger.get(key);
      if (!trigger?.on) return;
      const { only } = trigger;
      const holds = only === null || truthOf(evaluate(only, this.dependents.scope({}))) === true;
      if (holds) this.parts.fire(key);
    };
    if (wait === 0) return due();
    this.waiting.set(key, this.parts.scheduler.setTimeout(due, wait * 1000));
  }

  private settle(): void {
    const { quiet } = this.parts.world.documents;
    const { on, rule } = quiet.get(QUIET) ?? { on: false, rule: null };
    const why = on ? 'switch' : rule && this.holds ? 'rule' : null;
    if (why === this.told) return;
    this.told = why;
    this.parts.quiet(why);
  }
}
