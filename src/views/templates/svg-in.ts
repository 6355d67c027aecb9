import createPurifier from 'dompurify';
import svgpath from 'svgpath';
import type { SvgPart } from '../../core/workshop/svg.ts';
import { hex, length } from './svg-look.ts';
import { linesOf } from './svg-text.ts';

/** A drawing as it was read, with what of it could not be kept. */
export interface SvgRead {
  width: number;
  height: number;
  parts: SvgPart[];
  /** Each a sentence; none twice. */
  lost: string[];
}

const BIGGEST = 5_000_000;
const MOST = 3000;
/** What layers have nothing for; it is left out and said. */
const UNKNOWN: Record<string, string> = {
  foreignObject: 'page content within the drawing',
  pattern: 'patterns',
  textPath: 'text along a path',
  animate: 'movement',
  animateTransform: 'movement',
  animateMotion: 'movement',
  set: 'movement',
  marker: 'arrow heads and other markers',
  script: 'scripts',
};

/**
 * Reads a drawing with the browser's own eyes: where it draws a shape or a text is where the layer stands. Nothing of it runs,
 * and nothing is fetched. `fonts` are the families that there are, by name. Throws an error with a sentence where it is no drawing.
 */
export function readSvg(source: string, fonts: readonly string[]): SvgRead {
  if (source.length > BIGGEST) throw new Error('A drawing is at most 5 MB');
  const parsed = new DOMParser().parseFromString(source, 'image/svg+xml');
  if (parsed.querySelector('parsererror') || parsed.documentElement.localName !== 'svg')
    throw new Error('This is no SVG drawing that can be read');
  const lost = new Set<string>();
  for (const [name, words] of Object.entries(UNKNOWN))
    if (parsed.getElementsByTagNameNS('*', name).length) lost.add(`${sentence(words)} are left out.`);
  // Labels of drawing programs stand in attributes of their own, which cleaning takes away.
  for (const el of parsed.querySelectorAll('*')) {
    const label = [...el.attributes].find((a) => a.localName === 'label' && a.prefix)?.value;
    if (label) el.setAttribute('data-label', label);
  }
  const sheets = [...parsed.querySelectorAll('style')].map((s) => s.textContent);
  const clean = createPurifier(window).sanitize(parsed.documentElement.outerHTML, {
    USE_PROFILES: { svg: true, svgFilters: true },
    ADD_TAGS: ['use'],
    FORBID_TAGS: ['style', 'script', 'foreignObject'],
    RETURN_DOM: true,
  }) as Element;
  const svg = (clean.localName === 'svg' ? clean : clean.querySelector('svg')) as SVGSVGElement | null;
  if (!svg) throw new Error('This is no SVG drawing that can be read');
  // Nothing is fetched: what stands outside of the file is taken out before the drawing comes into the page.
  for (const el of svg.querySelectorAll('*'))
    for (const { name, value } of [...el.attributes])
      if (/href$/.test(name) && !/^\s*(#|data:image\/)/i.test(value)) el.removeAttribute(name);
  const host = document.createElement('div');
  host.style.cssText = 'position:absolute;left:-99999px;top:0;width:0;height:0;overflow:hidden';
  const root = host.attachShadow({ mode: 'open' });
  root.adoptedStyleSheets = sheets.flatMap((text) => {
    const sheet = new CSSStyleSheet();
    try {
      sheet.replaceSync(text);
      return [sheet];
    } catch {
      return [];
    }
  });
  const drawn = document.importNode(svg, true);
  root.append(drawn);
  document.body.append(host);
  try {
    const reader = new Reader(drawn, fonts, lost);
    return { ...reader.size, parts: reader.read(drawn), lost: [...lost] };
  } finally {
    host.remove();
  }
}

const sentence = (words: string) => words[0]!.toUpperCase() + words.slice(1);
const KAPPA_FREE = (cx: number, cy: number, rx: number, ry: number) =>
  `M${cx - rx} ${cy}A${rx} ${ry} 0 1 0 ${cx + rx} ${cy}A${rx} ${ry} 0 1 0 ${cx - rx} ${cy}Z`;

/** Where a box stands in the drawing, and so much larger on each side. */
const placed = (b: DOMRect, m: DOMMatrix, grown = 0): SvgPart['box'] => ({
  x: b.x * m.a + m.e - grown,
  y: b.y * m.d + m.f - grown,
  width: b.width * Math.abs(m.a) + 2 * grown,
  height: b.height * Math.abs(m.d) + 2 * grown,
});

class Reader {
  readonly size: { width: number; height: number };
  private count = 0;
  private readonly scratch: SVGPathElement;

  constructor(
    private readonly svg: SVGSVGElement,
    private readonly fonts: readonly string[],
    private readonly lost: Set<string>,
  ) {
    const view = svg.viewBox.baseVal;
    const width = (view && view.width) || length(svg.getAttribute('width')) || 300;
    const height = (view && view.height) || length(svg.getAttribute('height')) || 150;
    this.size = { width, height };
    // One unit of the drawing is one px.
    svg.setAttribute('width', String(width));
    svg.setAttribute('height', String(height));
    svg.removeAttribute('preserveAspectRatio');
    // Styles within attributes are set by their own way: the page's policy lets in none that are written.
    for (const el of svg.querySelectorAll<SVGElement>('[style]'))
      el.style.cssText = el.getAttribute('style')!;
    for (const use of [...svg.querySelectorAll('use')]) this.expand(use);
    this.scratch = document.createElementNS('http://www.w3.org/2000/svg', 'path');
    svg.append(this.scratch);
  }

  /** Puts what a `use` names in its place. */
  private expand(use: SVGUseElement): void {
    const id = (use.getAttribute('href') ?? use.getAttribute('xlink:href') ?? '').replace(/^#/, '');
    const of = id ? this.svg.querySelector(`[id="${CSS.escape(id)}"]`) : null;
    if (!of || of.contains(use) || of.querySelector('use')) {
      this.lost.add('A part that names another part is left out.');
      return use.remove();
    }
    const group = document.createElementNS('http://www.w3.org/2000/svg', 'g');
    for (const { name, value } of [...use.attributes])
      if (!/href$|^(x|y|width|height)$/.test(name)) group.setAttribute(name, value);
    const shift = `translate(${length(use.getAttribute('x'))} ${length(use.getAttribute('y'))})`;
    group.setAttribute('transform', `${use.getAttribute('transform') ?? ''} ${shift}`);
    const copy = of.cloneNode(true) as Element;
    copy.removeAttribute('id');
    group.append(...(copy.localName === 'symbol' ? [...copy.childNodes] : [copy]));
    use.replaceWith(group);
  }

  read(parent: Element): SvgPart[] {
    return [...parent.children].flatMap((el) => {
      if (++this.count > MOST) throw new Error('A drawing has at most 3,000 parts');
      return this.part(el as SVGGraphicsElement) ?? [];
    });
  }

  private part(el: SVGGraphicsElement): SvgPart | SvgPart[] | null {
    if (el === (this.scratch as Element) || !('getCTM' in el)) return null;
    const style = getComputedStyle(el);
    if (style.display === 'none' || style.visibility === 'hidden') return null;
    for (const [prop, words] of [
      ['clip-path', 'is cut out by another shape'],
      ['mask', 'has a mask'],
      ['filter', 'has an effect such as a blur'],
    ] as const) {
      const said = style.getPropertyValue(prop);
      if (said && !said.startsWith('none')) this.lost.add(`${this.nameOf(el)} ${words}: that is left out.`);
    }
    const opacity = Number(style.opacity);
    const common = opacity < 1 ? { opacity } : {};
    switch (el.localName) {
      case 'svg':
      case 'g':
      case 'a': {
        const parts = this.read(el);
        if (parts.length === 0) return null;
        // A group of one that adds nothing is what it holds, by the name that was given to either.
        const [only, ...more] = parts;
        if (more.length === 0 && opacity >= 1)
          return {
            ...only!,
            name: this.saidOf(el.querySelector(':scope > *')!) || this.saidOf(el) || only!.name,
          };
        return {
          kind: 'group',
          name: this.nameOf(el),
          box: { x: 0, y: 0, ...this.size },
          props: common,
          parts,
        };
      }
      case 'text':
        return linesOf(el as SVGTextElement, this.nameOf(el), this.matrix(el), common, this.fonts, this.lost);
      case 'image':
        return this.picture(el as SVGImageElement, common);
      case 'line':
      case 'rect':
      case 'circle':
      case 'ellipse':
      case 'polygon':
      case 'polyline':
      case 'path':
        return this.shape(el as SVGGeometryElement, style, common);
      default:
        return null;
    }
  }

  /** The name that a part was given; blank where it has none. */
  private saidOf(el: Element): string {
    const title = [...el.children].find((c) => c.localName === 'title')?.textContent?.trim();
    return el.getAttribute('data-label') || el.getAttribute('data-name') || title || el.id;
  }

  private nameOf(el: Element): string {
    const said = this.saidOf(el);
    const words = el.localName === 'text' ? el.textContent.replace(/\s+/g, ' ').trim().slice(0, 40) : '';
    return said || words || { g: 'Group', image: 'Picture', line: 'Line' }[el.localName] || 'Shape';
  }

  private matrix(el: SVGGraphicsElement): DOMMatrix {
    const { a, b, c, d, e, f } = el.getCTM()!;
    return new DOMMatrix([a, b, c, d, e, f]);
  }

  /** What an outline is filled and bordered with. */
  private look(el: SVGGraphicsElement, style: CSSStyleDeclaration, scale: number): Record<string, unknown> {
    const fill = this.fillOf(el, style);
    const stroke = hex(style.stroke, style.strokeOpacity);
    const border = stroke ? length(style.strokeWidth) * scale : 0;
    if (stroke && style.strokeDasharray !== 'none' && el.localName !== 'line')
      this.lost.add(`The border of ${this.nameOf(el)} is dashed: it is drawn through.`);
    return { ...fill, ...(border ? { border, borderColour: stroke } : {}) };
  }

  private fillOf(el: SVGGraphicsElement, style: CSSStyleDeclaration): Record<string, unknown> {
    const id = /^url\(["']?#([^"')]+)/.exec(style.fill)?.[1];
    if (!id) return { fill: hex(style.fill, style.fillOpacity) };
    const fade = this.svg.querySelector(`[id="${CSS.escape(id)}"]`);
    const named = /href$/;
    const from = [...(fade?.attributes ?? [])].find((a) => named.test(a.name))?.value.replace(/^#/, '');
    const holder = fade?.querySelector('stop')
      ? fade
      : from
        ? this.svg.querySelector(`[id="${CSS.escape(from)}"]`)
        : fade;
    const stops = [...(holder?.querySelectorAll('stop') ?? [])].map((s) => {
      const { stopColor, stopOpacity } = getComputedStyle(s);
      return hex(stopColor, stopOpacity) || 'transparent';
    });
    if (!fade || stops.length === 0) return { fill: '' };
    if (fade.localName !== 'linearGradient' || stops.length > 2)
      this.lost.add(`The fade of ${this.nameOf(el)} has more to it: its first and its last colour are kept.`);
    const part = (name: string, first: number) => {
      const said = fade.getAttribute(name);
      return said === null ? first : length(said) / (said.endsWith('%') ? 100 : 1);
    };
    const [dx, dy] = [part('x2', 1) - part('x1', 0), part('y2', 0) - part('y1', 0)];
    // CSS counts from upwards to the right, SVG from rightwards down.
    const angle = Math.round((Math.atan2(dy, dx) * 180) / Math.PI + 90);
    return { fill: stops[0], ...(stops.length > 1 ? { fillTo: stops.at(-1), fillAngle: angle } : {}) };
  }

  private shape(
    el: SVGGeometryElement,
    style: CSSStyleDeclaration,
    common: Record<string, unknown>,
  ): SvgPart | null {
    const m = this.matrix(el);
    const scale = Math.sqrt(Math.abs(m.a * m.d - m.b * m.c));
    const number = (name: string) => length(el.getAttribute(name));
    const name = this.nameOf(el);
    if (el.localName === 'line') {
      const at = (x: string, y: string) => m.transformPoint({ x: number(x), y: number(y) });
      const [from, to] = [at('x1', 'y1'), at('x2', 'y2')];
      const [x, y] = [Math.min(from.x, to.x), Math.min(from.y, to.y)];
      const dash = style.strokeDasharray;
      const props = {
        fromX: from.x - x,
        fromY: from.y - y,
        toX: to.x - x,
        toY: to.y - y,
        colour: hex(style.stroke, style.strokeOpacity),
        thickness: length(style.strokeWidth) * scale,
        ...(dash === 'none' ? {} : { dash: dash.replace(/px|,/g, '') }),
      };
      const box = { x, y, width: Math.abs(to.x - from.x), height: Math.abs(to.y - from.y) };
      return { kind: 'line', name, box, props: { ...common, ...props } };
    }
    const look = this.look(el, style, scale);
    const upright = Math.abs(m.b) < 1e-6 && Math.abs(m.c) < 1e-6 && m.a > 0 && m.d > 0;
    if (upright && ['rect', 'circle', 'ellipse'].includes(el.localName)) {
      const b = el.getBBox();
      // A border lies half outside of a drawing's outline, and within a layer's.
      const grown = length(String(look['border'] ?? 0)) / 2;
      const box = placed(b, m, grown);
      if (box.width <= 0 || box.height <= 0) return null;
      const radius = Math.min(number('rx') || number('ry'), b.width / 2, b.height / 2) * m.a;
      const props =
        el.localName === 'rect'
          ? { shape: 'box', ...(radius ? { radius: radius + grown } : {}) }
          : { shape: 'ellipse' };
      return { kind: 'shape', name, box, props: { ...common, ...props, ...look } };
    }
    const data = svgpath(this.dataOf(el)).abs().matrix([m.a, m.b, m.c, m.d, m.e, m.f]);
    this.scratch.setAttribute('d', data.toString());
    const { x, y, width, height } = this.scratch.getBBox();
    if (width <= 0 || height <= 0) {
      this.lost.add(`${name} has no width or no height: it is left out.`);
      return null;
    }
    const path = data
      .translate(-x, -y)
      .scale(100 / width, 100 / height)
      .round(2)
      .toString();
    if (path.length > 20_000) {
      this.lost.add(`${name} has too many points for a layer: bring it in as a picture.`);
      return null;
    }
    return {
      kind: 'shape',
      name,
      box: { x, y, width, height },
      props: { ...common, shape: 'path', path, ...look },
    };
  }

  private dataOf(el: SVGGeometryElement): string {
    const number = (name: string) => length(el.getAttribute(name));
    switch (el.localName) {
      case 'rect': {
        const [x, y, w, h] = [number('x'), number('y'), number('width'), number('height')];
        return `M${x} ${y}H${x + w}V${y + h}H${x}Z`;
      }
      case 'circle':
        return KAPPA_FREE(number('cx'), number('cy'), number('r'), number('r'));
      case 'ellipse':
        return KAPPA_FREE(number('cx'), number('cy'), number('rx'), number('ry'));
      case 'path':
        return el.getAttribute('d') ?? '';
      default:
        return `M${(el.getAttribute('points') ?? '').trim()}${el.localName === 'polygon' ? 'Z' : ''}`;
    }
  }

  private picture(el: SVGImageElement, common: Record<string, unknown>): SvgPart | null {
    const name = this.nameOf(el);
    const href = el.getAttribute('href') ?? el.getAttribute('xlink:href') ?? '';
    if (!/^data:image\//.test(href)) {
      this.lost.add(`The picture ${name} is not within the file: bring it into the media library by itself.`);
      return null;
    }
    const m = this.matrix(el);
    const box = placed(el.getBBox(), m);
    const keep = el.getAttribute('preserveAspectRatio') ?? '';
    const fit = keep.includes('none') ? 'stretch' : keep.includes('slice') ? 'cover' : 'contain';
    return { kind: 'picture', name, box, props: { ...common, picture: href, fit } };
  }
}
