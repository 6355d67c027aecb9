import { SaxesParser } from 'saxes';

/** How large a drawing may be: beyond this it is no graphic that anybody drew. */
const LARGEST = 8_000_000;
const MOST_ELEMENTS = 50_000;
const MOST_ATTRIBUTES = 500_000;
/** Of one element: to clean it takes as long as the square of how many it has. */
const MOST_OF_ONE = 1000;
const DEEPEST = 200;

/** True for a reference that stays within the drawing, or is a raster picture in it. */
const isInner = (value: string) => /^\s*(#|data:image\/(png|jpeg|webp|gif);base64,)/i.test(value);

/** True where every `url(…)` in a style or a fill stays within the drawing, and nothing else that names a picture is there: others would fetch from elsewhere. */
const staysInside = (value: string) =>
  [...value.matchAll(/url\(\s*['"]?([^'")]*)/gi)].every((m) => isInner(m[1]!)) &&
  !/@import|(expression|image-set|src|image|cross-fade|attr)\s*\(|javascript:|\\/i.test(value);

interface Root {
  /** Where the root element begins in the text. */
  at: number;
  attributes: Record<string, string>;
}

/** A drawing that is too much to be looked at: in how many words of what. */
export class TooMuch extends Error {}

/** The root of a well-formed drawing of a size that may be cleaned; null for what is none. Throws TooMuch for one that is too large. */
function rootOf(text: string): Root | null {
  if (text.length > LARGEST) throw new TooMuch(`has more than ${LARGEST / 1e6} MB of text`);
  let root: Root | null = null;
  let elements = 0;
  let depth = 0;
  let attributes = 0;
  let own = 0;
  const parser = new SaxesParser({ xmlns: false, position: true });
  const refuse = () => {
    throw new Error('no drawing');
  };
  parser.on('doctype', (declared) => {
    if (/<!ENTITY/i.test(declared)) refuse();
  });
  parser.on('error', refuse);
  parser.on('opentagstart', ({ name }) => {
    own = 0;
    if (root === null && name !== 'svg') refuse();
    if (++elements > MOST_ELEMENTS) throw new TooMuch(`has more than ${MOST_ELEMENTS} elements`);
    if (++depth > DEEPEST) throw new TooMuch(`is nested more than ${DEEPEST} deep`);
  });
  parser.on('attribute', () => {
    if (++own > MOST_OF_ONE) throw new TooMuch(`has an element of more than ${MOST_OF_ONE} attributes`);
    if (++attributes > MOST_ATTRIBUTES) throw new TooMuch(`has more than ${MOST_ATTRIBUTES} attributes`);
  });
  parser.on('opentag', (tag) => {
    root ??= {
      at: text.lastIndexOf('<svg', parser.position),
      attributes: tag.attributes as Record<string, string>,
    };
  });
  parser.on('closetag', () => depth--);
  try {
    parser.write(text).close();
  } catch (error) {
    if (error instanceof TooMuch) throw error;
    return null;
  }
  return root;
}

/** Cleans the text of a drawing; gives it as XML, or null where nothing is left of it. */
type Cleaner = (text: string) => string | null;
let cleaner: Promise<Cleaner> | null = null;

/** DOMPurify over a document of its own; loading it takes a while, and most threads never need it. */
async function loaded(): Promise<Cleaner> {
  const [{ default: createPurifier }, { JSDOM }] = await Promise.all([import('dompurify'), import('jsdom')]);
  const { window } = new JSDOM('');
  const purify = createPurifier(window);
  purify.addHook('uponSanitizeAttribute', (_, attribute) => {
    const { attrName, attrValue } = attribute;
    const isReference = /^(xlink:)?href$|^src$/.test(attrName);
    if (isReference ? !isInner(attrValue) : !staysInside(attrValue)) attribute.keepAttr = false;
  });
  purify.addHook('uponSanitizeElement', (element, { tagName }) => {
    if (tagName === 'style' && !staysInside(element.textContent ?? '')) element.textContent = '';
  });
  const serializer = new window.XMLSerializer();
  return (text) => {
    // A reader of HTML knows how the names of SVG are written, and what is serialised from its tree is XML.
    const body = purify.sanitize(text, {
      USE_PROFILES: { svg: true, svgFilters: true },
      ADD_TAGS: ['use'],
      ADD_ATTR: ['href', 'xlink:href'],
      RETURN_DOM: true,
    });
    const svg = (body as HTMLElement).firstElementChild;
    return svg?.localName === 'svg' ? serializer.serializeToString(svg) : null;
  };
}

/** So many px are one of each absolute unit (CSS Values 4, 6.2). */
const PER_UNIT: Readonly<Record<string, number>> = {
  ...{ '': 1, px: 1, in: 96, cm: 96 / 2.54, mm: 96 / 25.4 },
  ...{ q: 96 / 101.6, pt: 96 / 72, pc: 16 },
};

/**
 * An SVG drawing without what could act or fetch: scripts, handlers, links, foreign content (by DOMPurify). Gives the
 * drawing and its size in pixels, or null when it is no SVG. Throws TooMuch for one that is larger than anybody draws.
 */
export async function cleanSvg(text: string): Promise<{ svg: string; width: number; height: number } | null> {
  const root = rootOf(text);
  if (!root) return null;
  const svg = (await (cleaner ??= loaded()))(text.slice(root.at));
  if (svg === null) return null;
  return { svg, ...sizeOf(root.attributes) };
}

/**
 * As large as browsers draw it (CSS Images 3, 5): by what it says; of what it says one of by its view box's ratio; else as large as that
 * is.
 */
function sizeOf(attributes: Record<string, string>): { width: number; height: number } {
  const length = (name: string): number | null => {
    const [, number, unit] = /^\s*([\d.]+(?:e[-+]?\d+)?)\s*([a-z]*)\s*$/i.exec(attributes[name] ?? '') ?? [];
    const px = parseFloat(number ?? '') * (PER_UNIT[unit?.toLowerCase() ?? ''] ?? NaN);
    return Number.isFinite(px) ? px : null;
  };
  const [width, height] = [length('width'), length('height')];
  const [, , boxWidth = 0, boxHeight = 0] = (attributes['viewBox'] ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  const ratio = boxWidth > 0 && boxHeight > 0 ? boxWidth / boxHeight : null;
  const wide = width ?? (ratio ? (height === null ? boxWidth : height * ratio) : 300);
  const high = height ?? (ratio ? (width === null ? boxHeight : width / ratio) : 150);
  return { width: Math.round(wide), height: Math.round(high) };
}
