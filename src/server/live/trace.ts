import { own } from '../../core/board/own.ts';
import type { Board } from '../../core/board/board.ts';
import { rowToken } from '../../core/board/tables.ts';
import { isClock, type FieldValue } from '../../core/board/values.ts';
import { clockAt, clockText } from '../../core/clock/clock.ts';
import { asciiText, isClockReading, type Reading } from '../../core/decode/reading.ts';
import type { Derivations } from '../../core/derive/derivations.ts';
import type { Derived } from '../../core/derive/derived.ts';
import type { Resolver, Use } from '../../core/resolve/resolver.ts';
import type { Show } from '../../core/show/show.ts';
import { typedText } from '../../core/sport/typed.ts';
import type { ShowTime } from '../../core/tape/show-time.ts';
import { readsOf } from '../../core/trace/reads.ts';
import { tracedKey, type CellAt, type Traced } from '../../core/trace/traced.ts';
import { valueInWords, type Scope, type Value } from '../../core/value/value.ts';
import type { Trace, TracedPart } from '../../core/wire/wire.ts';
import type { ReadLog } from './read-log.ts';
import type { Feeding, Sources } from './sources.ts';

/** How many parts of one value are named; of a total over a whole season the rest is counted. */
const NAMED = 12;

/** All that a trace is made of. */
export interface Traceable {
  board: Board;
  derivations: Derivations;
  resolver: Resolver;
  show: Show;
  sources: Sources;
  time: ShowTime;
  /** What was read is noted in it. */
  noted: ReadLog;
}

/** Why something says what it says: from the newest frame's bytes or the document's place to the layers on air. */
export function traceOf(of: Traced, all: Traceable): Trace {
  if ('layer' in of) return traceLayer(of.layer, all);
  return 'cell' in of ? traceCell(of.cell, all) : traceField(of.field, all);
}

function traceField(key: string, all: Traceable): Trace {
  const { board, derivations, sources, noted } = all;
  const origin = noted.read(() => board.state(key)?.origin ?? '');
  // A source that was saved anew is another object.
  noted.read(() => sources.feeding(key)?.source);
  noted.read(() => sources.feeding(key)?.patch);
  const feeding = sources.feeding(key);
  const trace: Trace = {
    ...named({ field: key }, all),
    origin: nameOfOrigin(origin, all),
    uses: seenIn(usesOf(key, all), all),
  };
  const derived = noted.read(() => derivations.get(key));
  if (derived) trace.derived = behindField(derived, all);
  else if (feeding) traceSource(trace, key, feeding, noted);
  return trace;
}

function traceSource(trace: Trace, field: string, feeding: Feeding, noted: ReadLog): void {
  const link = feeding.patch?.linkTo(field);
  if (!link) return;
  const { source, bundle } = feeding;
  trace.patch = {
    reading: link.reading,
    converted: link.as !== undefined,
    ...(link.running ? { running: link.running } : {}),
  };
  traceDocument(trace, link.reading, feeding, noted);
  const def = bundle.map?.readings.find((r) => r.name === link.reading);
  const last = def && source.frames ? noted.read(() => source.frames!.lastFor(def)) : null;
  if (!def || !last) return;
  const { bytes, readings, parts } = last.frame;
  const places = parts.placesOf(def);
  trace.frame = {
    source: source.doc.name,
    hex: Buffer.from(bytes).toString('hex'),
    text: asciiText(bytes, 0, bytes.length),
    at: last.at,
    places: Array.isArray(places) ? places : [],
  };
  const reading = readings.find((r) => r.name === def.name);
  if (reading) trace.reading = written(reading, def.kind);
}

function written({ name, raw, problem, value = null }: Reading, kind: string): NonNullable<Trace['reading']> {
  const text = isClockReading(value)
    ? clockText(value.ms, value.step === 100 ? { tenthsBelow: 60_000 } : {})
    : String(value ?? 'blank');
  return { name, kind, raw, value: text, ...(problem ? { problem } : {}) };
}

/** The same for a source of documents or of lines: the place that the reading was found at. */
function traceDocument(trace: Trace, name: string, { source, bundle }: Feeding, noted: ReadLog): void {
  const def = bundle.document?.readings.find((r) => r.name === name);
  const last = noted.read(() => source.lastRead);
  if (!def || !last) return;
  const reading = last.readings.find((r) => r.name === name);
  trace.document = {
    source: source.doc.name,
    format: last.format,
    place: def.place,
    raw: reading?.raw ?? '',
    at: last.at,
  };
  if (reading) trace.reading = written(reading, def.as);
}

function traceCell(cell: CellAt, all: Traceable): Trace {
  const { board, derivations, sources, noted } = all;
  const key = tracedKey({ cell });
  const reads = (use: Use) =>
    readsOf(use.value, watched(use.scope, all), keysOf(all)).cells.some(
      (other) => tracedKey({ cell: other }) === key,
    );
  const origin = noted.read(() => board.tables.get(cell.table)?.origin ?? '');
  const trace: Trace = {
    ...named({ cell }, all),
    origin: nameOfOrigin(origin, all),
    uses: seenIn(usesOf(rowToken(cell.table, cell.row), all).filter(reads), all),
  };
  noted.read(() => derivations.get(cell.table));
  noted.read(() => derivations.madeTimes(cell.table));
  const behind = derivations.behind(cell);
  if (behind) {
    const from: Traced[] = [
      ...behind.fields.map((field) => ({ field })),
      ...behind.cells.map((c) => ({ cell: c })),
    ];
    trace.derived = shortened(
      behind.how,
      from.map((part) => named(part, all)),
    );
    return trace;
  }
  const source = noted.read(() => sources.get(origin));
  const at = noted.read(() => source?.whereIs(cell));
  if (source && at) trace.document = { source: source.doc.name, ...at };
  return trace;
}

