import type { FitMode, FitRules } from '../text/fit.ts';
import { numberIn, textIn } from './content.ts';
import type { LayerProps } from './kinds.ts';

/** What a run of a text is written in. */
export interface RunStyle {
  font: string;
  weight: number;
  /** The set size in px: a text is drawn at it, or smaller where it does not fit. */
  size: number;
  /** Space between letters, in em. */
  tracking: number;
}

/** How far a line of a style reaches above and below its base, in px at the set size. */
export interface Verticals {
  ascent: number;
  descent: number;
}

/** The properties by which a text says something, in the order of its runs; a clock has none of them. */
export const PARTS = ['text', 'text2', 'text3', 'text4'] as const;

/** The styles of a text's runs, the first of which is the text itself; of a clock the first counts. */
export function stylesOf(props: LayerProps): RunStyle[] {
  const size = numberIn(props['size']);
  const main: RunStyle = {
    font: textIn(props['font']),
    weight: numberIn(props['weight']),
    size,
    tracking: numberIn(props['tracking']),
  };
  const more = [2, 3, 4].map((n) => ({
    ...main,
    font: textIn(props[`font${n}`]) || main.font,
    weight: numberIn(props[`weight${n}`]),
    size: size * numberIn(props[`size${n}`]),
  }));
  return [main, ...more];
}

/** Signs that nobody writes and no font draws, but which a feed may bring: control characters but for tab and new line. */
const UNSEEN = /[^\P{Cc}\t\n]|[\ufffe\uffff]/gu;

/** A text without the signs that cannot be drawn, nor written in XML (XML 1.0, section 2.2). */
export const drawable = (text: string): string => text.replace(UNSEEN, '');

/** What a text says, run by run, without blank ones at its end; in capitals where it is told so. */
export function runsOf(said: readonly string[], upper: boolean): string[] {
  const runs = said.map((text) => drawable(upper ? text.toLocaleUpperCase() : text));
  while (runs.length > 1 && runs.at(-1) === '') runs.pop();
  return runs;
}

/**
 * How high a line is in which some styles stand, and how far the tallest reaches above the first, in px at the set size.
 * @param all of the styles that something is written in, the first one always
 */
export function lineOf(all: readonly Verticals[]): { height: number; above: number } {
  const [main, ...more] = all as [Verticals, ...Verticals[]];
  const above = Math.max(0, ...more.map((v) => v.ascent - main.ascent));
  return { above, height: main.ascent + above + Math.max(main.descent, ...more.map((v) => v.descent)) };
}

/**
 * How a text is fitted, as its properties say.
 * @param height of one line, in px at the set size
 */
export function rulesOf(props: LayerProps, height: number): FitRules {
  const [width, tall] = [numberIn(props['width']), numberIn(props['height'])];
  const mode = (textIn(props['fit']) || 'shrink') as FitMode;
  const size = numberIn(props['size']);
  return {
    mode,
    box: {
      width: Math.max(0, width - 2 * numberIn(props['marginX'])),
      height: Math.max(0, tall - 2 * numberIn(props['marginY'])),
    },
    line: height * (mode === 'wrap' ? numberIn(props['lineHeight']) || 1 : 1),
    least: size > 0 ? numberIn(props['least']) / size : 0,
    narrowest: numberIn(props['narrowest']) || 1,
  };
}
