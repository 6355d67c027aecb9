import type { FrameMap, ReadingDef } from './frame-map.ts';

/** A stretch of a frame's bytes: `from` included, `to` not. */
export interface Stretch {
  from: number;
  to: number;
}

/** One field of a frame: where its value stands, and what it is called where fields have names. */
export interface Field extends Stretch {
  name: string | null;
}

/** Of what a map says how a frame is taken apart. */
export type HowToPart = Pick<FrameMap, 'framing' | 'check' | 'fields' | 'address'>;

/** No more fields than these are looked for in a frame. */
const MOST_FIELDS = 400;

/** Bytes as text in which each byte is one character (0 to 255), so that nothing of them is lost. */
export const byteText = (bytes: Uint8Array) => String.fromCharCode(...bytes);

/** A frame as its map takes it apart: its fields, its address, and where a reading stands in it. Worked out when asked. */
export class Parts {
  private cut: Field[] | null = null;

  constructor(
    readonly bytes: Uint8Array,
    private readonly map: HowToPart,
  ) {}

  /** Its fields, first to last; none where the map does not say what separates them. */
  get fields(): readonly Field[] {
    return (this.cut ??= this.map.fields ? cutFields(this.bytes, this.map, this.map.fields) : []);
  }

  /** What a message says that it speaks of; null where the map does not say where that stands, or the frame ends before. */
  get address(): string | null {
    const { address } = this.map;
    if (!address) return null;
    if ('field' in address) {
      const field = this.fields[address.field - 1];
      return field ? byteText(this.bytes.subarray(field.from, field.to)).trim() : null;
    }
    const to = address.offset + address.length;
    return to > this.bytes.length ? null : byteText(this.bytes.subarray(address.offset, to));
  }

  /** True when this frame may carry the reading: it has no address, or has this frame's. */
  carries(def: Pick<ReadingDef, 'address'>): boolean {
    return def.address === undefined || def.address === this.address;
  }

  /**
   * Where a reading stands in this frame, each of its places. Null where the frame is not the one that carries it: another
   * address, or no field of that name. A sentence where it should and does not.
   */
  placesOf(def: ReadingDef): Stretch[] | string | null {
    if (!this.carries(def)) return null;
    const { field } = def;
    if (typeof field === 'string') {
      const named = this.fields.find((f) => f.name === field);
      return named ? [named] : null;
    }
    if (field !== undefined) {
      const placed = this.fields[field - 1];
      return placed ? [placed] : `the frame has no field ${field}`;
    }
    const places = [def, ...(def.more ?? [])].map((p) => ({ from: p.offset, to: p.offset + p.length }));
    return places.some((p) => p.to > this.bytes.length) ? `the frame ends before "${def.name}"` : places;
  }
}

function indexOf(bytes: Uint8Array, what: readonly number[], from: number, to: number): number {
  for (let at = from; at + what.length <= to; at++) {
    let n = 0;
    while (n < what.length && bytes[at + n] === what[n]) n++;
    if (n === what.length) return at;
  }
  return -1;
}

/** What stands between a frame's start and its end, and before its check where that stands behind. */
export function bodyOf(length: number, { framing, check }: HowToPart): Stretch {
  const from = framing.start.length;
  let to = length - (framing.kind === 'delimited' ? framing.end.length : 0);
  if (check.kind !== 'none') {
    const place = (n: number) => (n < 0 ? length + n : n);
    const covered = Math.min(place(check.to), place(check.at));
    if (covered > from) to = Math.min(to, covered);
  }
  return { from: Math.min(from, to), to };
}

function cutFields(bytes: Uint8Array, map: HowToPart, how: NonNullable<FrameMap['fields']>): Field[] {
  const body = bodyOf(bytes.length, map);
  const fields: Field[] = [];
  let from = body.from;
  while (fields.length < MOST_FIELDS) {
    const next = indexOf(bytes, how.separator, from, body.to);
    const to = next < 0 ? body.to : next;
    const assign = how.assign ? indexOf(bytes, how.assign, from, to) : -1;
    const named = assign >= 0 && how.assign;
    fields.push(
      named
        ? { from: assign + named.length, to, name: byteText(bytes.subarray(from, assign)).trim() }
        : { from, to, name: null },
    );
    if (next < 0) break;
    from = next + how.separator.length;
  }
  return fields;
}
