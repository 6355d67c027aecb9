import { isRecord } from '../board/own.ts';
import type { FieldValue } from '../board/values.ts';
import { readAs } from '../document/check.ts';
import { Is, isKey, Key, ListOf, Must, Name } from '../document/rules.ts';
import type { Parsed } from '../document/problems.ts';
import { withoutSecret, type SourceBundle } from '../source/source.ts';
import { parseBundle } from '../source/bundle.ts';
import { eighth } from './show-time.ts';
import { IntakeMemory, isBase64, isFieldValue } from './memory.ts';

/** The first line of a tape: what it is and which sources speak on it. */
export interface TapeHead {
  tape: 1;
  name: string;
  /** When its moment 0 was, by ISO 8601. */
  recorded: string;
  /** The key of the sport profile that was played by. */
  profile: string;
  /** The sources with their maps and patches, as they were at moment 0. */
  sources: SourceBundle[];
}

/** One thing that a source said, or that was done to it. */
export type SourceEvent =
  | { kind: 'bytes'; bytes: Uint8Array }
  | { kind: 'document'; bytes: Uint8Array; type: string }
  /** It was asked and had nothing new. */
  | { kind: 'same' }
  /** It was asked and gave nothing that can be read. */
  | { kind: 'trouble'; text: string }
  | { kind: 'line'; up: boolean; text?: string }
  | { kind: 'press'; set: { field: string; value: FieldValue }[] }
  | { kind: 'give-back' }
  /** It was saved anew, or deleted. */
  | { kind: 'bundle'; bundle: SourceBundle | null };

/**
 * A moment of a tape, in ms from its beginning: something was said; or the silence of sources was looked at, with an
 * effect; or from here on everything is as in this memory: at the beginning, and where a part was cut out.
 */
export type TapeEntry =
  | { at: number; kind: 'said'; source: string; said: SourceEvent }
  | { at: number; kind: 'look' }
  | { at: number; kind: 'state'; memory: IntakeMemory };

export interface Tape {
  head: TapeHead;
  /** In order of time; the first is a state at 0. */
  entries: readonly TapeEntry[];
}

/** What a list of tapes says of each. */
export interface TapeInfo {
  key: string;
  name: string;
  /** When its moment 0 was, by ISO 8601. */
  recorded: string;
  /** ms. */
  length: number;
  /** As it is kept, compressed, in bytes. */
  size: number;
  entries: number;
  profile: string;
  /** The names of the sources that are on it. */
  sources: string[];
  recording: boolean;
  /** Why it ended before it was stopped. */
  problem: string | null;
}

/** What is on a tape, to be looked at. */
export interface TapeOverview {
  length: number;
  /** For each source, how often it spoke in each of as many equal stretches. */
  lanes: { key: string; name: string; counts: number[] }[];
  /** When a score or the period changed. */
  moments: { at: number; text: string; kind: 'score' | 'period' }[];
}

/** A rehearsal: a tape that speaks in place of the sources. */
export interface RehearsalState {
  tape: string;
  name: string;
  length: number;
  /** The time of the show at the tape's moment 0: its position is the time now less this. */
  zero: number;
  /** Where it stands, ms: exactly that while it is paused or sought. */
  position: number;
  speed: number;
  playing: boolean;
  /** It goes to another moment just now. */
  seeking: boolean;
  /** The part that is played again and again. */
  loop: Part | null;
  /** By which maps and patches it is read: those on the tape, or those that there are now. */
  maps: 'tape' | 'today';
}

/** How long a tape lasts, in ms. */
export const lengthOf = ({ entries }: { entries: readonly TapeEntry[] }) => entries.at(-1)?.at ?? 0;

/** A line after the first, as it is written. */
interface Line {
  at: number;
  source?: string;
  text?: string;
  base64?: string;
  document?: { type: string; text?: string; base64?: string };
  same?: true;
  trouble?: string;
  line?: 'up' | 'down';
  press?: { field: string; value: FieldValue }[];
  giveBack?: true;
  bundle?: unknown;
  look?: true;
  state?: IntakeMemory;
}

const isText = (v: unknown) => typeof v === 'string';
const isTrue = (v: unknown) => v === true;
const isContent = ({ text, base64 }: Record<string, unknown>) =>
  (text === undefined || isText(text)) && (base64 === undefined || isBase64(base64));

