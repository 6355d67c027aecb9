import { expect, it } from 'vitest';
import { nameOfPlace } from '../../core/actions/world.ts';
import { DOCUMENT_KINDS, neededBy, type DocumentKind } from '../../core/documents/kinds.ts';
import type { Game } from '../../core/show/game.ts';
import type { DeskSnapshot } from '../../core/wire/wire.ts';
import { FakePage, engineOn, folder, read } from '../../../tests/support/engine.ts';
import { KeepingStore } from '../../../tests/support/keeping-store.ts';
import { randomOf } from '../../../tests/support/random.ts';
import type { Engine } from './engine.ts';

/** What of a game the model knows: three texts, of which each is a thing of its own. */
const FIELDS = ['venue', 'competition', 'date'] as const;
type Flat = Record<(typeof FIELDS)[number], string>;
const flat = (game: Game): Flat => ({
  venue: game.venue,
  competition: game.competition,
  date: game.date,
});
const equal = (a: Flat | null, b: Flat | null) => JSON.stringify(a) === JSON.stringify(b);

/** Both made of one base, field by field; null where they clash. */
function both(base: Flat, mine: Flat, theirs: Flat): Flat | null {
  const made = { ...mine };
  for (const field of FIELDS) {
    if (mine[field] === base[field]) made[field] = theirs[field];
    else if (theirs[field] !== base[field] && theirs[field] !== mine[field]) return null;
  }
  return made;
}

interface Step {
  key: string;
  /** What stood before, and what it left; null for no game. */
  was: Flat | null;
  is: Flat | null;
  /** What was asked, and what it began from. */
  asked: { body: Flat | null; revision: number };
  undone: boolean;
}

/** The documents and each person's steps, as simply as they can be kept. */
class Model {
  games = new Map<string, { now: Flat; revision: number }>();
  /** How often each was saved, those that are gone among them. */
  revisions = new Map<string, number>();
  versions = new Map<string, Map<number, Flat>>();
  steps: Record<string, Step[]> = { ode: [], ada: [] };

  private write(key: string, is: Flat | null): void {
    const before = this.games.get(key);
    const revision = (this.revisions.get(key) ?? 0) + 1;
    this.revisions.set(key, revision);
    const versions = this.versions.get(key) ?? new Map<number, Flat>();
    if (before && !versions.has(revision - 1)) versions.set(revision - 1, before.now);
    if (is) versions.set(revision, is);
    this.versions.set(key, versions);
    if (is) this.games.set(key, { now: is, revision });
    else this.games.delete(key);
  }

  /** What a save makes of what stands; undefined where it is refused. */
  private saved(key: string, { body, revision }: Step['asked']): Flat | null | undefined {
    const there = this.games.get(key);
    if (body === null) return there ? null : undefined;
    if (revision === (there?.revision ?? 0)) return body;
    const base = this.versions.get(key)?.get(revision);
    return (there && base && both(base, body, there.now)) ?? undefined;
  }

  ask(who: string, key: string, asked: Step['asked']): boolean {
    const is = this.saved(key, asked);
    if (is === undefined) return false;
    const was = this.games.get(key)?.now ?? null;
    this.write(key, is);
    this.steps[who] = [...this.steps[who]!.filter((s) => !s.undone), { key, was, is, asked, undone: false }];
    return true;
  }

  undo(who: string): boolean {
    const step = this.steps[who]!.findLast((s) => !s.undone);
    if (!step) return false;
    const now = this.games.get(step.key)?.now ?? null;
    const next = equal(now, step.is) ? step.was : now && step.is && step.was && both(step.is, step.was, now);
    if (next === null && !equal(now, step.is)) return false;
    this.write(step.key, next);
    step.undone = true;
    return true;
  }

  redo(who: string): boolean {
    const step = this.steps[who]!.find((s) => s.undone);
    const is = step && this.saved(step.key, step.asked);
    if (!step || is === undefined) return false;
    step.was = this.games.get(step.key)?.now ?? null;
    this.write(step.key, is);
    Object.assign(step, { is, undone: false });
    return true;
  }
}

const template = read('demo/game/opening-night.json') as Game;

