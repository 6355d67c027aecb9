/** What a WebM loop says of itself. */
export interface Loop {
  width: number;
  height: number;
  alpha: boolean;
  /** In ms; null where it does not say, as a recording that was still going on. */
  length: number | null;
}

/** Elements of Matroska (RFC 9559) that hold others which are of use here. */
const HOLDS = new Set([0x18538067, 0x1549a966, 0x1654ae6b, 0xae, 0xe0]);
/** How deep what is of use stands; deeper is no loop that anybody made. */
const DEEPEST = 4;
const HEAD = 0x1a45dfa3;
const CLUSTER = 0x1f43b675;
const LEAVES = {
  docType: 0x4282,
  scale: 0x2ad7b1,
  duration: 0x4489,
  width: 0xb0,
  height: 0xba,
  alpha: 0x53c0,
};

/**
 * Reads the head of a WebM file: EBML (RFC 8794) with the elements of Matroska (RFC 9559), up to its first pictures.
 * Null for what is none, or has no picture in it.
 */
export function readWebm(bytes: Uint8Array): Loop | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const leaves = new Map<number, { at: number; size: number }>();
  // Lengths of ids and sizes stand in the leading zeros of their first byte.
  const numberAt = (at: number, keepMark: boolean): { value: number; length: number } | null => {
    const first = bytes[at];
    if (!first) return null;
    const length = Math.clz32(first) - 23;
    if (at + length > bytes.length || length > 8) return null;
    let value = keepMark ? first : first & (0xff >> length);
    let full = (first & (0xff >> length)) === 0xff >> length;
    for (let i = 1; i < length; i++) {
      value = value * 256 + bytes[at + i]!;
      full &&= bytes[at + i] === 0xff;
    }
    // A size of ones only: unknown, to the end of what it stands in.
    return { value: !keepMark && full ? Infinity : value, length };
  };
  const walk = (from: number, to: number, depth: number): void => {
    for (let at = from; at < to;) {
      const id = numberAt(at, true);
      const size = id && numberAt(at + id.length, false);
      if (!id || !size || id.value === CLUSTER) return;
      const start = at + id.length + size.length;
      const end = Math.min(to, start + size.value);
      if (depth < DEEPEST && (HOLDS.has(id.value) || id.value === HEAD)) walk(start, end, depth + 1);
      else if (!leaves.has(id.value)) leaves.set(id.value, { at: start, size: end - start });
      at = end;
    }
  };
  walk(0, bytes.length, 0);
  const whole = (id: number): number | null => {
    const leaf = leaves.get(id);
    if (!leaf || leaf.size > 6) return null;
    let value = 0;
    for (let i = 0; i < leaf.size; i++) value = value * 256 + bytes[leaf.at + i]!;
    return value;
  };
  const type = leaves.get(LEAVES.docType);
  const name = type && String.fromCharCode(...bytes.subarray(type.at, type.at + Math.min(8, type.size)));
  const [width, height] = [whole(LEAVES.width), whole(LEAVES.height)];
  if (name?.replace(/\0+$/, '') !== 'webm' || !width || !height) return null;
  const said = leaves.get(LEAVES.duration);
  const ticks =
    said?.size === 4 ? view.getFloat32(said.at) : said?.size === 8 ? view.getFloat64(said.at) : NaN;
  // Durations count in ticks of the scale, which is in nanoseconds and a million where nothing is said.
  const length = (ticks * (whole(LEAVES.scale) ?? 1_000_000)) / 1e6;
  return {
    width,
    height,
    alpha: whole(LEAVES.alpha) === 1,
    length: Number.isFinite(length) && length > 0 ? Math.round(length) : null,
  };
}