/** What a line may say beside its time, each with its check: a tape has a hundred thousand of them. */
const PARTS: Record<string, [check: (v: unknown) => boolean, message: string]> = {
  source: [isKey, 'is not the key of a source'],
  text: [isText, 'is not a text'],
  base64: [isBase64, 'is not base64'],
  document: [(v) => isRecord(v) && isText(v['type']) && isContent(v), 'is not a document'],
  same: [isTrue, 'must be true'],
  trouble: [isText, 'is not a text'],
  line: [(v) => v === 'up' || v === 'down', 'must be up or down'],
  press: [
    (v) => Array.isArray(v) && v.every((p) => isRecord(p) && isKey(p['field']) && isFieldValue(p['value'])),
    'is not what was pressed',
  ],
  giveBack: [isTrue, 'must be true'],
  look: [isTrue, 'must be true'],
};
const LONGEST = 7 * 86_400_000;

/** A line as it is written; a sentence that begins with its place where it is none. */
function lineIn(input: unknown): Line | string {
  if (!isRecord(input)) return 'line: is not an object';
  const { at } = input;
  if (typeof at !== 'number' || !(at >= 0 && at <= LONGEST)) return 'at: is not a time of a tape, in ms';
  for (const [name, [holds, message]] of Object.entries(PARTS)) {
    const value = Object.hasOwn(input, name) ? input[name] : undefined;
    if (value !== undefined && !holds(value)) return `${name}: ${message}`;
  }
  if (!Object.hasOwn(input, 'state')) return input as unknown as Line;
  const state = readAs(IntakeMemory, input['state']);
  return state.ok ? { ...(input as unknown as Line), state: state.value } : `state.${state.problems[0]}`;
}

class Head {
  @Is(1, 'this is not a tape as Foothill exports it') tape!: 1;
  @Name() name!: string;
  @Must('time', isTime, 'is not a time such as 2026-11-28T18:00:00.000Z') recorded!: string;
  @Key() profile!: string;
  @ListOf(() => true, 'must be a list of sources') sources!: unknown[];
}
function isTime(v: unknown): boolean {
  return (
    typeof v === 'string' &&
    /^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d(\.\d{1,9})?Z$/.test(v) &&
    !Number.isNaN(Date.parse(v))
  );
}

/** Bytes as text where they are UTF-8, which keeps a tape legible, and as base64 where they are not. */
function written(bytes: Uint8Array): { text: string } | { base64: string } {
  try {
    return { text: new TextDecoder('utf-8', { fatal: true, ignoreBOM: true }).decode(bytes) };
  } catch {
    let binary = '';
    for (const byte of bytes) binary += String.fromCharCode(byte);
    return { base64: btoa(binary) };
  }
}

function readBytes({ text, base64 }: { text?: string | undefined; base64?: string | undefined }): Uint8Array {
  if (base64 === undefined) return new TextEncoder().encode(text ?? '');
  return Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
}

function lineOf(said: SourceEvent): Partial<Line> {
  switch (said.kind) {
    case 'bytes':
      return written(said.bytes);
    case 'document':
      return { document: { type: said.type, ...written(said.bytes) } };
    case 'same':
      return { same: true };
    case 'trouble':
      return { trouble: said.text };
    case 'line':
      return { line: said.up ? 'up' : 'down', ...(said.text ? { trouble: said.text } : {}) };
    case 'press':
      return { press: said.set };
    case 'give-back':
      return { giveBack: true };
    case 'bundle':
      return { bundle: said.bundle && withoutSecret(said.bundle) };
  }
}

/** An entry as one line of JSON, without the line's end. */
export function writeEntry(entry: TapeEntry): string {
  const { at } = entry;
  if (entry.kind === 'look') return JSON.stringify({ at, look: true });
  if (entry.kind === 'state') return JSON.stringify({ at, state: entry.memory });
  return JSON.stringify({ at, source: entry.source, ...lineOf(entry.said) });
}

/** A tape's head as one line of JSON. */
export const writeHead = (head: TapeHead) =>
  JSON.stringify({ ...head, sources: head.sources.map(withoutSecret) });

/** Reads a tape's first line. */
export function parseHead(line: string): Parsed<TapeHead> {
  const input = json(line);
  if (!isRecord(input) || input['tape'] !== 1)
    return { ok: false, problems: ['this is not a tape as Foothill exports it'] };
  const head = readAs(Head, input);
  if (!head.ok) return head;
  const bundles = head.value.sources.map(parseBundle);
  const problems = bundles.flatMap((b, i) => (b.ok ? [] : b.problems.map((p) => `sources.${i}.${p}`)));
  if (problems.length) return { ok: false, problems };
  return { ok: true, value: { ...head.value, sources: bundles.flatMap((b) => (b.ok ? [b.value] : [])) } };
}

