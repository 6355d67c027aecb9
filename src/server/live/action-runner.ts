import { createHash } from 'node:crypto';
import { LRUCache } from 'lru-cache';
import type { Logger } from 'pino';
import { actionOf, readAction, type ActionKind, type AnyRequest } from '../../core/actions/actions.ts';
import { ROLES, type Role } from '../../core/actions/action.ts';
import { backOver, editsOf, type Change, type Decision } from '../../core/actions/change.ts';
import { refuseCircles } from '../../core/actions/circles.ts';
import { refuseZonesInUse } from '../../core/actions/outputs.ts';
import { PastActions, type Past, type UndoState } from '../../core/actions/past.ts';
import { byOf, type By } from '../../core/actions/request.ts';
import type { Preparation, Situation } from '../../core/actions/situation.ts';
import { nameOfPlace } from '../../core/actions/world.ts';
import { shortened } from '../../core/show/quiet.ts';
import { Clash, Refusal } from '../../core/show/show.ts';
import type { LogLine, Outcome } from '../../core/wire/wire.ts';
import { whyNotWritten, type ActionRecord, type Answered, type Store } from '../store/store.ts';
import type { BoardSaver } from './board-saver.ts';
import type { Scheduler } from '../scheduler.ts';
import { refuseLate } from './late.ts';
import { recorded } from './secrets.ts';
import { nextRevisions, versionsOf } from './versions.ts';

/** What an action is done in. */
export interface Stage {
  /** What decisions are made from, as it is at this moment. */
  situation: () => Omit<Situation, 'past' | 'decide' | 'versions'>;
  preparation: Pick<Preparation, 'deck' | 'library'>;
  store: Pick<Store, 'commit' | 'version'>;
  saver: Pick<BoardSaver, 'alone'>;
  logger: Logger;
  scheduler: Scheduler;
  /** The time of the show, ms. */
  now: () => number;
  /** A tape is played: what is set on its board is not the game's. */
  rehearsing: () => boolean;
  /** Makes a committed change true of all that runs, and tells of it. */
  carryOut: (change: Change) => void;
  /** Tells the desks what was done, and gives the number of their stream that has it. */
  told: (line: LogLine, replaces: boolean, undo: UndoState[]) => number;
  /** Gives the desks all anew: what was carried out is not known whole. */
  refresh: () => void;
}

/** Who may do what; until there is sign-in, whoever reaches the desks may do all. */
const GRANTED: ReadonlySet<Role> = new Set(Object.keys(ROLES) as Role[]);

/** As many answers are at hand for requests that come again. */
const ANSWERS = 1000;

/** What tells one request from another, whoever sends it and however long it waits; of secrets it tells nothing. */
function hashOf({ until: _until, desk: _desk, who: _who, view: _view, ...asked }: AnyRequest): string {
  return createHash('sha256')
    .update(JSON.stringify(recorded(asked)))
    .digest('hex');
}

/** Does actions one after another: asked, prepared, decided, committed, carried out, told. */
export class ActionRunner {
  private past = new PastActions();
  private queue: Promise<unknown> = Promise.resolve();
  /** The versions that saves began from, as far as they were fetched for the action at hand. */
  private readonly bases = new Map<string, object | null>();
  /** What was done last: the next one may go on with its entry. */
  private last: {
    id: string;
    by: By;
    entry: string;
    undo: Change;
    /** All of the entry as one request, and the newest of it as it was asked. */
    asked: AnyRequest;
    newest: AnyRequest;
  } | null = null;

  constructor(private readonly stage: Stage) {}

  /** What was answered to those that were done, by their ids. */
  private readonly answers = new LRUCache<string, Answered & { seq: number }>({ max: ANSWERS });

  /** What can be taken back, as it was kept, and what was answered last. */
  load(past: readonly Past[], answered: readonly Answered[] = []): void {
    this.past = new PastActions(past);
    for (const answer of answered) this.answers.set(answer.id, { ...answer, seq: 0 });
  }

  /** The answer to a request whose id was used: the first one, or that the id is another action's. */
  private answerAgain(first: Answered & { seq: number }, asked: string): Outcome {
    const { text, seq } = first;
    // Older Foothills did not note what was asked.
    if (first.asked === '' || first.asked === asked) return { ok: true, text, seq };
    const reason = `The id of this action was used for another one (${text}): nothing was done. Ask with an id of its own.`;
    return { ok: false, status: 409, reason };
  }

  undoStates(): UndoState[] {
    return this.past.told();
  }

  /** Done when everything that was asked before is. */
  get settled(): Promise<unknown> {
    return this.queue;
  }

  /** Does one action as a page sent it, after those that came before it. Never throws. */
  act(body: unknown): Promise<Outcome> {
    const request = readAction(body);
    if (typeof request === 'string') return Promise.resolve({ ok: false, status: 400, reason: request });
    const outcome = this.queue.then(() => this.perform(request));
    this.queue = outcome;
    return outcome;
  }

  private situation(): Situation {
    return {
      ...this.stage.situation(),
      past: this.past,
      decide: (asked, at) => this.decideAsked(asked, at),
      versions: { base: (...at) => this.bases.get(at.join(' ')) ?? null },
    };
  }

  private decideAsked(asked: object, at: number): Decision {
    const request = asked as AnyRequest;
    return actionOf(request.kind).decide(this.situation(), request, at);
  }

