/** A point by its share of a box's width and height, in percent. */
export interface Spot {
  x: number;
  y: number;
}

/** Reads places in percent as `50,0 100,100 0,100`; what is no pair of numbers is left out. */
export function spotsIn(text: string): Spot[] {
  return text
    .trim()
    .split(/\s+/)
    .map((pair) => pair.split(',').map(Number))
    .filter((pair) => pair.length === 2 && pair.every((n) => Number.isFinite(n)))
    .map(([x, y]) => ({ x: x!, y: y! }));
}

/**
 * SVG path data (SVG 2, section 9) of a shape in a box of 100 by 100; null where it is a box or an ellipse, which no path
 * is needed for. A polygon of fewer than three corners has none, and neither has a path of signs that path data has not.
 */
export function outlinePath(shape: string, points: string, path: string): string | null {
  switch (shape) {
    case 'diamond':
      return 'M50 0 100 50 50 100 0 50Z';
    case 'polygon': {
      const spots = spotsIn(points);
      return spots.length < 3 ? '' : `M${spots.map(({ x, y }) => `${x} ${y}`).join(' ')}Z`;
    }
    case 'path':
      return /^[MmLlHhVvCcSsQqTtAaZz\d\s.,eE+-]*$/.test(path) ? path : '';
    default:
      return null;
  }
}