/** Reads one line after the first; a sentence where it is no entry. */
export function parseEntry(line: string): TapeEntry | string {
  const output = lineIn(json(line));
  if (typeof output === 'string') return output;
  const at = eighth(output.at);
  if (output.state) return { at, kind: 'state', memory: output.state };
  if (output.look) return { at, kind: 'look' };
  if (output.source === undefined) return 'it says neither a source, nor a look, nor a state';
  const said = saidOf(output);
  return typeof said === 'string' ? said : { at, kind: 'said', source: output.source, said };
}

function saidOf(line: Line): SourceEvent | string {
  if (line.line)
    return { kind: 'line', up: line.line === 'up', ...(line.trouble ? { text: line.trouble } : {}) };
  if (line.text !== undefined || line.base64 !== undefined) return { kind: 'bytes', bytes: readBytes(line) };
  if (line.document) return { kind: 'document', type: line.document.type, bytes: readBytes(line.document) };
  if (line.same) return { kind: 'same' };
  if (line.trouble !== undefined) return { kind: 'trouble', text: line.trouble };
  if (line.press) return { kind: 'press', set: line.press };
  if (line.giveBack) return { kind: 'give-back' };
  if (line.bundle === undefined) return 'it does not say what the source said';
  if (line.bundle === null) return { kind: 'bundle', bundle: null };
  const parsed = parseBundle(line.bundle);
  return parsed.ok ? { kind: 'bundle', bundle: parsed.value } : `bundle.${parsed.problems[0]}`;
}

function json(line: string): unknown {
  try {
    return JSON.parse(line);
  } catch {
    return undefined;
  }
}

/** Reads a tape line by line. Problems are sentences that name the line, counted from 1; times must not go back. */
export class TapeReader {
  private head: TapeHead | null = null;
  private readonly entries: TapeEntry[] = [];
  private number = 0;

  /** Takes the next line; gives what is wrong with it, or null. An empty line says nothing. */
  push(line: string): string | null {
    this.number++;
    if (line.trim() === '') return null;
    const problem = this.head ? this.entry(line) : this.first(line);
    return problem === null ? null : `line ${this.number}: ${problem}`;
  }

  /** The tape that all lines made. */
  end(): Parsed<Tape> {
    const { head, entries } = this;
    if (!head) return { ok: false, problems: ['it is empty'] };
    if (entries[0]?.kind !== 'state' || entries[0].at !== 0)
      return { ok: false, problems: ['line 2: a tape begins with a state at 0'] };
    return { ok: true, value: { head, entries } };
  }

  private first(line: string): string | null {
    const parsed = parseHead(line);
    if (!parsed.ok) return parsed.problems[0]!;
    this.head = parsed.value;
    return null;
  }

  private entry(line: string): string | null {
    const entry = parseEntry(line);
    if (typeof entry === 'string') return entry;
    if (entry.at < (this.entries.at(-1)?.at ?? 0)) return 'its time lies before the line above';
    this.entries.push(entry);
    return null;
  }
}

/** A part of a tape that is to be kept, in ms from its beginning; what is said at `to` is no longer in it. */
export interface Part {
  from: number;
  to: number;
}

/**
 * The entries of the parts that are kept, one after another, times counted anew. Each part begins with what was known
 * there, so that it is true by itself: `stateAt` gives that, for just before the entry of a number, with times
 * counted from `from`. Sources that were saved anew between two parts are so in the second; those of the first are in
 * the head that belongs to it.
 */
export async function cut(
  entries: readonly TapeEntry[],
  parts: readonly Part[],
  stateAt: (before: number, from: number) => Promise<IntakeMemory>,
): Promise<TapeEntry[]> {
  const kept: TapeEntry[] = [];
  const end = lengthOf({ entries });
  let begin = 0;
  let done = 0;
  for (const part of parts) {
    const from = eighth(part.from);
    const to = eighth(Math.min(part.to, end));
    const next = entries.findIndex((e) => e.at >= from);
    if (next < 0 || to <= from) continue;
    const first = entries[next]!;
    const known = first.kind === 'state' && first.at === from;
    if (kept.length)
      for (const entry of entries.slice(done, next))
        if (entry.kind === 'said' && entry.said.kind === 'bundle') kept.push({ ...entry, at: begin });
    kept.push({ at: begin, kind: 'state', memory: known ? first.memory : await stateAt(next, from) });
    done = known ? next + 1 : next;
    for (const entry of entries.slice(done)) {
      if (entry.at > to || (entry.at === to && to < end)) break;
      kept.push({ ...entry, at: entry.at - from + begin });
      done++;
    }
    begin += to - from;
  }
  return kept;
}