/** A layer of what is on air: what each of its properties says, and what they read to say it. */
function traceLayer({ mount, id }: { mount: string; id: string }, all: Traceable): Trace {
  all.noted.read(() => all.resolver.version);
  const uses = all.resolver.layer(mount, id);
  const parts = uses.flatMap((use) => partsOf(use.value, use.scope, all));
  const own = uses.find((u) => u.property.main) ?? uses[0];
  return {
    of: { layer: { mount, id } },
    name: uses[0]?.layer.name ?? id,
    says: own ? all.noted.read(() => textOf(own.last, all)) : '',
    origin: null,
    derived: shortened(null, [...new Map(parts.map((p) => [JSON.stringify(p), p])).values()]),
    uses: seenIn(uses, all),
  };
}

/** What is mounted is noted: another take, another use. */
function usesOf(token: string, { resolver, noted }: Traceable): Use[] {
  noted.read(() => resolver.version);
  return resolver.usesOf(token);
}

/** The scope, with what is read of it noted. */
const watched = (scope: Scope, { noted }: Traceable): Scope => ({
  field: (key) => noted.read(() => scope.field(key)),
  input: scope.input,
  row: (table, key) => noted.read(() => scope.row?.(table, key)),
  ranked: (table, rank) => noted.read(() => scope.ranked?.(table, rank)),
});

function seenIn(uses: readonly Use[], { show, noted }: Traceable): Trace['uses'] {
  const seen = new Map<string, Trace['uses'][number]>();
  for (const { mount, layer, property } of uses) {
    const item = noted.read(() => show.lanes.get(mount)?.onAir?.item ?? '');
    const use = {
      item: noted.read(() => show.items.get(item)?.name ?? item),
      layer: layer.name,
      property: property.label.toLowerCase(),
    };
    // The same item in several zones is one.
    seen.set(JSON.stringify(use), use);
  }
  return [...seen.values()];
}

const keysOf =
  ({ board, noted }: Traceable) =>
  (table: string, rank: number) =>
    noted.read(() => board.tables.keyAt(table, rank));

/** What a Value reads now. */
function partsOf(value: Value, scope: Use['scope'], all: Traceable): TracedPart[] {
  const { fields, inputs, cells } = readsOf(value, watched(scope, all), keysOf(all));
  return [
    ...inputs.map((key) => ({ of: null, name: `input ${key}`, says: textOf(scope.input(key), all) })),
    ...fields.map((field) => named({ field }, all)),
    ...cells.map((cell) => named({ cell }, all)),
  ];
}

function behindField(derived: Derived, all: Traceable): NonNullable<Trace['derived']> {
  const { board, noted } = all;
  if (derived.what === 'field') {
    const { value } = derived;
    const scope = {
      field: (key: string) => board.read(key),
      input: () => null,
      row: (table: string, key: string) => board.row(table, key),
      ranked: (table: string, rank: number) => board.ranked(table, rank),
    };
    return shortened(valueInWords(value), partsOf(value, scope, all));
  }
  if (derived.what !== 'pick') return shortened(null, []);
  const { how, table } = derived;
  const row = noted.read(() => typedText(board.read(derived.key)));
  const at = noted.read(() => board.tables.get(table));
  const column = at?.columns[0];
  const chosen =
    how.by === 'key' ? `what was typed: ${how.is}` : how.by === 'rank' ? `rank ${how.rank}` : 'rotation';
  const from = column && row ? [named({ cell: { table, row, column } }, all)] : [];
  return shortened(`a row of ${at?.name ?? table} by ${chosen}`, from);
}

function shortened(how: string | null, from: TracedPart[]): NonNullable<Trace['derived']> {
  return { how, from: from.slice(0, NAMED), more: Math.max(0, from.length - NAMED) };
}

/** A field or a cell by its name, with what it says now. */
function named<T extends Traced>(of: T, all: Traceable): { of: T; name: string; says: string } {
  const { board, noted } = all;
  if ('field' in of) {
    const { field } = of;
    const name = noted.read(() => board.def(field)?.label ?? field);
    // A clock that runs says something else as time goes: so its text is what is noted.
    return { of, name, says: noted.read(() => textOf(board.read(field), all)) };
  }
  if (!('cell' in of)) return { of, name: '', says: '' };
  const { table, row, column } = of.cell;
  const name = `${noted.read(() => board.tables.get(table)?.name) ?? table} · ${row} · ${column}`;
  return { of, name, says: noted.read(() => textOf(own(board.row(table, row) ?? {}, column) ?? null, all)) };
}

/** A source by its name; the game and what is worked out by theirs; null where nobody has said anything. */
function nameOfOrigin(origin: string, { sources, noted }: Traceable): string | null {
  if (origin === '') return null;
  if (origin === 'derived') return 'a derivation';
  return noted.read(() => sources.get(origin)?.doc.name) ?? `the ${origin}`;
}

/** What a value says at this moment, as text. */
const textOf = (value: FieldValue, { time }: Traceable): string =>
  isClock(value) ? clockText(clockAt(value, time.now()), { tenthsBelow: 60_000 }) : typedText(value);
