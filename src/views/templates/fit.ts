import { useEffect, useRef, useState } from 'react';
import { facesOf } from '../../core/text/families.ts';
import { fontStack } from '../../core/text/font-stack.ts';
import type { Template } from '../../core/documents/template.ts';
import { contentsOf } from '../../core/layers/kinds.ts';
import { stylesOf } from '../../core/layers/written.ts';
import { textsOf } from '../../core/workshop/fit-check.ts';
import { fontsReady } from '../../stage/stage.ts';
import type { Desk, Prepared } from '../shared/desk.ts';
import { figureKey, FIGURES, SIGNS, type FitAnswer, type FitAsked, type Row } from './fit-worker.ts';
import { declaredFaces } from './faces.ts';
import { samplesOf } from './samples.ts';

/** How wide some texts are at 100 px, all measured in one layout of the page. */
function widthsOf(texts: readonly string[], font: string, weight: number): Map<string, number> {
  const place = document.createElement('div');
  place.setAttribute('aria-hidden', 'true');
  place.style.cssText =
    'position:absolute;left:-99999px;top:0;visibility:hidden;white-space:pre;contain:layout style';
  place.style.font = `${weight} 100px ${fontStack(font)}`;
  place.style.fontVariantNumeric = 'tabular-nums';
  const spans = texts.map((text) => {
    const line = document.createElement('div');
    const span = document.createElement('span');
    span.textContent = text;
    line.append(span);
    place.append(line);
    return span;
  });
  document.body.append(place);
  const widths = new Map(texts.map((text, i) => [text, spans[i]!.getBoundingClientRect().width]));
  place.remove();
  return widths;
}

/** What `figuresOf` found, for as long as the page has the same faces. */
const figuresKnown = new Map<string, ReadonlyMap<string, number>>();

/**
 * How wide figures and the signs within numbers are at 100 px in a face, and how much nearer two of them stand than that: by one
 * sign and by two. The page has to have the face.
 */
export function figuresOf(font: string, weight: number): ReadonlyMap<string, number> {
  const key = figureKey(font, weight);
  const before = figuresKnown.get(key);
  if (before) return before;
  const alone = [...FIGURES, ...SIGNS, ' '];
  const pairs = [...FIGURES].flatMap((f) => [...SIGNS, ' '].flatMap((s) => [f + s, s + f]));
  const wide = widthsOf([...alone, ...pairs], font, weight);
  const known = new Map(alone.map((sign) => [sign, wide.get(sign)!]));
  for (const pair of pairs) {
    const nearer = wide.get(pair)! - wide.get(pair[0]!)! - wide.get(pair[1]!)!;
    if (Math.abs(nearer) > 0.01) known.set(pair, nearer);
  }
  figuresKnown.set(key, known);
  return known;
}

/** Lets the page draw a frame before more is done. */
const frame = () => new Promise((go) => requestAnimationFrame(() => setTimeout(go)));

/** What the worker needs to try these templates with all that the league and the tables have. */
export async function askedOf(
  desk: Desk,
  snapshot: Pick<Prepared, 'documents'>,
  templates: readonly Template[],
  extremes: boolean,
): Promise<FitAsked> {
  await fontsReady(facesOf(templates.flatMap((t) => t.layouts)));
  const { game: games, output: outputs } = snapshot.documents;
  const board = desk.tables.list();
  const tables = new Map(board.map((t) => [t.key, new Map<string, Row>(t.rows)] as const));
  const texts = textsOf(
    templates,
    (key) =>
      samplesOf(
        templates.find((t) => t.key === key)!,
        snapshot.documents.item.find((i) => i.template === key)?.inputs,
      ),
    (key) => {
      const item = snapshot.documents.item.find((i) => i.template === key);
      return outputs.find((o) => o.key === item?.zones[0]?.output)?.height ?? outputs[0]?.height ?? null;
    },
  );
  const styles = texts.flatMap((t) => stylesOf(contentsOf(t.layer)));
  const figures = new Map<string, ReadonlyMap<string, number>>();
  for (const { font, weight } of styles) {
    const key = figureKey(font, weight);
    if (figures.has(key)) continue;
    if (!figuresKnown.has(key)) await frame();
    figures.set(key, figuresOf(font, weight));
  }
  await frame();
  return {
    texts,
    games,
    extremes,
    fields: new Map([...desk.store.getState().fields.keys()].map((key) => [key, desk.read(key)])),
    tables,
    faces: declaredFaces(new Set(styles.map((s) => s.font))),
    figures,
  };
}

/**
 * The fit check of templates, worked out beside the page. It runs again by itself a moment after a template, a roster or a
 * table is another.
 */
export function useFitCheck(
  desk: Desk,
  snapshot: Pick<Prepared, 'documents'>,
  templates: readonly Template[],
  tables: unknown,
  extremes = false,
): { answer: FitAnswer | null; busy: boolean; problem: string } {
  const [answer, setAnswer] = useState<FitAnswer | null>(null);
  const [busy, setBusy] = useState(true);
  const [problem, setProblem] = useState('');
  const { game } = snapshot.documents;
  const worker = useRef<Worker | null>(null);
  useEffect(
    () => () => {
      worker.current?.terminate();
      worker.current = null;
    },
    [],
  );
  useEffect(() => {
    let gone = false;
    setBusy(true);
    const failed = () => {
      if (gone) return;
      setProblem('The check could not run in this browser.');
      setBusy(false);
    };
    const ask = async () => {
      const asked = await askedOf(desk, snapshot, templates, extremes);
      if (gone) return;
      worker.current ??= new Worker(new URL('./fit-worker.ts', import.meta.url), { type: 'module' });
      worker.current.onmessage = ({ data }: MessageEvent<FitAnswer>) => {
        // Answers come in the order in which they were asked for: one to an older state is better than none.
        setAnswer(data);
        setProblem('');
        if (!gone) setBusy(false);
      };
      worker.current.onerror = failed;
      worker.current.postMessage(asked);
    };
    const timer = setTimeout(() => void ask().catch(failed), 300);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
    // oxlint-disable-next-line react/exhaustive-deps -- of the snapshot only people and templates change what fits
  }, [desk, game, templates, tables, extremes]);
  return { answer, busy, problem };
}
