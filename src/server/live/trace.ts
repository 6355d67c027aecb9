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
import { valueInWords, type Value } from '../../core/value/value.ts';
import type { Trace, TracedPart } from '../../core/wire/wire.ts';
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
}

/** Why something says what it says: from the newest frame's bytes or the document's place to the layers on air. */
export function traceOf(of: Traced, all: Traceable): Trace {
  if ('layer' in of) return traceLayer(of.layer, all);
  return 'cell' in of ? traceCell(of.cell, all) : traceField(of.field, all);
}

function traceField(key: string, all: Traceable): Trace {
  const { board, derivations, sources } = all;
  const feeding = sources.feeding(key);
  const trace: Trace = {
    ...named({ field: key }, all),
    origin: nameOfOrigin(board.state(key)?.origin ?? '', all),
    uses: seenIn(all.resolver.usesOf(key), all),
  };
  const derived = derivations.get(key);
  if (derived) trace.derived = behindField(derived, all);
  else if (feeding) traceSource(trace, key, feeding);
  return trace;
}

function traceSource(trace: Trace, field: string, feeding: Feeding): void {
  const link = feeding.patch?.linkTo(field);
  if (!link) return;
  const { source, bundle } = feeding;
  trace.patch = {
    reading: link.reading,
    converted: link.as !== undefined,
    ...(link.running ? { running: link.running } : {}),
  };
  traceDocument(trace, link.reading, feeding);
  const def = bundle.map?.readings.find((r) => r.name === link.reading);
  const last = def && source.frames ? source.frames.lastFor(def) : null;
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
function traceDocument(trace: Trace, name: string, { source, bundle }: Feeding): void {
  const def = bundle.document?.readings.find((r) => r.name === name);
  const last = source.lastRead;
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
  const { board, derivations, resolver, sources } = all;
  const key = tracedKey({ cell });
  const reads = (use: Use) =>
    readsOf(use.value, use.scope, keysOf(all)).cells.some((other) => tracedKey({ cell: other }) === key);
  const origin = board.tables.get(cell.table)?.origin ?? '';
  const trace: Trace = {
    ...named({ cell }, all),
    origin: nameOfOrigin(origin, all),
    uses: seenIn(resolver.usesOf(rowToken(cell.table, cell.row)).filter(reads), all),
  };
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
  const source = sources.get(origin);
  const at = source?.whereIs(cell);
  if (source && at) trace.document = { source: source.doc.name, ...at };
  return trace;
}

/** A layer of what is on air: what each of its properties says, and what they read to say it. */
function traceLayer({ mount, id }: { mount: string; id: string }, all: Traceable): Trace {
  const uses = all.resolver.layer(mount, id);
  const parts = uses.flatMap((use) => partsOf(use.value, use.scope, all));
  const own = uses.find((u) => u.property.main) ?? uses[0];
  return {
    of: { layer: { mount, id } },
    name: uses[0]?.layer.name ?? id,
    says: own ? textOf(own.last, all) : '',
    origin: null,
    derived: shortened(null, [...new Map(parts.map((p) => [JSON.stringify(p), p])).values()]),
    uses: seenIn(uses, all),
  };
}

function seenIn(uses: readonly Use[], { show }: Traceable): Trace['uses'] {
  return uses.map(({ mount, layer, property }) => {
    const item = show.lanes.get(mount)?.onAir?.item ?? '';
    return {
      item: show.items.get(item)?.name ?? item,
      layer: layer.name,
      property: property.label.toLowerCase(),
    };
  });
}

const keysOf =
  ({ board }: Traceable) =>
  (table: string, rank: number) =>
    board.tables.keyAt(table, rank);

/** What a Value reads now. */
function partsOf(value: Value, scope: Use['scope'], all: Traceable): TracedPart[] {
  const { fields, inputs, cells } = readsOf(value, scope, keysOf(all));
  return [
    ...inputs.map((key) => ({ of: null, name: `input ${key}`, says: textOf(scope.input(key), all) })),
    ...fields.map((field) => named({ field }, all)),
    ...cells.map((cell) => named({ cell }, all)),
  ];
}

function behindField(derived: Derived, all: Traceable): NonNullable<Trace['derived']> {
  const { board } = all;
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
  const row = typedText(board.read(derived.key));
  const column = board.tables.get(table)?.columns[0];
  const chosen =
    how.by === 'key' ? `what was typed: ${how.is}` : how.by === 'rank' ? `rank ${how.rank}` : 'rotation';
  const from = column && row ? [named({ cell: { table, row, column } }, all)] : [];
  return shortened(`a row of ${board.tables.get(table)?.name ?? table} by ${chosen}`, from);
}

function shortened(how: string | null, from: TracedPart[]): NonNullable<Trace['derived']> {
  return { how, from: from.slice(0, NAMED), more: Math.max(0, from.length - NAMED) };
}

/** A field or a cell by its name, with what it says now. */
function named<T extends Traced>(of: T, all: Traceable): { of: T; name: string; says: string } {
  const { board } = all;
  if ('field' in of)
    return { of, name: board.def(of.field)?.label ?? of.field, says: textOf(board.read(of.field), all) };
  if (!('cell' in of)) return { of, name: '', says: '' };
  const { table, row, column } = of.cell;
  const name = `${board.tables.get(table)?.name ?? table} · ${row} · ${column}`;
  return { of, name, says: textOf(own(board.row(table, row) ?? {}, column) ?? null, all) };
}

/** A source by its name; the game and what is worked out by theirs; null where nobody has said anything. */
function nameOfOrigin(origin: string, { sources }: Traceable): string | null {
  if (origin === '') return null;
  if (origin === 'derived') return 'a derivation';
  return sources.get(origin)?.doc.name ?? `the ${origin}`;
}

/** What a value says at this moment, as text. */
const textOf = (value: FieldValue, { time }: Traceable): string =>
  isClock(value) ? clockText(clockAt(value, time.now()), { tenthsBelow: 60_000 }) : typedText(value);
