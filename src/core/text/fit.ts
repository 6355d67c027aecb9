/** What a measuring function gives for a text at its set size, in the units of the box. */
export interface TextSize {
  width: number;
  height: number;
}

/** A rectangle, in px. */
export interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** The point of the box from which a text grows and shrinks; `base`: its last line stands where it would at its set size. */
export interface Anchor {
  x: 'left' | 'centre' | 'right';
  y: 'top' | 'middle' | 'bottom' | 'base';
}

/** How far along a box each point of an anchor lies, as a share. */
export const SHARE = { left: 0, centre: 0.5, right: 1, top: 0, middle: 0.5, bottom: 1, base: 1 } as const;

/**
 * What becomes of a text that is too long for its box: all of it smaller; its letters narrower first; more lines, then smaller;
 * or its end cut off.
 */
export const FIT_MODES = ['shrink', 'condense', 'wrap', 'cut'] as const;
export type FitMode = (typeof FIT_MODES)[number];

/** How a text is fitted. */
export interface FitRules {
  mode: FitMode;
  box: { width: number; height: number };
  /** Height of one line at the set size, in px. */
  line: number;
  /** The smallest scale, from 0 to 1: what does not fit at it is cut off. */
  least: number;
  /** How narrow letters may become where they are condensed, as a share of their height's scale: from 0.1 to 1. */
  narrowest: number;
}

/** Width in px, at the set size, of a piece of the text in the style of one of its runs. */
export type MeasureRun = (text: string, run: number) => number;

/** By how much a text is scaled, across and down. */
export interface Scale {
  x: number;
  y: number;
}

/** A piece of a line, in the style of a run. */
export interface LinePiece {
  run: number;
  text: string;
}

/** A text as it is written. */
export interface WrittenText {
  lines: LinePiece[][];
  /** At the set size, in px. */
  size: TextSize;
  /** Its end was cut off. */
  cut: boolean;
}

/** As small as a scale is looked for where no smallest is said. */
const SMALLEST = 0.02;
/** A hair, in px: what is wider by less than this still fits. */
const HAIR = 0.01;

const widthOf = (line: readonly LinePiece[], measure: MeasureRun) =>
  line.reduce((sum, { text, run }) => sum + measure(text, run), 0);

const oneLine = (runs: readonly string[]): LinePiece[] =>
  runs.map((text, run) => ({ run, text: text.replace(/\s*\n\s*/g, ' ') })).filter(({ text }) => text !== '');

/**
 * Breaks a text into lines of at most a width, at its spaces and where it says a new line begins; a word that is wider stands in a
 * line of its own.
 */
export function wrapped(runs: readonly string[], width: number, measure: MeasureRun): LinePiece[][] {
  const lines: LinePiece[][] = [];
  let line: LinePiece[] = [];
  let used = 0;
  /** What may not be torn apart: it may lead through several runs. */
  let word: LinePiece[] = [];
  const put = (piece: LinePiece) => {
    const last = line.at(-1);
    if (last?.run === piece.run) last.text += piece.text;
    else line.push({ ...piece });
    used += measure(piece.text, piece.run);
  };
  const trimmed = () => {
    while (line.length && (line.at(-1)!.text = line.at(-1)!.text.trimEnd()) === '') line.pop();
    lines.push(line);
    line = [];
    used = 0;
  };
  const flush = () => {
    if (word.length === 0) return;
    if (line.length && used + widthOf(word, measure) > width + HAIR) trimmed();
    word.forEach(put);
    word = [];
  };
  runs.forEach((text, run) => {
    for (const part of text.split(/(\n|[^\S\n\u00a0]+)/)) {
      if (part === '') continue;
      if (part === '\n') {
        flush();
        trimmed();
      } else if (/^\s/.test(part) && part !== '\u00a0') {
        flush();
        if (line.length) put({ run, text: part });
      } else word.push({ run, text: part });
    }
  });
  flush();
  trimmed();
  return lines;
}

/**
 * The scale at which a text fits its box: at most 1 (its set size), and never below the smallest that is said. A text without
 * content fits at 1; nothing fits an empty box, at 0.
 */
export function fitScale(runs: readonly string[], measure: MeasureRun, rules: FitRules): Scale {
  const { mode, box, line, narrowest } = rules;
  const width = widthOf(oneLine(runs), measure);
  const least = Math.min(1, rules.least);
  const byHeight = line > 0 ? Math.min(1, box.height / line) : 1;
  const byWidth = width > 0 ? Math.min(1, box.width / width) : 1;
  const atLeast = (n: number) => Math.max(0, least, n);
  if (mode === 'cut') return { x: atLeast(byHeight), y: atLeast(byHeight) };
  if (mode === 'condense') {
    const y = atLeast(Math.min(byHeight, byWidth / narrowest));
    return { x: Math.max(y * narrowest, Math.min(y, byWidth)), y };
  }
  if (mode === 'shrink' || box.width <= 0 || box.height <= 0) {
    const scale = atLeast(Math.min(byHeight, byWidth));
    return { x: scale, y: scale };
  }
  const fits = (scale: number) => {
    const lines = wrapped(runs, box.width / scale, measure);
    return (
      lines.length * line * scale <= box.height + HAIR &&
      lines.every((l) => widthOf(l, measure) * scale <= box.width + HAIR)
    );
  };
  if (fits(1)) return { x: 1, y: 1 };
  let [small, large] = [Math.max(least, SMALLEST), 1];
  while (large - small > 0.001) {
    const middle = (small + large) / 2;
    if (fits(middle)) small = middle;
    else large = middle;
  }
  return { x: small, y: small };
}

