import { chromium } from '@playwright/test';
import { chromiumOptions } from '../scripts/lib/browser.mjs';
import type { Layer } from '../src/core/layers/kinds.ts';
import type { AirItem } from '../src/core/wire/wire.ts';
import { openStage } from '../tests/support/stage-page.ts';
import { median, quantile, type Figure } from './stats.ts';

const LAYERS = 300;
const SECONDS = 4;

/** Three hundred layers of a designer's day: texts, shapes, and clocks, each bound to something. */
function layerAt(i: number): Layer {
  const at = { x: (i % 20) * 90, y: Math.floor(i / 20) * 60, width: 84, height: 40 };
  const common = { id: `l${i}`, name: `layer ${i}`, ...at };
  const style = { font: 'sans-serif', weight: 600, size: 28, anchorY: 'middle' } as const;
  if (i % 3 === 0) return { kind: 'shape', ...common, fill: '#224466', radius: 6 } as Layer;
  if (i % 3 === 1) return { kind: 'text', ...common, ...style, text: { field: 'x' } } as Layer;
  return { kind: 'clock', ...common, ...style, clock: { field: 'c' } } as Layer;
}

/**
 * A layout of 300 layers that changes 60 times a second, as while a layer is dragged: what each change costs the page until
 * the picture is laid out, beside assigning the same style by hand; and how many of the frames came.
 */
export async function layoutChanged(): Promise<Figure[]> {
  const browser = await chromium.launch(chromiumOptions);
  const page = await browser.newPage({ viewport: { width: 1920, height: 1080 } });
  const layers = Array.from({ length: LAYERS }, (_, i) => layerAt(i));
  const states = Object.fromEntries(
    layers.map((l, i) => [
      l.id,
      l.kind === 'text'
        ? { text: `No. ${i}` }
        : l.kind === 'clock'
          ? { clock: { value: 754_000, running: true, direction: 'down', anchor: Date.now(), until: 0 } }
          : {},
    ]),
  );
  const item = {
    mount: 'm',
    zone: 'z',
    box: { x: 0, y: 0, width: 1920, height: 1080 },
    item: 'one',
    template: 't',
    layout: { key: 'l', width: 1920, height: 1080, layers },
    states,
  } as AirItem;
  await openStage(page, item);
  const taken = await page.evaluate(
    async ([first, seconds]) => {
      const changes: number[] = [];
      const floor: number[] = [];
      const frame = () => new Promise<number>((done) => requestAnimationFrame(done));
      const laidOut = () => document.getElementById('stage')!.getBoundingClientRect().width;
      const el = document.querySelector<HTMLElement>('[data-id="l7"]')!;
      let current = first;
      const from = await frame();
      let frames = 0;
      for (let at = from; at - from < seconds * 1000; at = await frame()) {
        frames++;
        const x = 90 * 7 + (frames % 200);
        const began = performance.now();
        const moved = current.layout.layers.map((l) => (l.id === 'l7' ? { ...l, x } : l));
        current = { ...current, layout: { ...current.layout, layers: moved } };
        window.stage.take(current, false);
        laidOut();
        changes.push(performance.now() - began);
        if (el.style.left !== `${x}px`) throw new Error('The change is not in the picture.');
        const again = performance.now();
        el.style.left = `${x + 1}px`;
        laidOut();
        floor.push(performance.now() - again);
      }
      return { changes, floor, frames };
    },
    [item, SECONDS] as const,
  );
  await browser.close();
  return [
    {
      name: `one property of a layout of ${LAYERS} layers changed, in each frame`,
      value: median(taken.changes),
      p99: quantile(taken.changes, 0.99),
      unit: 'ms',
    },
    { name: 'the same style assigned by hand, bare floor', value: median(taken.floor), unit: 'ms' },
    {
      name: 'a layout changed, against the floor',
      value: median(taken.changes) / median(taken.floor),
      unit: 'times',
      bound: { most: 5 },
    },
    {
      name: 'frames drawn a second while it changes',
      value: taken.frames / SECONDS,
      unit: '',
      bound: { least: 55 },
    },
  ];
}
