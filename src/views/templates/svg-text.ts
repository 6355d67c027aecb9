import { FAMILIES } from '../../core/text/families.ts';
import { fontStack } from '../../core/text/font-stack.ts';
import type { SvgPart } from '../../core/workshop/svg.ts';
import { hex, length } from './svg-look.ts';

/**
 * A text's lines, each a layer of its own; parts in other styles stay in their line.
 * @param m how the drawing places the text
 * @param common what all of it has
 * @param fonts the families that there are, by name
 * @param lost takes what cannot be kept, each a sentence
 */
export function linesOf(
  el: SVGTextElement,
  name: string,
  m: DOMMatrix,
  common: Record<string, unknown>,
  fonts: readonly string[],
  lost: Set<string>,
): SvgPart[] {
  const own = (t: Element) => ['x', 'y', 'dy'].some((place) => t.hasAttribute(place));
  const spans = [...el.querySelectorAll('tspan')].filter(own);
  const lines: SVGTextContentElement[] = spans.length ? spans : [el];
  return lines.flatMap((line, i) =>
    lineOf(line, lines.length > 1 ? `${name} ${i + 1}` : name, m, common, fonts, lost),
  );
}

/** A weight that a layer can have: a whole number. */
const weightOf = ({ fontWeight }: CSSStyleDeclaration): number =>
  Math.max(100, Math.min(900, Math.round(Number(fontWeight)) || 400));

function lineOf(
  line: SVGTextContentElement,
  name: string,
  m: DOMMatrix,
  common: Record<string, unknown>,
  fonts: readonly string[],
  lost: Set<string>,
): SvgPart[] {
  const content = (line.textContent ?? '').replace(/\s+/g, ' ').trim();
  if (content === '' || line.getNumberOfChars() === 0) return [];
  const scale = Math.hypot(m.a, m.b);
  const start = m.transformPoint(line.getStartPositionOfChar(0));
  const wide = line.getComputedTextLength() * scale;
  const runs = [...line.childNodes].flatMap((node) => {
    const said = (node.textContent ?? '').replace(/\s+/g, ' ');
    const of = getComputedStyle(node instanceof Element ? node : line);
    return said.trim() === '' ? [] : [{ said, of }];
  });
  const first = runs[0]?.of ?? getComputedStyle(line);
  const size = length(first.fontSize) * scale;
  const fontOf = (of: CSSStyleDeclaration) => {
    const asked = of.fontFamily.split(',').map((f) => f.trim().replace(/^["']|["']$/g, ''));
    const known = fonts.find((f) => asked.some((a) => a.toLowerCase() === f.toLowerCase()));
    if (!known) lost.add(`The font ${asked[0]} is not here: ${FAMILIES[0]!.name} stands in its place.`);
    return known ?? FAMILIES[0]!.name;
  };
  const font = fontOf(first);
  const weight = weightOf(first);
  if (runs.length > 4) lost.add(`${name} has more than four styles: the rest is in the fourth.`);
  const more: Record<string, unknown> = {};
  runs.slice(1).forEach(({ said, of }, i) => {
    const n = Math.min(4, i + 2);
    more[`text${n}`] = `${String(more[`text${n}`] ?? '')}${said}`;
    more[`weight${n}`] ??= weightOf(of);
    more[`size${n}`] ??= Math.max(0.1, Math.min(4, (length(of.fontSize) * scale) / size));
    more[`colour${n}`] ??= hex(of.fill, of.fillOpacity) || '#ffffff';
  });
  // The capitals stand where the drawing has them, whatever else the font brings.
  const context = document.createElement('canvas').getContext('2d')!;
  context.font = `${weight} 100px ${fontStack(font)}`;
  const cap = (context.measureText('H').actualBoundingBoxAscent / 100) * size;
  const height = size * 1.3;
  const anchorX = { middle: 'centre', end: 'right' }[first.textAnchor] ?? 'left';
  // Room for another font, to the side that it grows to.
  const room = wide * 0.04 + 4;
  const left = anchorX === 'left' ? 0 : anchorX === 'right' ? room : room / 2;
  const box = { x: start.x - left, y: start.y - cap / 2 - height / 2, width: wide + room, height };
  const turn = Math.round((Math.atan2(m.b, m.a) * 180) / Math.PI);
  if (turn) {
    // A layer turns about its middle, a text about where it begins.
    const middle = { x: box.x + box.width / 2 - start.x, y: box.y + box.height / 2 - start.y };
    const at = new DOMMatrix().rotate(turn).transformPoint(middle);
    box.x = start.x + at.x - box.width / 2;
    box.y = start.y + at.y - box.height / 2;
  }
  const props = {
    ...common,
    text: runs.length > 1 ? runs[0]!.said.trimStart() : content,
    font,
    weight,
    size,
    colour: hex(first.fill, first.fillOpacity) || '#ffffff',
    anchorX,
    anchorY: 'middle',
    ...(turn ? { rotation: turn } : {}),
    ...more,
  };
  return [{ kind: 'text', name, box, props }];
}
