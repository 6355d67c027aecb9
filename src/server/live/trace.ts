import { asciiText, isClockReading } from '../../core/decode/reading.ts';
import { clockText } from '../../core/clock/clock.ts';
import type { Show } from '../../core/show/show.ts';
import type { Trace } from '../../core/wire/wire.ts';
import type { Feeding } from './sources.ts';

/** Why a field says what it says: from the newest frame's bytes to the layers that show it on air. */
export function traceOf(
  field: string,
  uses: { mount: string; layer: string; prop: string }[],
  show: Show,
  feeding: Feeding | undefined,
): Trace {
  const trace: Trace = {
    field,
    uses: uses.map(({ mount, layer, prop }) => {
      const item = show.lanes.get(mount)?.onAir?.item ?? '';
      return { item: show.items.get(item)?.name ?? item, layer, property: prop };
    }),
  };
  const link = feeding?.patch?.linkTo(field);
  if (!feeding || !link) return trace;
  trace.patch = {
    reading: link.reading,
    converted: link.as !== undefined,
    ...(link.running ? { running: link.running } : {}),
  };
  const def = feeding.source.map?.readings.find((r) => r.name === link.reading);
  const last = feeding.source.last;
  if (!def || !last) return trace;
  const { bytes, readings } = last.frame;
  trace.frame = {
    source: feeding.source.doc.name,
    hex: Buffer.from(bytes).toString('hex'),
    text: asciiText(bytes, 0, bytes.length),
    at: last.at,
    offset: def.offset,
    length: def.length,
  };
  const reading = readings.find((r) => r.name === def.name);
  if (!reading) return trace;
  const value = reading.value ?? null;
  const written = isClockReading(value)
    ? clockText(value.ms, value.step === 100 ? { tenthsBelow: 60_000 } : {})
    : String(value ?? 'blank');
  trace.reading = { name: def.name, kind: def.kind, raw: reading.raw, value: written };
  if (reading.problem) trace.reading.problem = reading.problem;
  return trace;
}
