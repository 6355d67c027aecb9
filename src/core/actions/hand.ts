import { isByHand } from '../source/source.ts';
import type { Change as BoardChange } from '../board/board.ts';
import { isClock, type ClockState, type FieldValue } from '../board/values.ts';
import { clockAt, stoppedClock } from '../clock/clock.ts';
import { Maybe, OneOf, Text } from '../document/rules.ts';
import { isForHand } from '../sport/field.ts';
import type { FieldDef } from '../sport/profile.ts';
import { parseTyped, typedText } from '../sport/typed.ts';
import { action, refuse } from './action.ts';
import { ActionRequest } from './request.ts';
import { knownField, knownSource, type Situation } from './situation.ts';

class HandRequest extends ActionRequest {
  @OneOf('hand') kind!: 'hand';
  @Text(1, 80) source!: string;
  @Text(1, 80) field!: string;
  /** `set` reads the text as typed, `add` as a number to add; `start` and `stop` are for clocks. */
  @OneOf('set', 'add', 'start', 'stop') do!: 'set' | 'add' | 'start' | 'stop';
  @Maybe() @Text(0, 500) text?: string;
}

/** Sets a field by hand: as typed, one up or down, or a clock started or stopped with those that run with it. */
export const hand = action({
  request: HandRequest,
  role: 'operate',
  decide: (now, request, at) => {
    const { source } = knownSource(now, request.source);
    if (!isByHand(source)) refuse(`${source.name} is not worked by hand.`);
    if (!source.enabled) refuse(`${source.name} is not in use.`);
    const def = knownField(now, request.field);
    if (!isForHand(def)) refuse(`${def.label} belongs to the game, not to a pad.`);
    const ahead = now.sources.aheadOf(source.key, def.key);
    if (ahead) refuse(`${ahead} speaks and feeds ${def.label}. Pin it to hold it over what ${ahead} says.`);
    const changes = pressed(now, def, request, at).map(({ key, value }) => ({
      key,
      value,
      origin: source.key,
    }));
    const { field } = request;
    const by = { kind: 'hand', source: source.key, field } as const;
    return {
      change: { edits: [], press: { source: source.key, changes, at } },
      undo: {
        edits: [],
        values: changes.map(({ key }) => {
          const { value, origin, at: since } = now.board.state(key)!;
          return { field: key, value, origin, at: since };
        }),
      },
      back:
        request.do === 'start'
          ? { ...by, do: 'stop' }
          : request.do === 'stop'
            ? { ...by, do: 'start' }
            : { ...by, do: 'set', text: typedText(now.board.state(field)!.value) },
    };
  },
  sentence: ({ board }, { field, do: what, text }) => {
    const label = board.def(field)?.label ?? field;
    if (what === 'start') return `Started ${label} by hand`;
    if (what === 'stop') return `Stopped ${label} by hand`;
    if (what === 'set') return `Set ${label} to ${text?.trim() || 'blank'} by hand`;
    return `${label} ${Number(text) < 0 ? 'down' : 'up'} by hand`;
  },
});

type Set = Pick<BoardChange, 'key'> & { value: FieldValue };
const set = (key: string, value: FieldValue): Set => ({ key, value });

/** What a press sets. Throws a Refusal where it cannot. */
function pressed(now: Situation, def: FieldDef, request: HandRequest, at: number): Set[] {
  const value = now.board.state(def.key)!.value;
  switch (request.do) {
    case 'set': {
      const typed = parseTyped(def, request.text ?? '', at);
      if ('problem' in typed) refuse(`${typed.problem}.`);
      return [set(def.key, typed.value)];
    }
    case 'add': {
      if (def.kind !== 'integer') refuse(`${def.label} is not a number.`);
      const next = (typeof value === 'number' ? value : 0) + Number(request.text);
      if (!Number.isInteger(next) || next < def.min || next > def.max)
        refuse(`${def.label} goes from ${def.min} to ${def.max}.`);
      return [set(def.key, next)];
    }
    case 'start':
    case 'stop':
      return clocksTurned(now, def, request, at);
  }
}

type ClockDef = Extract<FieldDef, { kind: 'clock' }>;

/** A clock started or stopped, with those that run with it and that no device holds. */
function clocksTurned(now: Situation, def: FieldDef, request: HandRequest, at: number): Set[] {
  if (def.kind !== 'clock') refuse(`${def.label} is not a clock.`);
  const stop = request.do === 'stop';
  const goesWith = (d: FieldDef): d is ClockDef =>
    d.kind === 'clock' &&
    (d.key === def.key || (d.with === def.key && now.sources.aheadOf(request.source, d.key) === null));
  const changes = [...now.board.fields].filter(goesWith).flatMap((d) => {
    const clock = now.board.state(d.key)!.value;
    if (!isClock(clock)) return [];
    const ms = clockAt(clock, at);
    if (stop) return clock.running ? [set(d.key, stoppedClock(ms, clock.direction, at))] : [];
    return !clock.running && (d.direction === 'up' || ms > 0) ? [set(d.key, runningClock(d, ms, at))] : [];
  });
  if (changes.some((c) => c.key === def.key)) return changes;
  const value = now.board.state(def.key)!.value;
  if (!isClock(value)) refuse(`${def.label} is not set; set it first.`);
  if (stop) refuse(`${def.label} stands already.`);
  refuse(value.running ? `${def.label} runs already.` : `${def.label} is at zero; set it first.`);
}

/** A clock that runs by hand: nobody confirms its seconds, so it may run to its end. */
function runningClock({ direction, max }: ClockDef, ms: number, at: number): ClockState {
  return { value: ms, running: true, direction, anchor: at, until: direction === 'down' ? 0 : max };
}
