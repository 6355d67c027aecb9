import { boxPath, fadeLine } from '../../core/layers/outline.ts';
import { drawable } from '../../core/layers/written.ts';
import { contentsOf, layersOf, type Layer, type LayerProps, type Layout } from '../../core/layers/kinds.ts';
import { cornerOf } from '../../stage/layers/base.ts';
import { numberIn, textIn } from '../../stage/layers/content.ts';
import { fittedIn } from '../../stage/layers/picture.ts';
import { outlineOf, svg } from '../../stage/layers/outline.ts';
import { radiiOf, stopsOf } from '../../stage/layers/shape.ts';
import { carriedFaces, dataOf } from './faces.ts';
import { SvgTexts } from './svg-out-text.ts';

/** A drawing made of a layout, and in sentences what it could not keep. */
export interface SvgMade {
  svg: string;
  lost: string[];
}

/**
 * A layout as an SVG drawing: shapes are shapes, texts are texts in their fonts, which it carries, pictures stand in it. It is
 * written from the stage's own picture, so that every letter stands where it goes to air.
 * @param root where the stage drew the layout, unturned and at its own size
 * @param states what the layers' Values say, by the layers' ids
 */
export async function svgOf(
  root: HTMLElement,
  layout: Layout,
  states: Readonly<Record<string, LayerProps>>,
): Promise<SvgMade> {
  const writer = new Writer(root, layout, states);
  return writer.write();
}

type Three = [number, number, number];

/** How large a layer is, in px. */
const sizeOf = (props: LayerProps) => ({
  width: numberIn(props['width']),
  height: numberIn(props['height']),
});

class Writer {
  private readonly defs = svg('defs');
  private readonly lost = new Set<string>();
  private readonly byId: Map<string, Layer>;
  private readonly texts = new SvgTexts();
  private ids = 0;
  /** Pictures that are still to be put in, each as its own content. */
  private readonly pictures: Promise<void>[] = [];

  constructor(
    private readonly root: HTMLElement,
    private readonly layout: Layout,
    private readonly states: Readonly<Record<string, LayerProps>>,
  ) {
    this.byId = new Map([...layersOf(layout.layers)].map((l) => [l.id, l]));
    // What is turned is measured upright.
    for (const el of root.querySelectorAll<HTMLElement>('[data-id]')) el.style.rotate = 'none';
  }

  async write(): Promise<SvgMade> {
    const { width, height, layers } = this.layout;
    const all = svg('svg', {
      xmlns: 'http://www.w3.org/2000/svg',
      width,
      height,
      viewBox: `0 0 ${width} ${height}`,
    });
    const drawn = layers.flatMap((layer) => this.layer(layer) ?? []);
    await Promise.all(this.pictures);
    const style = document.createElementNS('http://www.w3.org/2000/svg', 'style');
    style.textContent = await carriedFaces(this.texts.written);
    all.append(style, this.defs, ...drawn);
    return { svg: new XMLSerializer().serializeToString(all), lost: [...this.lost] };
  }

  private propsOf(layer: Layer): LayerProps {
    return { ...contentsOf(layer), ...this.states[layer.id] };
  }

  private elementOf(layer: Layer): HTMLElement | null {
    return this.root.querySelector<HTMLElement>(`[data-id="${CSS.escape(layer.id)}"]`);
  }

  /** Puts something among what is named, and gives how it is asked for. */
  private defined(el: SVGElement): string {
    el.id = `d${++this.ids}`;
    this.defs.append(el);
    return `url(#${el.id})`;
  }

  /** A layer where it stands; null for one that does not show. */
  private layer(layer: Layer): SVGElement | null {
    const el = this.elementOf(layer);
    if (!el || el.style.display === 'none') return null;
    const props = this.propsOf(layer);
    const [x, y, w, h, turn] = ['x', 'y', 'width', 'height', 'rotation'].map((p) => numberIn(props[p]));
    const group = svg('g', {
      'data-name': drawable(layer.name),
      transform: `translate(${x} ${y})${turn ? ` rotate(${turn} ${w! / 2} ${h! / 2})` : ''}`,
    });
    if (numberIn(props['opacity']) !== 1) group.setAttribute('opacity', String(props['opacity']));
    if (props['shadow']) group.setAttribute('filter', this.shadow(props, w!, h!));
    this.masked(layer, props, group).append(...this.content(layer, props, el));
    return group;
  }

  /** Wraps what a mask holds back: gives where the content goes, already in the group. */
  private masked(layer: Layer, props: LayerProps, group: SVGElement): SVGElement {
    let within = group;
    const into = (mask: string) => {
      const inner = svg('g', { mask });
      within.append(inner);
      within = inner;
    };
    const { width: w, height: h } = sizeOf(props);
    for (const [from, to, along] of [
      ['softLeft', 'softRight', 'x'],
      ['softTop', 'softBottom', 'y'],
    ] as const) {
      const [a, b] = [numberIn(props[from]), numberIn(props[to])];
      if (a || b) into(this.softMask(w, h, a, b, along));
    }
    const source = this.byId.get(textIn(props['mask']));
    if (source && source.id !== layer.id) into(this.mask(layer, source, props));
    return within;
  }

