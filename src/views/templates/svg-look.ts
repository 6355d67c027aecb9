/** A length as SVG writes it, in its own units. */
export const length = (text: string | null): number => Number.parseFloat(text ?? '') || 0;
/** A colour as it is drawn, with how much of it lets through, as six or eight figures; blank for none. */
export function hex(colour: string, opacity: string): string {
  const found = /rgba?\(([\d.]+),\s*([\d.]+),\s*([\d.]+)(?:,\s*([\d.]+))?\)/.exec(colour);
  if (!found) return '';
  const [r, g, b] = found.slice(1, 4).map(Number) as [number, number, number];
  const alpha = (found[4] === undefined ? 1 : Number(found[4])) * (Number(opacity) || 0);
  const two = (n: number) => Math.round(n).toString(16).padStart(2, '0');
  return alpha <= 0 ? '' : `#${two(r)}${two(g)}${two(b)}${alpha < 1 ? two(alpha * 255) : ''}`;
}
