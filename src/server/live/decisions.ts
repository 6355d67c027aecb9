import type { Change } from '../../core/board/board.ts';
import { isClock, type ClockState, type FieldValue } from '../../core/board/values.ts';
import { clockAt, stoppedClock } from '../../core/clock/clock.ts';
import { decide, Refusal, type ShowAction } from '../../core/show/show.ts';
import type { SourceBundle } from '../../core/source/source.ts';
import { parseBundle } from '../../core/source/bundle.ts';
import type { FieldDef } from '../../core/sport/profile.ts';
import { parseTyped } from '../../core/sport/typed.ts';
import { parseMediaChange } from '../../core/media/media-doc.ts';
import { plainPath, type MediaChange } from '../../core/media/media.ts';
import type {
  AnyRequest,
  HandRequest,
  ArrangeMediaRequest,
  MediaRequest,
  RemoveSourceRequest,
  SourceRequest,
} from '../http/requests.ts';
import type { StoreChange } from '../store/store.ts';
import type { Decision, Situation } from './decision.ts';
import { decideDocument } from './documents.ts';
import { decideChoose, decideSwap } from './game-decisions.ts';
import { isForHand } from './hands.ts';
import { decideMend, refuseOverParts } from './unread.ts';

/** Decides what an operator's request changes. Throws a Refusal, a sentence, where it cannot be done. */
export function decideRequest(now: Situation, request: AnyRequest, at: number): Decision {
  switch (request.kind) {
    case 'pin':
    case 'release':
      return decidePin(now, request, at);
    case 'source':
    case 'remove-source':
      return decideSource(now, request);
    case 'give-back':
      knownSource(now, request.source);
      return { change: { giveBack: request.source }, undo: {} };
    case 'hand':
      return decideHand(now, request, at);
    case 'put-document':
    case 'remove-document':
      return decideDocument(now, request);
    case 'mend-document':
      return decideMend(now, request);
    case 'choose-game':
      return decideChoose(now, request, at);
    case 'swap-sides':
      return decideSwap(now, request, at);
    case 'tape':
    case 'rehearse':
      return now.deck.decide(request, at);
    case 'media':
      return decideMedia(now, request);
    case 'arrange-media':
      return decideArrange(now, request);
    default:
      return decideShow(now, request, at);
  }
}

function knownSource({ sources }: Situation, key: string): SourceBundle {
  const known = sources.bundle(key);
  if (!known) throw new Refusal(`There is no source "${key}"; it may have been deleted.`);
  return known;
}

/** The key of a source that is not read yet. */
const keyIn = (bundle: object) => String((bundle as Partial<SourceBundle>).source?.key ?? '');

function decideSource(now: Situation, request: SourceRequest | RemoveSourceRequest): Decision {
  if (now.deck.playing?.maps === 'tape')
    throw new Refusal(
      'The rehearsal reads by the maps that are on the tape. End it before you change a source.',
    );
  refuseOverParts(now.world, request.kind === 'source' ? keyIn(request.bundle) : request.source);
  if (request.kind === 'remove-source') {
    const known = knownSource(now, request.source);
    return { change: { source: { remove: known } }, undo: { source: { put: known } } };
  }
  const parsed = parseBundle(request.bundle);
  if (!parsed.ok) throw new Refusal(`This source cannot be saved: ${parsed.problems.join('; ')}.`);
  const bundle = now.secrets.fill(parsed.value);
  const known = now.sources.bundle(bundle.source.key);
  for (const { field } of bundle.patch?.links ?? []) {
    // What another sport has may be fed already; it holds when that sport is played.
    const elsewhere =
      known?.patch?.links.some((l) => l.field === field) ||
      [...now.world.profiles.values()].some((p) => p.fields.some((f) => f.key === field));
    if (!now.board.def(field) && !elsewhere) throw new Refusal(`The board has no field "${field}".`);
  }
  const others = now.sources.bundles().filter((b) => b.source.key !== bundle.source.key);
  const holder = bundle.map && others.find((b) => b.map?.key === bundle.map!.key);
  if (holder)
    throw new Refusal(
      `The frame map "${bundle.map!.key}" belongs to ${holder.source.name} already; give it another key.`,
    );
  for (const { key } of bundle.document?.tables ?? []) {
    const other = others.find((b) => b.document?.tables.some((t) => t.key === key));
    if (other)
      throw new Refusal(`The table "${key}" comes from ${other.source.name} already; give it another key.`);
  }
  return {
    change: { source: { put: bundle } },
    undo: { source: known ? { put: known } : { remove: bundle } },
  };
}

