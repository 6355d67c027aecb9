import { svg } from '../../stage/layers/outline.ts';
import type { Written } from './faces.ts';

/** Writes texts of the stage as texts of SVG: each piece on its own base line, from where the page put it. */
export class SvgTexts {
  /** What was written, for the fonts that it needs. */
  readonly written: Written[] = [];
  private readonly ascents = new Map<string, number>();
  private readonly context = document.createElement('canvas').getContext('2d')!;

  /** All that is written in a layer's element, in its own px. */
  of(el: HTMLElement): SVGElement[] {
    const span = el.querySelector<HTMLElement>(':scope > span');
    if (!span) return [];
    const matrix = new DOMMatrix(getComputedStyle(span).transform);
    const pieces: SVGElement[] = [];
    const from = el.getBoundingClientRect();
    const nodes = document.createTreeWalker(span, NodeFilter.SHOW_TEXT);
    for (let node = nodes.nextNode(); node; node = nodes.nextNode()) {
      const text = node.textContent ?? '';
      if (text.trim() === '') continue;
      const range = document.createRange();
      range.selectNodeContents(node);
      const box = range.getBoundingClientRect();
      const style = getComputedStyle(node.parentElement!);
      const size = Number.parseFloat(style.fontSize);
      const x = (box.left - from.left - matrix.e) / matrix.a;
      const y = (box.top - from.top - matrix.f) / matrix.d + this.ascentOf(style, size);
      const tracking = Number.parseFloat(style.letterSpacing) || 0;
      const outline = Number.parseFloat(style.webkitTextStrokeWidth) || 0;
      const piece = svg('text', {
        x,
        y,
        transform: `matrix(${matrix.a} 0 0 ${matrix.d} ${matrix.e} ${matrix.f})`,
        fill: style.color,
        'font-family': style.fontFamily,
        'font-size': size,
        'font-weight': style.fontWeight,
        style: 'white-space:pre;font-variant-numeric:tabular-nums',
        ...(tracking ? { 'letter-spacing': tracking } : {}),
        ...(outline
          ? {
              stroke: style.webkitTextStrokeColor,
              'stroke-width': outline,
              'paint-order': 'stroke fill',
              'stroke-linejoin': 'miter',
            }
          : {}),
        ...(style.direction === 'rtl' ? { direction: 'rtl', 'text-anchor': 'end' } : {}),
      });
      piece.textContent = text;
      const font = style.fontFamily.split(',')[0]!.replace(/^["']|["']$/g, '');
      this.written.push({ font, weight: Number(style.fontWeight), text });
      pieces.push(piece);
    }
    return pieces;
  }

  /** How far the page sets a font's base line below the top of what it writes, in px. */
  private ascentOf({ fontFamily, fontWeight }: CSSStyleDeclaration, size: number): number {
    const font = `${fontWeight} 100px ${fontFamily}`;
    let ascent = this.ascents.get(font);
    if (ascent === undefined) {
      this.context.font = font;
      ascent = this.context.measureText('H').fontBoundingBoxAscent;
      this.ascents.set(font, ascent);
    }
    return (ascent / 100) * size;
  }
}