  private softMask(w: number, h: number, from: number, until: number, along: 'x' | 'y'): string {
    const length = along === 'x' ? w : h;
    const fade = svg('linearGradient', {
      ...{ x1: 0, y1: 0 },
      ...(along === 'x' ? { x2: 1, y2: 0 } : { x2: 0, y2: 1 }),
    });
    for (const [at, opacity] of [
      [0, from ? 0 : 1],
      [from / length, 1],
      [1 - until / length, 1],
      [1, until ? 0 : 1],
    ] as const)
      fade.append(svg('stop', { offset: at, 'stop-color': '#fff', 'stop-opacity': opacity }));
    const mask = svg('mask', { maskUnits: 'userSpaceOnUse', x: 0, y: 0, width: w, height: h });
    mask.append(svg('rect', { width: w, height: h, fill: this.defined(fade) }));
    return this.defined(mask);
  }

  /** Another layer as a mask of this one, in this one's own px. */
  private mask(layer: Layer, source: Layer, props: LayerProps): string {
    const [here, there] = [layer, source].map((l) => this.elementOf(l));
    const whole = { x: 0, y: 0, ...sizeOf(props) };
    const mask = svg('mask', { maskUnits: 'userSpaceOnUse', ...whole });
    if (here && there) {
      const [from, to] = [cornerOf(here), cornerOf(there)];
      const shape: LayerProps = { ...this.propsOf(source), border: 0, fillTo: '' };
      const { width, height } = sizeOf(shape);
      const turn = numberIn(shape['rotation']);
      const placed = svg('g', {
        transform: `translate(${to.x - from.x} ${to.y - from.y}) rotate(${turn} ${width / 2} ${height / 2})`,
      });
      // As on the stage: what is neither a shape nor a picture masks as its box.
      placed.append(
        ...(source.kind === 'shape' || source.kind === 'picture'
          ? this.content(source, shape, there)
          : [svg('rect', { width, height })]),
      );
      const inverted = props['maskInvert'] === true;
      const by = props['maskBy'] === 'brightness' ? BRIGHT : ALPHA;
      const filter = svg('filter', {
        filterUnits: 'userSpaceOnUse',
        'color-interpolation-filters': 'sRGB',
        ...whole,
      });
      filter.append(svg('feColorMatrix', { values: inverted ? by.inverted : by.plain }));
      const all = svg('g', { filter: this.defined(filter) });
      all.append(placed);
      mask.append(all);
    }
    return this.defined(mask);
  }

  private shadow(props: LayerProps, w: number, h: number): string {
    const [dx, dy, blur] = [props['shadowX'], props['shadowY'], props['shadowBlur']].map(numberIn) as Three;
    const far = Math.abs(dx) + Math.abs(dy) + 2 * blur + Math.max(w, h);
    const filter = svg('filter', {
      filterUnits: 'userSpaceOnUse',
      'color-interpolation-filters': 'sRGB',
      ...{ x: -far, y: -far, width: w + 2 * far, height: h + 2 * far },
    });
    filter.append(
      svg('feDropShadow', { dx, dy, stdDeviation: blur / 2, 'flood-color': textIn(props['shadow']) }),
    );
    return this.defined(filter);
  }

  private content(layer: Layer, props: LayerProps, el: HTMLElement): SVGElement[] {
    switch (layer.kind) {
      case 'shape':
        return [this.shape(props)];
      case 'line':
        return [
          svg('line', {
            ...{ x1: numberIn(props['fromX']), y1: numberIn(props['fromY']) },
            ...{ x2: numberIn(props['toX']), y2: numberIn(props['toY']) },
            stroke: textIn(props['colour']),
            'stroke-width': numberIn(props['thickness']),
            ...(props['dash'] ? { 'stroke-dasharray': textIn(props['dash']) } : {}),
          }),
        ];
      case 'pips':
        return [...el.querySelectorAll<HTMLElement>('i')].map((lamp) => lampOf(lamp, el));
      case 'picture':
        return this.picture(layer, props, el);
      case 'text':
      case 'clock':
        return this.texts.of(el);
      case 'group':
      case 'one-of': {
        const parts = layer.layers.flatMap((l) => this.layer(l) ?? []);
        if (props['clip'] !== true) return parts;
        const clip = svg('clipPath');
        clip.append(svg('rect', sizeOf(props)));
        const clipped = svg('g', { 'clip-path': this.defined(clip) });
        clipped.append(...parts);
        return [clipped];
      }
    }
  }

