import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { Board } from '../../core/board/board.ts';
import type { World } from '../../core/actions/world.ts';
import { parseTrigger, type Edge, type Trigger } from '../../core/show/trigger.ts';
import { randomOf } from '../../../tests/support/random.ts';
import { machineTime } from '../scheduler.ts';
import { Rules } from './rules.ts';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

/** A field as simply as it can be kept. */
interface Simple {
  said: number;
  pin: number | null;
  by: string;
  ok: boolean;
}
const seen = (f: Simple) => f.pin ?? f.said;
const trusted = (f: Simple) => f.pin !== null || f.ok;

/** Whether a number that was one and is another did what a trigger waits for; "true" is asked of "is it larger than 1". */
const did = (edge: Edge, was: number, is: number) =>
  edge === 'true' ? was <= 1 && is > 1 : edge === 'rise' ? is > was : is !== was;

/** What triggers do, told in the plainest way: a list of what is due, and when. */
class Model {
  readonly home: Simple = { said: 0, pin: null, by: 'a', ok: true };
  readonly away: Simple = { said: 0, pin: null, by: 'a', ok: true };
  readonly triggers = new Map<string, Trigger>();
  readonly fired: string[] = [];
  private due: { key: string; at: number }[] = [];
  private now = 0;

  change(byHand: boolean, work: () => void): void {
    const was = { ...this.home };
    work();
    const { home } = this;
    if (byHand || !trusted(was) || !trusted(home) || was.by !== home.by) return;
    for (const t of [...this.triggers.values()]) {
      if (!t.on || !did(t.edge, seen(was), seen(home))) continue;
      this.due = this.due.filter((d) => d.key !== t.key);
      this.due.push({ key: t.key, at: this.now + t.wait * 1000 });
      if (t.wait === 0) this.pass(0);
    }
  }

  put(key: string, trigger: Trigger | null): void {
    if (trigger) this.triggers.set(key, trigger);
    else this.triggers.delete(key);
    this.due = this.due.filter((d) => this.triggers.get(d.key)?.on);
  }

  pass(ms: number): void {
    const until = this.now + ms;
    for (;;) {
      const next = this.due.filter((d) => d.at <= until).sort((a, b) => a.at - b.at)[0];
      if (!next) break;
      this.now = Math.max(this.now, next.at);
      this.due = this.due.filter((d) => d !== next);
      const t = this.triggers.get(next.key)!;
      if (t.only !== null && seen(this.away) <= 1) continue;
      this.fired.push(`${next.key} at ${this.now}`);
      if (t.once) this.put(t.key, { ...t, on: false });
    }
    this.now = until;
  }
}

it.each([1, 2, 3, 4, 5, 6])('does with triggers what a simple model does (seed %d)', (seed) => {
  const below = randomOf(seed);
  const one = <T>(...of: readonly T[]): T => of[below(of.length)]!;
  const board = new Board(
    ['home.score', 'away.score'].map(
      (key) => ({ key, label: key, kind: 'integer', min: 0, max: 99 }) as never,
    ),
  );
  const trigger = new Map<string, Trigger>();
  const begun = Date.now();
  const fired: string[] = [];
  const rules = new Rules({
    board,
    scheduler: machineTime,
    world: { documents: { trigger, quiet: new Map() } } as unknown as World,
    fire: (key) => {
      fired.push(`${key} at ${Date.now() - begun}`);
      const it = trigger.get(key)!;
      // As the engine does with one that is done once.
      if (it.once) put(key, { ...it, on: false });
    },
    quiet: () => {},
  });
  const put = (key: string, is: Trigger | null) => {
    if (is) trigger.set(key, is);
    else trigger.delete(key);
    rules.begin();
  };
  const say = (changes: Parameters<Board['apply']>[0]) => {
    const { changed, touched } = board.apply(changes, 0);
    rules.react(changed, touched);
  };
  const model = new Model();
  say(['home.score', 'away.score'].map((key) => ({ key, value: 0, origin: 'a' })));

  for (let n = 0; n < 1500; n++) {
    const [of, key] = one(
      ['home', 'home.score'] as const,
      ['home', 'home.score'] as const,
      ['away', 'away.score'] as const,
    );
    const field = model[of];
    const value = below(4);
    const name = `t${below(3)}`;
    const steps: (() => void)[] = [
      () => {
        const by = one('a', 'a', 'a', 'b');
        model.change(false, () => Object.assign(field, { said: value, by, ok: true }));
        say([{ key, value, origin: by }]);
      },
      () => {
        const by = one('a', 'b');
        model.change(false, () => [model.home, model.away].forEach((f) => f.by === by && (f.ok = false)));
        rules.react([], board.mark(by, 'lost'));
      },
      () => {
        model.change(true, () => void (field.pin = value));
        rules.unmoved(() => say([{ key, pin: value }]));
      },
      () => {
        model.change(true, () => void (field.pin = null));
        rules.unmoved(() => say([{ key, release: true }]));
      },
      () => {
        const edge = one<Edge>('true', 'rise', 'change');
        const made = parseTrigger({
          ...{ schema: 1, key: name, name, item: 'x', edge, on: below(4) > 0, once: below(4) === 0 },
          ...{ wait: one(0, 0, 2, 5), only: below(3) ? null : { formula: 'away.score > 1' } },
          when: edge === 'true' ? { formula: 'home.score > 1' } : { field: 'home.score' },
        });
        if (!made.ok) throw new Error(made.problems.join());
        model.put(name, made.value);
        put(name, made.value);
      },
      () => {
        model.put(name, null);
        put(name, null);
      },
    ];
    // Sources speak most of the time.
    steps[below(3) ? 0 : below(steps.length)]!();
    const ms = below(3) ? 0 : below(3000);
    model.pass(ms);
    vi.advanceTimersByTime(ms);
    expect(fired).toEqual(model.fired);
  }
  expect(fired.length).toBeGreaterThan(20);
  rules.stop();
});
