import { evaluated } from '../number/arithmetic.ts';
import type { Box } from '../text/fit.ts';
import type { Output, Zone } from './show.ts';

type Canvas = Pick<Output, 'width' | 'height' | 'zones'>;

/** Across: side by side; down: one below the other. */
export type Axis = 'across' | 'down';

const right = (b: Box) => b.x + b.width;
const bottom = (b: Box) => b.y + b.height;

/** What two boxes have in common; null for nothing. Boxes that only touch have nothing in common. */
export function common(a: Box, b: Box): Box | null {
  const x = Math.max(a.x, b.x);
  const y = Math.max(a.y, b.y);
  const width = Math.min(right(a), right(b)) - x;
  const height = Math.min(bottom(a), bottom(b)) - y;
  return width > 0 && height > 0 ? { x, y, width, height } : null;
}

/** True for a zone that covers the whole canvas: it is for takeovers, and no gap, overlap or neighbour of the others. */
export const coversAll = ({ width, height }: Pick<Canvas, 'width' | 'height'>, zone: Box): boolean =>
  zone.x <= 0 && zone.y <= 0 && right(zone) >= width && bottom(zone) >= height;

/** How the zones of a canvas lie, in px: what a board must not have unseen. */
export interface Coverage {
  /** What no zone covers, as few rectangles from top to bottom; what is right of another stays apart. */
  gaps: Box[];
  /** Each two zones that have something in common, by their keys, back to front. */
  overlaps: { zones: [string, string]; box: Box }[];
  /** The zones of which some part, or all, is outside the canvas. */
  outside: string[];
}

/** Works out how zones lie. Those that cover the whole canvas are left out, unless there is no other. */
export function coverageOf({ width, height, zones }: Canvas): Coverage {
  const canvas = { x: 0, y: 0, width, height };
  const parts = zones.filter((z) => !coversAll(canvas, z));
  const counted = parts.length ? parts : zones;
  return {
    gaps: gapsIn(canvas, counted),
    overlaps: parts.flatMap((a, i) =>
      parts.slice(i + 1).flatMap((b) => {
        const box = common(a, b);
        return box ? [{ zones: [a.key, b.key] as [string, string], box }] : [];
      }),
    ),
    outside: zones
      .filter((z) => z.x < 0 || z.y < 0 || right(z) > width || bottom(z) > height)
      .map((z) => z.key),
  };
}

