import type { Box } from '../text/fit.ts';

/** The smallest box around boxes; null for none. */
export function around(boxes: readonly Box[]): Box | null {
  if (boxes.length === 0) return null;
  const x = Math.min(...boxes.map((b) => b.x));
  const y = Math.min(...boxes.map((b) => b.y));
  return {
    x,
    y,
    width: Math.max(...boxes.map((b) => b.x + b.width)) - x,
    height: Math.max(...boxes.map((b) => b.y + b.height)) - y,
  };
}

/** What boxes can be aligned by. */
export const EDGES = ['left', 'centre', 'right', 'top', 'middle', 'bottom'] as const;
export type Edge = (typeof EDGES)[number];

/** The boxes with one edge, or their centres, where that of `to` is; whole px. */
export const aligned = (boxes: readonly Box[], edge: Edge, to: Box): Box[] =>
  boxes.map((b) => {
    switch (edge) {
      case 'left':
        return { ...b, x: to.x };
      case 'centre':
        return { ...b, x: Math.round(to.x + (to.width - b.width) / 2) };
      case 'right':
        return { ...b, x: to.x + to.width - b.width };
      case 'top':
        return { ...b, y: to.y };
      case 'middle':
        return { ...b, y: Math.round(to.y + (to.height - b.height) / 2) };
      case 'bottom':
        return { ...b, y: to.y + to.height - b.height };
    }
  });

/**
 * The boxes with equal gaps between them, along one axis; the outermost stay. Given and given back in the same order; gaps may
 * be below 0 where boxes overlap. Positions are whole px, so gaps differ by one at most. Fewer than three stay as they are.
 */
export function distributed(boxes: readonly Box[], axis: 'across' | 'down'): Box[] {
  const [at, size] = axis === 'across' ? (['x', 'width'] as const) : (['y', 'height'] as const);
  if (boxes.length < 3) return [...boxes];
  const order = boxes.map((_, i) => i).sort((a, b) => boxes[a]![at] - boxes[b]![at] || a - b);
  const first = boxes[order[0]!]!;
  const last = boxes[order.at(-1)!]!;
  const filled = boxes.reduce((sum, b) => sum + b[size], 0);
  const gap = (last[at] + last[size] - first[at] - filled) / (boxes.length - 1);
  const placed = [...boxes];
  let next = first[at];
  for (const i of order) {
    placed[i] = { ...boxes[i]!, [at]: Math.round(next) };
    next += boxes[i]![size] + gap;
  }
  return placed;
}

/**
 * A frame of two corners, drawn from one to the other, in whole px. `even` makes its sides alike, `centred` takes the first
 * point for its middle.
 */
export function drawn(
  from: { x: number; y: number },
  to: { x: number; y: number },
  { even = false, centred = false } = {},
): Box {
  let [w, h] = [to.x - from.x, to.y - from.y];
  if (even) {
    const side = Math.max(Math.abs(w), Math.abs(h));
    [w, h] = [w < 0 ? -side : side, h < 0 ? -side : side];
  }
  const [x1, y1] = centred ? [from.x - w, from.y - h] : [from.x, from.y];
  const [x2, y2] = [from.x + w, from.y + h];
  const [x, y] = [Math.round(Math.min(x1, x2)), Math.round(Math.min(y1, y2))];
  return { x, y, width: Math.round(Math.max(x1, x2)) - x, height: Math.round(Math.max(y1, y2)) - y };
}

/** The areas of EBU R 95 for 16:9: all that matters moves within the first, all that is read stands within the second. */
export const SAFE_AREAS = [
  { name: 'Action safe', share: 0.93 },
  { name: 'Graphics safe', share: 0.9 },
] as const;

/** A safe area of a picture: `share` of its width and height, in the middle. Source: EBU R 95 (2017), table 1. */
export const safeArea = (width: number, height: number, share: number): Box => ({
  x: (width * (1 - share)) / 2,
  y: (height * (1 - share)) / 2,
  width: width * share,
  height: height * share,
});