/** One scale for several texts, each in its own box: the smallest, so that none differs in size from the others. */
export const sharedScale = (scales: readonly Scale[]): Scale => ({
  x: Math.min(1, ...scales.map((s) => s.x)),
  y: Math.min(1, ...scales.map((s) => s.y)),
});

/** Writes a text at a scale: its lines, and what is cut off of it because it does not fit even so. */
export function writeText(
  runs: readonly string[],
  measure: MeasureRun,
  { mode, box, line }: FitRules,
  scale: Scale,
): WrittenText {
  const width = scale.x > 0 ? box.width / scale.x : Infinity;
  let lines = mode === 'wrap' ? wrapped(runs, width, measure) : [oneLine(runs)];
  let cut = false;
  if (scale.x > 0) {
    const most = mode === 'wrap' ? Math.max(1, Math.floor((box.height + HAIR) / (scale.y * line) + 1e-6)) : 1;
    if (lines.length > most) {
      // What is left over goes on in the last line, to be cut off there.
      lines = [...lines.slice(0, most - 1), lines.slice(most - 1).flat()];
      cut = true;
    }
    lines = lines.map((l, i) => {
      const over = widthOf(l, measure) > width + HAIR / scale.x;
      if (!over && !(cut && i === lines.length - 1)) return l;
      cut = true;
      return shortened(l, width, measure);
    });
  }
  const widest = Math.max(0, ...lines.map((l) => widthOf(l, measure)));
  return { lines, size: { width: widest, height: lines.length * line }, cut };
}

let graphemes: Intl.Segmenter | null = null;

/** A line with as much of its end in place of which an ellipsis stands that it fits a width. */
function shortened(line: readonly LinePiece[], width: number, measure: MeasureRun): LinePiece[] {
  graphemes ??= new Intl.Segmenter(undefined, { granularity: 'grapheme' });
  const signs = line.flatMap(({ run, text }) =>
    [...graphemes!.segment(text)].map(({ segment }) => ({ run, text: segment })),
  );
  const withFirst = (n: number) => {
    const kept: LinePiece[] = [];
    for (const sign of signs.slice(0, n)) {
      const last = kept.at(-1);
      if (last?.run === sign.run) last.text += sign.text;
      else kept.push({ ...sign });
    }
    const last = kept.at(-1);
    if (last) last.text = `${last.text.trimEnd()}…`;
    return last ? kept : [{ run: line[0]?.run ?? 0, text: '…' }];
  };
  let [few, many] = [0, signs.length];
  while (few < many) {
    const middle = Math.ceil((few + many) / 2);
    if (widthOf(withFirst(middle), measure) <= width + HAIR) few = middle;
    else many = middle - 1;
  }
  return withFirst(few);
}

/**
 * Where the scaled text's top left corner lies within its box, so that the anchor point stays put.
 * @param below how far the last line's base is above the text's lower edge at the set size, in px: for anchor `base`
 */
export function placeText(
  text: TextSize,
  box: { width: number; height: number },
  anchor: Anchor,
  scale: Scale,
  below = 0,
): { x: number; y: number } {
  return {
    x: (box.width - text.width * scale.x) * SHARE[anchor.x],
    y:
      (box.height - text.height * scale.y) * SHARE[anchor.y] -
      (anchor.y === 'base' ? below * (1 - scale.y) : 0),
  };
}

/** Below this share of the picture's height a line of type is hard to read: 20 px of 1080. */
export const LEGIBLE = 20 / 1080;

/** Smaller than this share of its set size, or narrower than this share of its height, a text is worth a look. */
export const WORTH_A_LOOK = 0.6;

/** What is wrong with how a text fits, in words that a sentence can go on from: `cut off`, `only 41 % of its size`. */
export function misfit(scale: Scale, cut: boolean): string[] {
  const percent = (share: number) => `${Math.round(share * 100)} %`;
  return [
    ...(cut ? ['cut off'] : []),
    ...(scale.y < WORTH_A_LOOK ? [`only ${percent(scale.y)} of its size`] : []),
    ...(scale.y >= WORTH_A_LOOK && scale.x / scale.y < WORTH_A_LOOK
      ? [`only ${percent(scale.x / scale.y)} of its width`]
      : []),
  ];
}

/** How a text was drawn: in which layer, how it was scaled, how large it is in px of its output, whether some of it is cut off. */
export interface DrawnText {
  layer: string;
  scale: Scale;
  size: number;
  cut: boolean;
}

/** What does not fit as it should, each in a sentence, in a picture so many px high. */
export const misfits = (texts: readonly DrawnText[], pictureHeight: number): string[] =>
  texts.flatMap(({ layer, scale, size, cut }) => {
    const small = size < LEGIBLE * pictureHeight ? ['too small to read'] : [];
    const wrong = [...misfit(scale, cut), ...small];
    return wrong.length ? [`${layer[0]!.toUpperCase()}${layer.slice(1)} is ${wrong.join(' and ')}.`] : [];
  });
