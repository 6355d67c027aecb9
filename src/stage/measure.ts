import type { RunStyle, Verticals } from '../core/layers/written.ts';
import { fontStack } from '../core/text/font-stack.ts';
/** A font's vertical measures at 100 px: line ascent and descent, and the height of a capital. */
interface FontMetrics {
  ascent: number;
  descent: number;
  cap: number;
}

const metrics = new Map<string, FontMetrics>();
const widths = new Map<string, number>();
let ruler: HTMLSpanElement | null = null;

const faceOf = (style: RunStyle) => `${style.weight} 100px ${fontStack(style.font)}`;

function metricsOf(style: RunStyle): FontMetrics {
  const face = faceOf(style);
  let m = metrics.get(face);
  if (!m) {
    const context = document.createElement('canvas').getContext('2d')!;
    context.font = face;
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

/** How far a line of a style reaches above and below its base, in px at the set size. */
export function verticalsOf(style: RunStyle): Verticals {
  const { ascent, descent } = metricsOf(style);
  return { ascent: (ascent / 100) * style.size, descent: (descent / 100) * style.size };
}

/**
 * A text's width at its style's set size, in px. It is measured in the page rather than on a canvas, because
 * only the page applies tabular figures.
 */
export function measureText(text: string, style: RunStyle): number {
  if (text === '') return 0;
  // Figures are tabular: a number is as wide as any other of its form, so a new score need not be measured.
  const form = /^[\d\s:.,#+\u2212-]+$/.test(text) ? text.replace(/\d/g, '0') : text;
  return widthOf(form, style);
}

/** The width of a text as the page lays it out, in px at the style's set size; figures are not taken for each other. */
export function widthOf(form: string, style: RunStyle): number {
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
    ruler.style.font = faceOf(style);
    ruler.style.fontVariantNumeric = 'tabular-nums';
    ruler.style.letterSpacing = `${style.tracking}em`;
    ruler.textContent = form;
    width = ruler.getBoundingClientRect().width;
    if (widths.size > 4000) widths.clear();
    widths.set(key, width);
  }
  return (width / 100) * style.size;
}

/**
 * How far, in px at the set size, a line must move down so that its capitals stand in the middle of it.
 * @param above what another style in the line reaches higher, in px at the set size
 */
export function capShift(style: RunStyle, above = 0): number {
  const { ascent, descent, cap } = metricsOf(style);
  return (((ascent + descent) / 2 - (ascent - cap / 2)) / 100) * style.size - above / 2;
}