/** Puts an entry of the media library in its place, or takes one away. */
function decideMedia({ library }: Situation, { path, entry }: MediaRequest): Decision {
  const was = library.index.find(path) ?? null;
  if (!entry && !was) throw new Refusal(`The library has no "${path}"; it may have been deleted.`);
  const change = mediaChange({ path, entry: entry ?? null });
  return { change: { media: [change] }, undo: { media: [{ path, entry: was }] } };
}

function mediaChange(input: unknown): MediaChange {
  const parsed = parseMediaChange(input);
  if (!parsed.ok) throw new Refusal(`This cannot be kept: ${parsed.problems.join('; ')}.`);
  return parsed.value;
}

/** Moves or takes away several entries at once: all or none, and nothing that stands in the way is overwritten. */
function decideArrange({ library }: Situation, { changes }: ArrangeMediaRequest): Decision {
  const media = changes.map(mediaChange);
  const puts = media.filter((m) => m.entry !== null);
  // What is taken away makes room for what is put.
  const gone = media.filter((m) => m.entry === null);
  const free = new Set(gone.map((m) => plainPath(m.path)));
  const restored = gone.map(({ path }) => {
    const was = library.index.find(path);
    if (!was) throw new Refusal(`The library has no "${path}"; it may have been moved or deleted.`);
    return { path: was.path, entry: was };
  });
  const taken = new Set<string>();
  const undone = puts.flatMap(({ path, entry }): MediaChange[] => {
    const plain = plainPath(path);
    if (taken.has(plain)) throw new Refusal(`Two would stand at "${path}"; nothing was moved.`);
    taken.add(plain);
    if (free.has(plain)) return [];
    const was = library.index.find(path) ?? null;
    if (was && was.hash !== entry!.hash)
      throw new Refusal(`"${was.path}" stands there already; nothing was moved.`);
    return [{ path, entry: was }];
  });
  return { change: { media: [...gone, ...puts] }, undo: { media: [...undone, ...restored] } };
}

function decideShow({ show, world }: Situation, request: ShowAction, at: number): Decision {
  const change = decide(show, request, (key) => world.templates.get(key)?.inputs ?? [], at);
  if (request.kind === 'take' && !world.templates.has(show.items.get(request.item)!.template))
    throw new Refusal('Its template is missing, so it cannot go on air.');
  const undo: StoreChange = {};
  if (change.item) undo.item = show.items.get(change.item.id)!;
  if (change.lane) undo.lane = show.lanes.get(change.lane.zone)!;
  return { change, undo };
}

function knownField({ board }: Situation, key: string): FieldDef {
  const def = board.def(key);
  if (!def) throw new Refusal(`The board has no field "${key}".`);
  return def;
}

function decidePin(
  now: Situation,
  request: Extract<AnyRequest, { kind: 'pin' | 'release' }>,
  at: number,
): Decision {
  const { field } = request;
  const def = knownField(now, field);
  const held = now.board.state(field)!.pin;
  const undo: StoreChange = { pin: held ? { field, ...held } : { field, release: true } };
  if (request.kind === 'release') {
    if (!held) throw new Refusal(`${def.label} is not pinned.`);
    return { change: { pin: { field, release: true } }, undo };
  }
  const typed = parseTyped(def, request.text, at);
  if ('problem' in typed) throw new Refusal(`${typed.problem}.`);
  return { change: { pin: { field, value: typed.value, at } }, undo };
}