  private async prepare(request: AnyRequest): Promise<void> {
    const { world } = this.stage.situation();
    await actionOf(request.kind).prepare?.(
      {
        ...this.stage.preparation,
        past: this.past,
        prepare: (asked) => this.prepare(asked as AnyRequest),
        versions: {
          fetch: async (kind, key, revision) => {
            const restores = request.kind === 'restore-version';
            // A key that is none is refused when it is decided.
            if (
              typeof key !== 'string' ||
              revision === undefined ||
              (!restores && world.revisions.get(nameOfPlace(kind, key)) === revision)
            )
              return;
            const found = await this.stage.store.version(kind, key, revision);
            this.bases.set([kind, key, revision].join(' '), found);
          },
        },
      },
      request,
    );
  }

  private async perform(request: AnyRequest): Promise<Outcome> {
    const { stage } = this;
    const at = stage.now();
    const asked = hashOf(request);
    const first = this.answers.get(request.id);
    if (first) return this.answerAgain(first, asked);
    try {
      refuseLate(request.until, stage.scheduler.now());
      const { role, sentence, decide, versionsByChange } = actionOf(request.kind);
      if (!GRANTED.has(role)) throw new Refusal(`This is for whoever ${ROLES[role]}.`);
      this.bases.clear();
      await this.prepare(request);
      const now = this.situation();
      const decision = decide(now, request, at);
      refuseZonesInUse(now.show, decision.change);
      refuseCircles(now.derivations, decision.change);
      const { documents } = now.world;
      const moved = editsOf(decision.change, 'lane').flatMap(({ was, is }) =>
        is && was?.onAir !== is.onAir ? [is.output] : [],
      );
      const text = `${sentence(now, request)}${shortened(now.show.quiet, documents.output, moved)}`.slice(
        0,
        300,
      );
      const { change, undo } = nextRevisions(now.world, decision);
      const record = { ...this.record(request, text, decision, undo), asked };
      const versions = versionsOf(
        now.world,
        change,
        { at: record.at, who: record.by.name, text },
        versionsByChange?.(request),
      );
      // What is set on a rehearsal's board is not the game's. What is set by hand is committed with its values: no older batch may be written over them.
      const { press: _press, ...unpressed } = change;
      const kept: Change = stage.rehearsing() ? unpressed : change;
      const commit = () => {
        refuseLate(request.until, stage.scheduler.now());
        return stage.store.commit(record, kept, undo, versions);
      };
      const before = await (kept.press ? stage.saver.alone(commit) : commit());
      if (before !== 'done') return this.answerAgain({ ...before, seq: 0 }, asked);
      this.answers.set(request.id, { id: request.id, asked, text, seq: 0 });
      try {
        stage.carryOut(change);
      } catch (error) {
        // It is in the database and cannot be called undone: said is what stands.
        stage.logger.error({ err: error }, 'an action that was saved could not be carried out whole');
        stage.refresh();
        return { ok: true, text: `${text}. It is saved, but not all of it shows yet`, seq: 0 };
      }
      this.remember(record, undo, request);
      const line = { at: record.at, text, who: record.by.name };
      stage.logger.info({ action: request.kind, id: request.id, ...(record.body as object) }, text);
      const states = [this.past.stateOf(record.by)];
      const seq = stage.told(line, record.follows !== undefined, states);
      this.answers.set(request.id, { id: request.id, asked, text, seq });
      return { ok: true, text, seq };
    } catch (error) {
      if (error instanceof Clash) return { ok: false, status: 409, reason: error.message, clash: true };
      if (error instanceof Refusal) return { ok: false, status: 409, reason: error.message };
      const why = whyNotWritten(error);
      if (why.status !== 503) stage.logger.error({ err: error }, 'an action failed');
      return { ok: false, ...why };
    }
  }

  /** An action as it is written down: no secret is in it. */
  private record(
    request: AnyRequest,
    text: string,
    { back = undefined }: Decision,
    undo: Change,
  ): Omit<ActionRecord, 'asked'> {
    const one = this.asOne(request);
    const { id, kind, until: _until, desk: _desk, who: _who, view: _view, ...asked } = one ?? request;
    const by = byOf(request);
    const marked =
      request.kind === 'undo'
        ? this.past.undoable(by, request.of)
        : request.kind === 'redo'
          ? this.past.redoable(by)
          : null;
    const follows = one && this.last;
    const whole = follows ? backOver(follows.undo, undo) : undo;
    const takesBack = back === null ? null : { undo: recorded(whole), back: back ?? null };
    return {
      id,
      kind,
      body: recorded(asked),
      text,
      at: this.stage.scheduler.now(),
      by,
      past: marked ? null : takesBack,
      ...(follows ? { follows: follows.id } : {}),
      ...(marked ? { marks: { id: marked.id, undone: kind === 'undo', past: takesBack } } : {}),
      gone: takesBack && !marked ? this.past.goneWith(by) : [],
    };
  }

  /**
   * The entry of the action before with this one too, as one request, where this one goes on with it: the same person is
   * still at the same input.
   */
  private asOne(request: AnyRequest): AnyRequest | null {
    const { entry, joined } = actionOf(request.kind);
    const { last } = this;
    const by = byOf(request);
    const name = entry?.(request);
    if (typeof name !== 'string' || last?.entry !== name || last.by.desk !== by.desk || by.desk === '')
      return null;
    return joined ? joined(last.asked, last.newest, request) : request;
  }

  private remember(record: ActionRecord, undo: Change, newest: AnyRequest): void {
    const { id, by, text, past, follows, marks } = record;
    const kind = record.kind as ActionKind;
    const asked = { ...(record.body as object), kind, id } as AnyRequest;
    const entry = actionOf(kind).entry?.(asked) ?? '';
    this.last = { id, by, entry, undo: follows ? backOver(this.last!.undo, undo) : undo, asked, newest };
    if (marks) return this.past.mark(marks.id, marks.undone, marks.past);
    if (!past) return;
    const done = { id, by, text, asked, ...past, undone: false };
    if (follows) this.past.replace(follows, done);
    else this.past.add(done);
  }
}
