import type { Box } from '../text/fit.ts';

/** How much room there is between a label and what stands beside it, in px. */
const GAP = 4;

const meet = (a: Box, b: Box): boolean =>
  a.x < b.x + b.width + GAP &&
  b.x < a.x + a.width + GAP &&
  a.y < b.y + b.height + GAP &&
  b.y < a.y + a.height + GAP;

/**
 * Places a label beside each of some boxes so that none covers another label or a box, as near to its own box as there is room:
 * above it, below it, or further away, and always within the area. Where no room is left a label lies over boxes, but not over
 * labels.
 * @param boxes what is labelled, in the area
 * @param sizes of the labels, in the same order
 * @param area that labels may stand in
 */
export function placeLabels(
  boxes: readonly Box[],
  sizes: readonly { width: number; height: number }[],
  area: Box,
): Box[] {
  const placed: Box[] = [];
  // From left to right, so that labels stand in the order in which they are read.
  const order = boxes.map((_, i) => i).sort((a, b) => boxes[a]!.x - boxes[b]!.x || boxes[a]!.y - boxes[b]!.y);
  const result: Box[] = [];
  for (const i of order) {
    const box = boxes[i]!;
    const { width, height } = sizes[i]!;
    const x = Math.max(area.x, Math.min(box.x, area.x + area.width - width));
    const step = height + GAP;
    const at = (y: number, dx = 0): Box => ({ x: x + dx, y, width, height });
    const steps = Math.ceil(area.height / step);
    const rows = Array.from({ length: steps }, (_, n) => [
      at(box.y - GAP - 1 - height - n * step),
      at(box.y + box.height + GAP + 1 + n * step),
    ]).flat();
    const within = rows.filter((r) => r.y >= area.y && r.y + height <= area.y + area.height);
    const free = (r: Box) => placed.every((p) => !meet(r, p));
    const best =
      within.find((r) => free(r) && boxes.every((b) => !meet(r, b))) ??
      within.find(free) ??
      within[0] ??
      at(area.y);
    placed.push(best);
    result[i] = best;
  }
  return result;
}