  private shape(props: LayerProps): SVGElement {
    const { width: w, height: h } = sizeOf(props);
    const border = numberIn(props['border']);
    const [fill, to] = [textIn(props['fill']), textIn(props['fillTo'])];
    const outline = outlineOf(props);
    const stroke = { fill: 'none', stroke: textIn(props['borderColour']), 'stroke-width': border };
    const lean = numberIn(props['slant']);
    const leaning = lean ? `translate(0 ${h / 2}) skewX(${-lean}) translate(0 ${-h / 2})` : '';
    /** The fill, and the border over it: in one where what lies under the border is not seen. */
    const both = (make: (inset: number) => SVGElement, look: Record<string, string | number>) => {
      const one = border > 0 && !to && /^#([\da-f]{3}|[\da-f]{6})$/i.test(stroke.stroke);
      const parts = one
        ? [{ inset: border / 2, look: { ...stroke, ...look } }]
        : [{ inset: 0, look }, ...(border ? [{ inset: border / 2, look: stroke }] : [])];
      const drawn = parts.map((part) => {
        const el = make(part.inset);
        for (const [name, value] of Object.entries(part.look)) el.setAttribute(name, String(value));
        return el;
      });
      const [only, ...more] = drawn;
      if (more.length === 0) {
        const own = only!.getAttribute('transform') ?? '';
        if (leaning) only!.setAttribute('transform', `${leaning} ${own}`.trim());
        return only!;
      }
      const all = svg('g', leaning ? { transform: leaning } : {});
      all.append(...drawn);
      return all;
    };
    if (outline !== null) {
      const turn = numberIn(props['fillAngle']) - 90;
      const fade = svg('linearGradient', { gradientTransform: `rotate(${turn} .5 .5)` });
      const scaled = {
        d: outline,
        transform: `scale(${w / 100} ${h / 100})`,
        'vector-effect': 'non-scaling-stroke',
        'stroke-linejoin': 'round',
      };
      // Its border lies half outside.
      return both(() => svg('path', scaled), { fill: to ? this.fade(fade, fill, to) : fill || 'none' });
    }
    const line = fadeLine(w, h, numberIn(props['fillAngle']));
    const fade = svg('linearGradient', {
      gradientUnits: 'userSpaceOnUse',
      ...{ x1: line.from.x, y1: line.from.y, x2: line.to.x, y2: line.to.y },
    });
    const filled = { fill: to ? this.fade(fade, fill, to) : fill || 'none' };
    if (props['shape'] !== 'ellipse')
      return both((inset) => svg('path', { d: boxPath(w, h, radiiOf(props), inset) }), filled);
    const round = (inset: number) =>
      svg('ellipse', {
        ...{ cx: w / 2, cy: h / 2 },
        ...{ rx: Math.max(0, w / 2 - inset), ry: Math.max(0, h / 2 - inset) },
      });
    return both(round, filled);
  }

  private fade(fade: SVGLinearGradientElement, fill: string, to: string): string {
    fade.append(...stopsOf(fill, to));
    return this.defined(fade);
  }

  private picture(layer: Layer, props: LayerProps, el: HTMLElement): SVGElement[] {
    const shown = el.querySelector('img');
    if (!shown) {
      if (el.querySelector('video')) this.lost.add(`${layer.name} is a loop: it is left out.`);
      return [];
    }
    // Placed by its own size: a drawing within a drawing would fit itself in as it says itself.
    const own = { width: shown.naturalWidth, height: shown.naturalHeight };
    const image = svg('image', { ...fittedIn(props, own), preserveAspectRatio: 'none' });
    const within = svg('svg', sizeOf(props));
    within.append(image);
    this.pictures.push(
      dataOf(shown.src).then(
        (href) => image.setAttribute('href', href),
        () => void this.lost.add(`The picture of ${layer.name} could not be had.`),
      ),
    );
    return [within];
  }
}

/** How a mask is made of what is drawn: white where it shows, by where that is or by how bright it is; or the other way round. */
const ALPHA = {
  plain: '0 0 0 1 0  0 0 0 1 0  0 0 0 1 0  0 0 0 0 1',
  inverted: '0 0 0 -1 1  0 0 0 -1 1  0 0 0 -1 1  0 0 0 0 1',
};
const BRIGHT = {
  plain: '1 0 0 0 0  0 1 0 0 0  0 0 1 0 0  0 0 0 1 0',
  inverted: '-1 0 0 0 1  0 -1 0 0 1  0 0 -1 0 1  0 0 0 0 1',
};

/** A lamp as the page has it. */
function lampOf(lamp: HTMLElement, within: HTMLElement): SVGElement {
  const [box, from] = [lamp.getBoundingClientRect(), within.getBoundingClientRect()];
  const [x, y, w, h] = [box.left - from.left, box.top - from.top, box.width, box.height];
  const { backgroundColor: fill, borderRadius, clipPath } = getComputedStyle(lamp);
  if (clipPath !== 'none')
    return svg('path', {
      fill,
      d: `M${x + w / 2} ${y}l${w / 2} ${h / 2}l${-w / 2} ${h / 2}l${-w / 2} ${-h / 2}Z`,
    });
  const round = borderRadius.endsWith('%') ? Math.min(w, h) / 2 : Number.parseFloat(borderRadius) || 0;
  return svg('rect', { x, y, width: w, height: h, rx: round, fill });
}