/** Asks everything that must always hold. */
function check(engine: Engine, model: Model, before: Map<string, number>): void {
  const { documents, revisions } = engine.world;
  const now = [...documents.game.values()].filter((g) => g.key.startsWith('m-'));
  expect(Object.fromEntries(now.map((g) => [g.key, flat(g)]))).toEqual(
    Object.fromEntries([...model.games].map(([key, g]) => [key, g.now])),
  );
  for (const [key, { revision }] of model.games) expect(revisions.get(`game/${key}`)).toBe(revision);
  for (const [place, revision] of before)
    expect(revisions.get(place) ?? 0, place).toBeGreaterThanOrEqual(revision);
  // Each document stands under its own key, and what it needs is there; what is handed out cannot be changed.
  for (const kind of Object.keys(DOCUMENT_KINDS) as DocumentKind[])
    for (const [key, doc] of documents[kind]) {
      expect(doc.key).toBe(key);
      expect(Object.isFrozen(doc), nameOfPlace(kind, key)).toBe(true);
    }
  for (const game of documents.game.values()) {
    expect(documents.profile.has(game.profile)).toBe(true);
    expect(neededBy(documents, { kind: 'profile', key: game.profile })).not.toBeNull();
  }
  const page = new FakePage();
  engine.hub.join('desk', page as never);
  const desk = page.messages[0]!.body as DeskSnapshot;
  expect(desk.documents.game).toHaveLength(documents.game.size);
  expect(new Set(desk.documents.game.map((g) => g.key)).size).toBe(desk.documents.game.length);
  for (const { desk: id, undo, redo } of desk.undos) {
    const steps = model.steps[id.slice('desk-of-'.length)]!;
    expect([undo !== null, redo !== null]).toEqual([
      steps.some((s) => !s.undone),
      steps.some((s) => s.undone),
    ]);
  }
}

it.each([1, 2, 3])(
  'does with documents what a simple model does, whoever saves, undoes, redoes or restarts (seed %d)',
  async (seed) => {
    const below = randomOf(seed);
    const store = new KeepingStore(0);
    store.put('profile', 'box-lacrosse', read('basic/profile/box-lacrosse.json') as object);
    store.put('output', 'broadcast', folder('basic/output')[0] as object);
    store.put('game', 'opening-night', template);
    let engine = await engineOn(store);
    const model = new Model();
    /** What each person has open: what they began from, and its revision. */
    const open: Record<string, Record<string, { body: Flat; revision: number }>> = { ode: {}, ada: {} };
    let done = 0;
    let n = 0;
    for (let step = 0; step < 400; step++) {
      const revisions = new Map(engine.world.revisions);
      const who = below(2) ? 'ode' : 'ada';
      const key = `m-${below(3)}`;
      const act = (action: object) =>
        engine.act({ id: `model-${seed}-${n++}`, desk: `desk-of-${who}`, view: 'game', ...action });
      const ask = async (asked: Step['asked']) => {
        const { body, revision } = asked;
        const game = body && { ...template, key, ...body };
        const answer = await act(
          game
            ? { kind: 'put-document', what: 'game', body: game, revision }
            : { kind: 'remove-document', what: 'game', key },
        );
        expect(answer.ok, JSON.stringify(answer)).toBe(model.ask(who, key, asked));
        done += Number(answer.ok);
      };
      const there = model.games.get(key);
      switch (below(12)) {
        case 0:
        case 1:
          if (there) open[who]![key] = { body: { ...there.now }, revision: there.revision };
          break;
        case 2:
          await ask({ body: null, revision: 0 });
          break;
        case 3:
        case 4:
          expect((await act({ kind: 'undo' })).ok).toBe(model.undo(who));
          break;
        case 5:
          expect((await act({ kind: 'redo' })).ok).toBe(model.redo(who));
          break;
        case 6:
          if (below(4) === 0) {
            await engine.stop();
            engine = await engineOn(store);
          }
          break;
        default: {
          const from = open[who]![key] ?? { body: flat(template), revision: there?.revision ?? 0 };
          const field = FIELDS[below(3)]!;
          const text = field === 'date' ? `2026-11-1${below(4)}` : `${field} ${below(4)}`;
          await ask({ body: { ...from.body, [field]: text }, revision: from.revision });
        }
      }
      check(engine, model, revisions);
    }
    expect(done).toBeGreaterThan(40);
  },
  60_000,
);
