import type { FieldValue, Scalar } from '../../core/board/values.ts';
import type { RunStyle } from '../../core/layers/written.ts';
import type { Game } from '../../core/show/game-doc.ts';
import { fontStack } from '../../core/text/font-stack.ts';
import type { Face } from './faces.ts';
import {
  extremesOf,
  fitCheck,
  fitRecords,
  type FitResult,
  type FitText,
  type Measuring,
} from '../../core/workshop/fit-check.ts';

export type Row = Readonly<Record<string, Scalar>>;

/** What is asked of the worker. */
export interface FitAsked {
  texts: readonly FitText[];
  games: readonly Pick<Game, 'home' | 'away'>[];
  fields: ReadonlyMap<string, FieldValue>;
  tables: ReadonlyMap<string, ReadonlyMap<string, Row>>;
  faces: readonly Face[];
  /** Whether the shortest and the longest content of each text is asked for. */
  extremes: boolean;
  /** What `figuresOf` says of each font and weight, by `figureKey`. */
  figures: ReadonlyMap<string, ReadonlyMap<string, number>>;
}

export interface FitAnswer {
  results: FitResult[];
  /** What `extremesOf` says, where it was asked for. */
  extremes: ReadonlyMap<string, { shortest: string; longest: string }>;
  /** How many contents were tried. */
  tried: number;
  ms: number;
}

export const FIGURES = '0123456789';
/** Signs that numbers have within them. */
export const SIGNS = ':.,-–/+';
/** A number, with what stands between its figures. */
const NUMBER = /(\d+(?:[:.,\-–/+]\d+)*)/;

/** What a font and a weight are known by. */
export const figureKey = (font: string, weight: number) => `${weight} ${font}`;

/** How many results are told, the worst ones. */
const MOST = 300;

/** Faces that are here already: a worker stays for as long as the check is open. */
const loaded = new Set<string>();

async function load(faces: readonly Face[]): Promise<void> {
  const { fonts } = self as unknown as { fonts: FontFaceSet };
  await Promise.allSettled(
    faces.map(async ({ family, source, weight, range }) => {
      const name = `${family} ${source}`;
      if (loaded.has(name)) return;
      const face = new FontFace(family, source, { weight, ...(range && { unicodeRange: range }) });
      await face.load();
      fonts.add(face);
      loaded.add(name);
    }),
  );
}

/**
 * Measures on a canvas. A canvas knows no tabular figures, so each figure is as wide as the page says and what stands between
 * figures is measured by itself.
 */
function canvasMeasuring(figures: FitAsked['figures']): Measuring {
  const context = new OffscreenCanvas(1, 1).getContext('2d')!;
  const widths = new Map<string, number>();
  let set = '';
  const setIn = ({ font, weight, tracking }: RunStyle) => {
    const key = `${weight} ${font} ${tracking}`;
    if (key === set) return key;
    context.font = `${weight} 100px ${fontStack(font)}`;
    // With kerning on, as in the page's layout, spaces are kerned too.
    context.fontKerning = 'normal';
    context.textRendering = 'optimizeLegibility';
    context.letterSpacing = `${tracking * 100}px`;
    set = key;
    return key;
  };
  return {
    width(text, style) {
      const key = `${setIn(style)}\0${text}`;
      let width = widths.get(key);
      if (width === undefined) {
        width = 0;
        const own = figures.get(figureKey(style.font, style.weight));
        const parts = own ? text.split(NUMBER) : [text];
        for (const [i, part] of parts.entries()) {
          if (part === '') continue;
          if (!own || !/^\d/.test(part)) {
            width += context.measureText(part).width;
            continue;
          }
          // Signs of a number may stand nearer to each other, and figures to a space beside the number.
          const beside = `${parts[i - 1]?.endsWith(' ') ? ' ' : ''}${part}${parts[i + 1]?.startsWith(' ') ? ' ' : ''}`;
          for (const sign of part) width += (own.get(sign) ?? 0) + style.tracking * 100;
          for (let n = 1; n < beside.length; n++) width += own.get(beside.slice(n - 1, n + 1)) ?? 0;
        }
        widths.set(key, width);
      }
      return (width * style.size) / 100;
    },
    verticals(style) {
      setIn(style);
      const m = context.measureText('H');
      const share = style.size / 100;
      return { ascent: m.fontBoundingBoxAscent * share, descent: m.fontBoundingBoxDescent * share };
    },
  };
}

/** Asks only how wide some texts are, in px at a style's set size. */
export interface WidthsAsked extends Pick<FitAsked, 'faces' | 'figures'> {
  measure: RunStyle;
  widths: readonly string[];
}

function check(
  { texts, games, fields, tables, extremes: asksExtremes }: FitAsked,
  measuring: Measuring,
): FitAnswer {
  const began = performance.now();
  const ranks = new Map([...tables].map(([key, rows]) => [key, [...rows.values()]] as const));
  const board = {
    field: (key: string) => fields.get(key) ?? null,
    row: (table: string, key: string) => tables.get(table)?.get(key),
    ranked: (table: string, rank: number) => ranks.get(table)?.[rank - 1],
  };
  const results = fitCheck(texts, fitRecords(games, ranks), board, measuring);
  const extremes = asksExtremes ? extremesOf(results, measuring) : new Map<string, never>();
  return { results: results.slice(0, MOST), extremes, tried: results.length, ms: performance.now() - began };
}

self.onmessage = async ({ data }: MessageEvent<FitAsked | WidthsAsked>) => {
  await load(data.faces);
  const measuring = canvasMeasuring(data.figures);
  self.postMessage(
    'measure' in data
      ? data.widths.map((text) => measuring.width(text, data.measure))
      : check(data, measuring),
  );
};
