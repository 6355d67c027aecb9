import type { Anchor, TextSize } from '../core/text/fit.ts';

/** What a text is written in. */
export interface TextStyle {
  font: string;
  weight: number;
  /** The set size in px: a text is drawn at it, or smaller where it does not fit. */
  size: number;
  anchor: Anchor;
  /** Space between letters, in em. */
  tracking: number;
}

/** A font's vertical measures at 100 px: line ascent and descent, and the height of a capital. */
interface FontMetrics {
  ascent: number;
  descent: number;
  cap: number;
}

const metrics = new Map<string, FontMetrics>();
const widths = new Map<string, number>();
let ruler: HTMLSpanElement | null = null;

const faceOf = (style: TextStyle) => `${style.weight} 100px "${style.font}"`;

function metricsOf(style: TextStyle): FontMetrics {
  const face = faceOf(style);
  let m = metrics.get(face);
  if (!m) {
    const context = document.createElement('canvas').getContext('2d')!;
    context.font = `${face}, sans-serif`;
    const h = context.measureText('H');
    m = {
      ascent: h.fontBoundingBoxAscent,
      descent: h.fontBoundingBoxDescent,
      cap: h.actualBoundingBoxAscent,
    };
    metrics.set(face, m);
  }
  return m;
}

/** Forgets every measure, as after fonts came in. */
export function forgetMeasures(): void {
  metrics.clear();
  widths.clear();
}

/**
 * A text's size at its style's set size, in px. It is measured in the page rather than on a canvas, because
 * only the page applies tabular figures.
 */
export function measureText(text: string, style: TextStyle): TextSize {
  const { ascent, descent } = metricsOf(style);
  const height = ((ascent + descent) / 100) * style.size;
  if (text === '') return { width: 0, height };
  // Figures are tabular: a number is as wide as any other of its form, so a new score need not be measured.
  const form = /^[\d\s:.,#+\u2212-]+$/.test(text) ? text.replace(/\d/g, '0') : text;
  const key = `${faceOf(style)}|${style.tracking}|${form}`;
  let width = widths.get(key);
  if (width === undefined) {
    if (!ruler) {
      ruler = document.createElement('span');
      ruler.style.cssText =
        'position:absolute;left:-99999px;top:0;visibility:hidden;white-space:pre;contain:layout paint style;font-variant-numeric:tabular-nums';
      ruler.setAttribute('aria-hidden', 'true');
    }
    if (!ruler.isConnected) document.body.append(ruler);
    ruler.style.font = `${faceOf(style)}, sans-serif`;
    ruler.style.fontVariantNumeric = 'tabular-nums';
    ruler.style.letterSpacing = `${style.tracking}em`;
    ruler.textContent = form;
    width = ruler.getBoundingClientRect().width;
    if (widths.size > 4000) widths.clear();
    widths.set(key, width);
  }
  return { width: (width / 100) * style.size, height };
}

/** How far, in px at the set size, a line must move down so that its capitals stand in the middle of it. */
export function capShift(style: TextStyle): number {
  const { ascent, descent, cap } = metricsOf(style);
  return (((ascent + descent) / 2 - (ascent - cap / 2)) / 100) * style.size;
}