/** How far a box reaches beyond each side of a canvas, px. */
export interface Beyond {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/** How far a box reaches beyond each side of a canvas; of one that is all outside, as much of it as it is large. */
export const beyondOf = ({ width, height }: Pick<Canvas, 'width' | 'height'>, box: Box): Beyond => ({
  left: Math.min(box.width, Math.max(0, -box.x)),
  right: Math.min(box.width, Math.max(0, right(box) - width)),
  top: Math.min(box.height, Math.max(0, -box.y)),
  bottom: Math.min(box.height, Math.max(0, bottom(box) - height)),
});

/** What boxes leave of a canvas: band by band from the top, and bands that are left alike are one. */
function gapsIn(canvas: Box, boxes: readonly Box[]): Box[] {
  const seen = boxes.flatMap((b) => common(canvas, b) ?? []);
  const ys = [...new Set([0, canvas.height, ...seen.flatMap((b) => [b.y, bottom(b)])])].sort((a, b) => a - b);
  const gaps: Box[] = [];
  let open: Box[] = [];
  ys.slice(0, -1).forEach((y, i) => {
    const height = ys[i + 1]! - y;
    const across = seen.filter((b) => b.y <= y && bottom(b) > y).sort((a, b) => a.x - b.x);
    const band: Box[] = [];
    let x = 0;
    for (const b of [...across, { x: canvas.width, width: 0 }]) {
      if (b.x > x) band.push({ x, y, width: b.x - x, height });
      x = Math.max(x, b.x + b.width);
    }
    // What is as wide as what was left above it goes on with it.
    open = band.map((gap) => {
      const above = open.find((o) => o.x === gap.x && o.width === gap.width);
      if (above) above.height += height;
      else gaps.push(gap);
      return above ?? gap;
    });
  });
  return gaps;
}

/** The largest of the gaps that zones leave; null where there is none. */
export const largestOf = (gaps: readonly Box[]): Box | null =>
  gaps.reduce<Box | null>(
    (best, gap) => (best && best.width * best.height >= gap.width * gap.height ? best : gap),
    null,
  );

/**
 * A zone grown into what is left around it: to both sides as far as nothing of another zone stands beside it, then up and down
 * the same way. It does not become smaller, and does not reach beyond the canvas unless it did.
 */
export function grown(canvas: Canvas, key: string): Box | null {
  const zone = canvas.zones.find((z) => z.key === key);
  if (!zone) return null;
  const others = canvas.zones.filter((z) => z.key !== key && !coversAll(canvas, z));
  const wide = stretched(zone, others, canvas.width);
  const turned = stretched(turn(wide), others.map(turn), canvas.height);
  return turn(turned);
}

const turn = ({ x, y, width, height }: Box): Box => ({ x: y, y: x, width: height, height: width });

/** A box as wide as it can be between those that stand in its rows, within 0 and `most`. */
function stretched(box: Box, others: readonly Box[], most: number): Box {
  const beside = others.filter((o) => o.y < bottom(box) && bottom(o) > box.y);
  // Another that it overlaps already is no room either: on that side it stays.
  const from = Math.max(0, ...beside.filter((o) => o.x < box.x).map((o) => Math.min(right(o), box.x)));
  const to = Math.min(
    most,
    ...beside.filter((o) => right(o) > right(box)).map((o) => Math.max(o.x, right(box))),
  );
  const x = Math.min(box.x, from);
  return { ...box, x, width: Math.max(right(box), to) - x };
}

/** An area in so many equal parts, in whole px that together are all of it: the first ones have what does not divide. */
export function inParts(area: Box, count: number, axis: Axis): Box[] {
  const size = axis === 'across' ? area.width : area.height;
  const edge = (i: number) => Math.ceil((size * i) / count);
  return along(
    area,
    Array.from({ length: count }, (_, i) => edge(i + 1) - edge(i)),
    axis,
  );
}

/** Boxes of these sizes one after another from the start of an area; they may leave some of it, or reach beyond it. */
export function along(area: Box, sizes: readonly number[], axis: Axis): Box[] {
  let at = axis === 'across' ? area.x : area.y;
  return sizes.map((size) => {
    const box = axis === 'across' ? { ...area, x: at, width: size } : { ...area, y: at, height: size };
    at += size;
    return box;
  });
}

/** As many parts does nobody split a board into. */
export const MOST_PARTS = 100;

/**
 * The sizes of a list as it is typed: numbers or arithmetic, with or without `px`, and commas or blanks between (`800, 1400px,
 * 2000/2`). A sentence where something in it is no size.
 */
export function readSizes(text: string): number[] | string {
  const parts = text
    .replace(/(?<=\d)\s*px\b/gi, '')
    .split(text.includes(',') || text.includes(';') ? /[,;]/ : /\s+/)
    .map((part) => part.trim())
    .filter((part) => part !== '');
  if (parts.length === 0) return 'Type a size for each part, such as 800, 1400, 800.';
  if (parts.length > MOST_PARTS) return `That is more than ${MOST_PARTS} parts.`;
  const sizes = parts.map((part) => evaluated(part, null));
  const bad = sizes.findIndex((n) => n === null || !Number.isInteger(n) || n < 1 || n > MOST_SIDE);
  return bad < 0 ? (sizes as number[]) : `“${parts[bad]}” is no size in whole px.`;
}

/** Zones reach no further from a canvas's corner than this, in px, and none is larger. */
export const FARTHEST = 20_000;

/** No output has a longer lead, in ms: whoever presses must not wonder whether it was heard. */
export const MOST_LEAD = 1000;

/** No output has a longer side, in px: more than a browser draws on one page. */
export const MOST_SIDE = 16_384;

/** The zones with one moved so that it lies behind so many others: the list is from back to front. */
export function reordered(zones: readonly Zone[], key: string, to: number): Zone[] {
  const zone = zones.find((z) => z.key === key);
  if (!zone) return [...zones];
  const rest = zones.filter((z) => z !== zone);
  return [...rest.slice(0, to), zone, ...rest.slice(to)];
}

/** A zone under a key and a name that no other has: of the first number that is free. */
export function newZone(zones: readonly Zone[], box: Box): Zone {
  let n = 1;
  while (zones.some((z) => z.key === `zone-${n}` || z.name === `Zone ${n}`)) n++;
  return { key: `zone-${n}`, name: `Zone ${n}`, letter: '', ...box };
}

/** A zone in the largest room that is left; one over all of a board that is full, in front, for takeovers. */
export function addedZone(canvas: Canvas): Zone {
  const room = largestOf(coverageOf(canvas).gaps);
  if (room) return newZone(canvas.zones, room);
  const zone = newZone(canvas.zones, { x: 0, y: 0, width: canvas.width, height: canvas.height });
  return canvas.zones.some((z) => z.name === 'Takeover') ? zone : { ...zone, name: 'Takeover' };
}

/** What the widths, or the heights, of zones that stand in one row, or in one column, are together, in px; null where they do not. */
export function sumOf(canvas: Canvas, axis: Axis): number | null {
  const parts = canvas.zones
    .filter((z) => !coversAll(canvas, z))
    .map((z) => (axis === 'across' ? z : turn(z)));
  const inRow = parts.every((a) => parts.every((b) => a === b || (a.y < bottom(b) && b.y < bottom(a))));
  return parts.length > 1 && inRow ? parts.reduce((sum, z) => sum + z.width, 0) : null;
}

/** A part of what is divided: its box, and what it is called where that was typed. */
export type Part = Box & { name?: string };

/**
 * The zones that boxes are given to when what is under a key is divided, or the whole board: as they stand along the axis. Those
 * over all of the board beside others are none of them.
 */
export function dividedZones(canvas: Canvas, key: string | null, axis: Axis): Zone[] {
  if (key !== null) return canvas.zones.filter((z) => z.key === key);
  const parts = canvas.zones.filter((z) => !coversAll(canvas, z));
  if (!parts.length) return canvas.zones.slice(0, 1);
  return parts.sort(axis === 'across' ? (a, b) => a.x - b.x || a.y - b.y : (a, b) => a.y - b.y || a.x - b.x);
}

/**
 * The zones with one divided into parts: it is the first of them itself, and new ones follow in front of it. Without one, the
 * whole board is divided: the zones that are there stand in the parts one after the other, as they stand along the axis; new ones
 * come in what is left of them, and zones that get none are gone, but for those that are `used`. Those over all of the board stay.
 */
export function divided(
  canvas: Canvas,
  key: string | null,
  parts: readonly Part[],
  axis: Axis,
  used: (zone: string) => boolean = () => false,
): Zone[] {
  const takes = dividedZones(canvas, key, axis);
  const rest = canvas.zones.filter((z) => !takes.includes(z));
  const first = canvas.zones.findIndex((z) => takes.includes(z));
  const at = first < 0 ? 0 : canvas.zones.slice(0, first).filter((z) => rest.includes(z)).length;
  const made: Zone[] = [];
  const others = () => [...rest, ...takes, ...made];
  parts.forEach(({ name, ...box }, i) => {
    const zone = takes[i] ? { ...takes[i], ...box } : newZone(others(), box);
    made.push(name ? { ...zone, name } : zone);
  });
  const stay = takes.slice(parts.length).filter((z) => used(z.key));
  return [...rest.slice(0, at), ...made, ...stay, ...rest.slice(at)];
}

/** The first name that two zones share, without regard to case; null where all have names of their own. */
export function sameName(zones: readonly Pick<Zone, 'name'>[]): string | null {
  const seen = new Set<string>();
  for (const { name } of zones) {
    const plain = name.trim().toLowerCase();
    if (seen.has(plain)) return name;
    seen.add(plain);
  }
  return null;
}
