/** Reads `#rgb` or `#rrggbb` into 0 to 255 parts; null for anything else. */
export function parseColour(text: string): [number, number, number] | null {
  const m = /^#([0-9a-f]{3}|[0-9a-f]{6})$/i.exec(text.trim());
  if (!m) return null;
  const hex = m[1]!.length === 3 ? [...m[1]!].map((c) => c + c).join('') : m[1]!;
  return [0, 2, 4].map((i) => parseInt(hex.slice(i, i + 2), 16)) as [number, number, number];
}

/** Relative luminance, 0 (black) to 1 (white), of 0 to 255 parts: WCAG 2.2, "relative luminance". */
export function luminance([r, g, b]: readonly [number, number, number]): number {
  const linear = (part: number) => {
    const s = part / 255;
    return s <= 0.04045 ? s / 12.92 : ((s + 0.055) / 1.055) ** 2.4;
  };
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
