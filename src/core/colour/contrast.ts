/** Reads `#rgb` or `#rrggbb` into 0 to 255 parts; null for anything else. */
export function parseColour(text: string): [number, number, number] | null {
  const m = /^#([0-9a-f]{3}|[0-9a-f]{6})$/i.exec(text.trim());
  if (!m) return null;
  const hex = m[1]!.length === 3 ? [...m[1]!].map((c) => c + c).join('') : m[1]!;
  return [0, 2, 4].map((i) => parseInt(hex.slice(i, i + 2), 16)) as [number, number, number];
}

/** A part of sRGB, 0 to 255, as a share of light (CSS Color 4, 10.3). */
function linear(part: number): number {
  const s = part / 255;
  return s <= 0.04045 ? s / 12.92 : ((s + 0.055) / 1.055) ** 2.4;
}

/** Relative luminance, 0 (black) to 1 (white), of 0 to 255 parts: WCAG 2.2, "relative luminance". */
export function luminance([r, g, b]: readonly [number, number, number]): number {
  return 0.2126 * linear(r) + 0.7152 * linear(g) + 0.0722 * linear(b);
}

/** Contrast ratio of two colours, 1 to 21: WCAG 2.2, "contrast ratio". Unreadable colours count as black. */
export function contrast(a: string, b: string): number {
  const [la, lb] = [a, b].map((c) => luminance(parseColour(c) ?? [0, 0, 0])) as [number, number];
  return (Math.max(la, lb) + 0.05) / (Math.min(la, lb) + 0.05);
}

/** The more legible of two inks on a ground; the first when they are equal or the ground is no colour. */
export function moreLegible(ground: string, inks: readonly [string, string]): string {
  if (!parseColour(ground)) return inks[0];
  return contrast(ground, inks[1]) > contrast(ground, inks[0]) ? inks[1] : inks[0];
}

/**
 * How different two colours look, 0 (the same) to about 1 (black and white): the distance in Oklab (CSS Color 4, 10.2 and 13.1). About
 * 0.02 can just be told side by side. Null where one is no colour.
 */
export function difference(a: string, b: string): number | null {
  const [one, other] = [parseColour(a), parseColour(b)];
  if (!one || !other) return null;
  const [p, q] = [oklab(one), oklab(other)];
  return Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]);
}

/** A colour of 0 to 255 parts in Oklab: lightness, green to red, blue to yellow. */
function oklab(parts: readonly [number, number, number]): [number, number, number] {
  const [r, g, b] = parts.map(linear) as [number, number, number];
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
  return [
    0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  ];
}
