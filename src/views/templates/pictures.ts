import { toBlob } from 'html-to-image';
import type { Scalar } from '../../core/board/values.ts';
import { layersOf, type Layer, type LayerProps, type Layout } from '../../core/layers/kinds.ts';
import type { BoardReader } from '../../core/resolve/dependents.ts';
import { Resolver } from '../../core/resolve/resolver.ts';
import { facesOf } from '../../core/text/families.ts';
import { around } from '../../core/workshop/boxes.ts';
import { boxOf, originOf, outermost } from '../../core/workshop/tree.ts';
import { fontsReady, Stage } from '../../stage/stage.ts';
import type { Desk } from '../shared/desk.ts';
import { showAlone } from '../shared/own-stage.ts';
import type { SvgMade } from './svg-out.ts';

/** The layout with each box as its Values say now. */
function boxed(layout: Layout, states: Readonly<Record<string, LayerProps>>): Layout {
  const copy = structuredClone(layout);
  for (const layer of layersOf(copy.layers))
    for (const side of ['x', 'y', 'width', 'height'] as const) {
      const now = states[layer.id]?.[side];
      if (typeof now === 'number') layer[side] = now;
    }
  return copy;
}

/**
 * The layout with the chosen layers alone, as large as they are now; null where none is chosen. What masks them is there, but
 * does not show.
 */
export function cutOut(
  desk: Desk,
  { layout, inputs, board }: Drawn,
  chosen: ReadonlySet<string>,
): Layout | null {
  if (chosen.size === 0) return null;
  const states = new Resolver(board ?? desk, desk.picture).mount('part', layout, inputs);
  const { layers: all } = boxed(layout, states);
  const placed = (layer: Layer) => {
    const from = originOf(all, layer.id);
    const box = boxOf(layer);
    return { layer, box: { ...box, x: box.x + from.x, y: box.y + from.y } };
  };
  const parts = outermost(all, chosen).map(placed);
  const whole = around(parts.map((p) => p.box));
  if (!whole) return null;
  const inside = [...layersOf(parts.map((p) => p.layer))];
  const masks = [...layersOf(all)]
    .filter((l) => inside.some((i) => i.mask === l.id) && !inside.includes(l))
    .map((l) => placed({ ...l, shows: false }));
  return {
    key: `${layout.key}-part`,
    width: Math.max(1, Math.ceil(whole.width)),
    height: Math.max(1, Math.ceil(whole.height)),
    layers: [...masks, ...parts].map(({ layer, box }): Layer => ({
      ...layer,
      x: box.x - whole.x,
      y: box.y - whole.y,
    })),
  };
}

/** What is drawn for a file. */
export interface Drawn {
  layout: Layout;
  inputs: Record<string, Scalar>;
  /** What is read in the place of the board; null: the board. */
  board: BoardReader | null;
}

/** Draws a layout out of sight, has something made of what was drawn, and takes it away. */
async function made<T>(
  desk: Desk,
  { layout, inputs, board }: Drawn,
  make: (root: HTMLElement, states: Record<string, LayerProps>) => Promise<T>,
): Promise<T> {
  await fontsReady(facesOf([layout]));
  const holder = document.createElement('div');
  Object.assign(holder.style, { position: 'fixed', left: '-30000px', top: '0', pointerEvents: 'none' });
  const root = document.createElement('div');
  holder.append(root);
  document.body.append(holder);
  const stage = new Stage(root, desk.link.serverNow);
  try {
    const states = showAlone(stage, new Resolver(board ?? desk, desk.picture), {
      name: 'picture',
      layout,
      inputs,
    });
    stage.hold();
    await document.fonts.ready;
    await stage.ready();
    return await make(root, states);
  } finally {
    stage.destroy();
    holder.remove();
  }
}

/**
 * A layout as a PNG of its exact size, with alpha, as the stage draws it.
 * @throws where the page cannot draw it
 */
export function pictureOf(desk: Desk, drawn: Drawn): Promise<Blob> {
  const { width, height } = drawn.layout;
  return made(desk, drawn, async (root) => {
    // Names are no part of it, and may have signs that no document can carry.
    for (const el of root.querySelectorAll<HTMLElement>('[data-layer]')) el.removeAttribute('data-layer');
    const blob = await toBlob(root, { width, height, pixelRatio: 1, cacheBust: false });
    if (!blob) throw new Error('The page gave no picture.');
    return blob;
  });
}

/** A layout as an SVG drawing, and what that could not keep. */
export const drawingOf = (desk: Desk, drawn: Drawn): Promise<SvgMade> =>
  made(desk, drawn, async (root, states) => {
    const { svgOf } = await import('./svg-out.ts');
    return svgOf(root, drawn.layout, states);
  });

/** Several files in one. */
export async function zipped(files: readonly { name: string; blob: Blob }[]): Promise<Blob> {
  const { zipSync } = await import('fflate');
  const entries = await Promise.all(
    files.map(async ({ name, blob }) => [name, new Uint8Array(await blob.arrayBuffer())] as const),
  );
  // Pictures are compressed already.
  return new Blob([zipSync(Object.fromEntries(entries), { level: 0 })], { type: 'application/zip' });
}
