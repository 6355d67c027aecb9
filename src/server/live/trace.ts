import { asciiText, isClockReading, type Reading } from '../../core/decode/reading.ts';
import { clockText } from '../../core/clock/clock.ts';
import { needs } from '../../core/derive/derivations.ts';
import type { Derived } from '../../core/derive/derived.ts';
import type { Show } from '../../core/show/show.ts';
import type { Trace } from '../../core/wire/wire.ts';
import { ByteSource } from '../ingest/byte-source.ts';
import { HandSource } from '../ingest/hand-source.ts';
import type { Feeding } from './sources.ts';

/** Why a field says what it says: from the newest frame's bytes to the layers that show it on air. */
export function traceOf(
  field: string,
  uses: { mount: string; layer: string; prop: string }[],
  show: Show,
  feeding: Feeding | undefined,
  derived: Derived | undefined,
  nameOf: (key: string) => { name: string; table: boolean },
): Trace {
  const trace: Trace = {
    field,
    uses: uses.map(({ mount, layer, prop }) => {
      const item = show.lanes.get(mount)?.onAir?.item ?? '';
      return { item: show.items.get(item)?.name ?? item, layer, property: prop };
    }),
  };
  if (derived) {
    trace.derived = { from: [...needs(derived)].map((key) => ({ key, ...nameOf(key) })) };
    return trace;
  }
  const link = feeding?.patch?.linkTo(field);
  if (!feeding || !link) return trace;
  trace.patch = {
    reading: link.reading,
    converted: link.as !== undefined,
    ...(link.running ? { running: link.running } : {}),
  };
  traceDocument(trace, link.reading, feeding);
  const { source } = feeding;
  const def = feeding.bundle.map?.readings.find((r) => r.name === link.reading);
  const last = source instanceof ByteSource ? source.last : null;
  if (!def || !last) return trace;
  const { bytes, readings } = last.frame;
  trace.frame = {
    source: source.doc.name,
    hex: Buffer.from(bytes).toString('hex'),
    text: asciiText(bytes, 0, bytes.length),
    at: last.at,
    offset: def.offset,
    length: def.length,
  };
  const reading = readings.find((r) => r.name === def.name);
  if (!reading) return trace;
  trace.reading = written(reading, def.kind);
  return trace;
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
  if (!def || source instanceof HandSource) return;
  const last =
    source instanceof ByteSource
      ? source.lastLine && { ...source.lastLine, format: 'JSON line' }
      : source.last;
  if (!last) return;
  trace.document = { source: source.doc.name, format: last.format, place: def.place, at: last.at };
  const reading = last.readings.find((r) => r.name === name);
  if (reading) trace.reading = written(reading, def.as);
}