/** Sets a field by hand: as typed, one up or down, or a clock started or stopped with those that run with it. */
function decideHand(now: Situation, request: HandRequest, at: number): Decision {
  const { source } = knownSource(now, request.source);
  if (source.transport.kind !== 'hand') throw new Refusal(`${source.name} is not worked by hand.`);
  if (!source.enabled) throw new Refusal(`${source.name} is not in use.`);
  const def = knownField(now, request.field);
  if (!isForHand(def)) throw new Refusal(`${def.label} belongs to the game, not to a pad.`);
  const ahead = now.sources.aheadOf(source.key, def.key);
  if (ahead)
    throw new Refusal(`${ahead} speaks and feeds ${def.label}. Pin it to hold it over what ${ahead} says.`);
  const origin = source.key;
  const set = (key: string, value: FieldValue): Change => ({ key, value, origin });
  const changes = handChanges(now, def, request, at, set);
  const undo = changes.map(({ key }) => ({ field: key, ...saved(now, key) }));
  return {
    change: { hand: { source: origin, changes, at } },
    undo: { values: undo },
  };
}

const saved = ({ board }: Situation, key: string) => {
  const { value, origin, at } = board.state(key)!;
  return { value, origin, at };
};

function handChanges(
  now: Situation,
  def: FieldDef,
  request: HandRequest,
  at: number,
  set: (key: string, value: FieldValue) => Change,
): Change[] {
  const value = now.board.state(def.key)!.value;
  switch (request.do) {
    case 'set': {
      const typed = parseTyped(def, request.text ?? '', at);
      if ('problem' in typed) throw new Refusal(`${typed.problem}.`);
      return [set(def.key, typed.value)];
    }
    case 'add': {
      if (def.kind !== 'integer') throw new Refusal(`${def.label} is not a number.`);
      const next = (typeof value === 'number' ? value : 0) + Number(request.text);
      if (!Number.isInteger(next) || next < def.min || next > def.max)
        throw new Refusal(`${def.label} goes from ${def.min} to ${def.max}.`);
      return [set(def.key, next)];
    }
    case 'start':
    case 'stop': {
      if (def.kind !== 'clock') throw new Refusal(`${def.label} is not a clock.`);
      const together = [...now.board.fields].filter(
        (d): d is Extract<FieldDef, { kind: 'clock' }> =>
          d.kind === 'clock' &&
          (d.key === def.key || (d.with === def.key && now.sources.aheadOf(request.source, d.key) === null)),
      );
      const changes = together.flatMap((d) => {
        const clock = now.board.state(d.key)!.value;
        if (!isClock(clock)) return [];
        const ms = clockAt(clock, at);
        if (request.do === 'stop')
          return clock.running ? [set(d.key, stoppedClock(ms, clock.direction, at))] : [];
        return !clock.running && (d.direction === 'up' || ms > 0)
          ? [set(d.key, runningClock(d, ms, at))]
          : [];
      });
      if (!changes.some((c) => c.key === def.key))
        throw new Refusal(
          !isClock(value)
            ? `${def.label} is not set; set it first.`
            : request.do === 'stop'
              ? `${def.label} stands already.`
              : value.running
                ? `${def.label} runs already.`
                : `${def.label} is at zero; set it first.`,
        );
      return changes;
    }
  }
}

/** A clock that runs by hand: nobody confirms its seconds, so it may run to its end. */
function runningClock(def: Extract<FieldDef, { kind: 'clock' }>, ms: number, at: number): ClockState {
  const { direction } = def;
  return { value: ms, running: true, direction, anchor: at, until: direction === 'down' ? 0 : def.max };
}
