import { SaxesParser } from 'saxes';

/** What a drawing may be made of; anything else (scripts, foreign pages, links) is left out with all that is in it. */
const ELEMENTS = new Set(
  (
    'svg g defs symbol use title desc path rect circle ellipse line polyline polygon text tspan textPath ' +
    'linearGradient radialGradient stop clipPath mask pattern filter marker image style ' +
    'feGaussianBlur feOffset feMerge feMergeNode feFlood feComposite feBlend feColorMatrix feDropShadow feMorphology feTurbulence feDisplacementMap ' +
    'animate animateTransform animateMotion set mpath'
  ).split(' '),
);
const escape = (text: string) =>
  text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);

/** True for a reference that stays within the drawing, or is a raster picture in it. */
const isInner = (value: string) => /^\s*(#|data:image\/(png|jpeg|webp|gif);base64,)/i.test(value);

function keeps(name: string, value: string): boolean {
  const plain = name.toLowerCase();
  if (plain.startsWith('on')) return false;
  if (plain === 'href' || plain === 'xlink:href' || plain === 'src') return isInner(value);
  // A reference out of a style or a fill would fetch from elsewhere.
  return (
    [...value.matchAll(/url\(\s*['"]?([^'")]*)/gi)].every((m) => isInner(m[1]!)) &&
    !/javascript:|expression\(/i.test(value)
  );
}

const STYLE_OUT = /@import[^;]*;?|url\(\s*['"]?(?!#|data:image\/)[^)]*\)/gi;

/**
 * An SVG drawing without what could act or fetch: scripts, handlers, links, foreign content. Gives the drawing and its
 * size in pixels, or null when it is no SVG.
 */
export function cleanSvg(text: string): { svg: string; width: number; height: number } | null {
  let out = '';
  let dropping = 0;
  let root: Record<string, string> | null = null;
  const open: { name: string; style: boolean }[] = [];
  const parser = new SaxesParser({ xmlns: false, position: false });
  parser.on('doctype', (declared) => {
    if (/<!ENTITY/i.test(declared)) throw new Error('entities');
  });
  parser.on('error', (error) => {
    throw error;
  });
  parser.on('opentag', ({ name, attributes }) => {
    if (!root) {
      if (name !== 'svg') throw new Error('not svg');
      root = attributes as Record<string, string>;
    }
    if (dropping || !ELEMENTS.has(name)) return void dropping++;
    const kept = Object.entries(attributes as Record<string, string>).filter(([n, value]) => keeps(n, value));
    out += `<${name}${kept.map(([n, value]) => ` ${n}="${escape(value)}"`).join('')}>`;
    open.push({ name, style: name === 'style' });
  });
  parser.on('closetag', () => {
    if (dropping) return void dropping--;
    out += `</${open.pop()!.name}>`;
  });
  const said = (part: string) => {
    if (dropping || open.length === 0) return;
    out += escape(open.at(-1)!.style ? part.replace(STYLE_OUT, '') : part);
  };
  parser.on('text', said);
  parser.on('cdata', said);
  try {
    parser.write(text).close();
  } catch {
    return null;
  }
  if (!root) return null;
  const attributes: Record<string, string> = root;
  const box = (attributes['viewBox'] ?? '').split(/[\s,]+/).map(Number);
  const size = (name: 'width' | 'height', at: number) => {
    const own = /^\s*[\d.]+(px)?\s*$/.test(attributes[name] ?? '')
      ? parseFloat(attributes[name]!)
      : (box[at] ?? 0);
    return Number.isFinite(own) ? Math.max(0, Math.round(own)) : 0;
  };
  return { svg: out, width: size('width', 2), height: size('height', 3) };
}
