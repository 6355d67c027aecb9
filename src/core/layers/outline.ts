/** A point by its share of a box's width and height, in percent. */
export interface Point {
  x: number;
  y: number;
}

/** Reads places in percent as `50,0 100,100 0,100`; what is no pair of numbers is left out. */
export function spotsIn(text: string): Point[] {
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

/** The radii of a box's corners in px: from the top left on, to the right and round. */
export type Radii = readonly [topLeft: number, topRight: number, bottomRight: number, bottomLeft: number];

/**
 * SVG path data of a box with round corners, in px; where corners would meet all are smaller by the same share, as in CSS
 * (Backgrounds and Borders 3, section 5.5).
 * @param inset how far within the box's edge the path runs, in px: as the middle of a border does
 */
export function boxPath(width: number, height: number, radii: Radii, inset = 0): string {
  const [tl, tr, br, bl] = radii;
  const sides = [
    [width, tl + tr],
    [height, tr + br],
    [width, br + bl],
    [height, bl + tl],
  ] as const;
  const share = Math.min(1, ...sides.map(([side, both]) => (both > 0 ? side / both : 1)));
  const [a, b, c, d] = radii.map((r) => Math.max(0, r * share - inset)) as unknown as Radii;
  const [w, h] = [Math.max(0, width - 2 * inset), Math.max(0, height - 2 * inset)];
  const arc = (r: number, x: number, y: number) => (r > 0 ? `a${r} ${r} 0 0 1 ${x * r} ${y * r}` : '');
  return (
    `M${inset + a} ${inset}h${w - a - b}${arc(b, 1, 1)}v${h - b - c}${arc(c, -1, 1)}` +
    `h${-(w - c - d)}${arc(d, -1, -1)}v${-(h - d - a)}${arc(a, 1, -1)}Z`
  );
}

/**
 * From where to where a fade of CSS runs in a box, in px (CSS Images 3, section 3.1.1).
 * @param angle in degrees: 0 upwards, 90 to the right
 */
export function fadeLine(width: number, height: number, angle: number): { from: Point; to: Point } {
  const turn = (angle * Math.PI) / 180;
  const [x, y] = [Math.sin(turn), -Math.cos(turn)];
  const half = (Math.abs(width * x) + Math.abs(height * y)) / 2;
  const at = (far: number): Point => ({ x: width / 2 + x * far, y: height / 2 + y * far });
  return { from: at(-half), to: at(half) };
}
