import { SaxesParser } from 'saxes';

/** How large a drawing may be: beyond this it is no graphic that anybody drew. */
const LARGEST = 8_000_000;
const MOST_ELEMENTS = 50_000;
const DEEPEST = 200;

/** True for a reference that stays within the drawing, or is a raster picture in it. */
const isInner = (value: string) => /^\s*(#|data:image\/(png|jpeg|webp|gif);base64,)/i.test(value);

/** True where every `url(…)` in a style or a fill stays within the drawing: others would fetch from elsewhere. */
const staysInside = (value: string) =>
  [...value.matchAll(/url\(\s*['"]?([^'")]*)/gi)].every((m) => isInner(m[1]!)) &&
  !/@import|expression\s*\(|javascript:|\\/i.test(value);

interface Root {
  /** Where the root element begins in the text. */
  at: number;
  attributes: Record<string, string>;
}

/** The root of a well-formed drawing of a size that may be cleaned; null for anything else. */
function rootOf(text: string): Root | null {
  if (text.length > LARGEST) return null;
  let root: Root | null = null;
  let elements = 0;
  let depth = 0;
  const parser = new SaxesParser({ xmlns: false, position: true });
  const refuse = () => {
    throw new Error('no drawing');
  };
  parser.on('doctype', (declared) => {
    if (/<!ENTITY/i.test(declared)) refuse();
  });
  parser.on('error', refuse);
  parser.on('opentagstart', ({ name }) => {
    if (++elements > MOST_ELEMENTS || ++depth > DEEPEST) refuse();
    if (root === null && name !== 'svg') refuse();
  });
  parser.on('opentag', ({ attributes }) => {
    root ??= {
      at: text.lastIndexOf('<svg', parser.position),
      attributes: attributes as Record<string, string>,
    };
  });
  parser.on('closetag', () => depth--);
  try {
    parser.write(text).close();
  } catch {
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

/**
 * An SVG drawing without what could act or fetch: scripts, handlers, links, foreign content (by DOMPurify). Gives the
 * drawing and its size in pixels, or null when it is no SVG, or one larger than anybody draws.
 */
export async function cleanSvg(text: string): Promise<{ svg: string; width: number; height: number } | null> {
  const root = rootOf(text);
  if (!root) return null;
  const svg = (await (cleaner ??= loaded()))(text.slice(root.at));
  if (svg === null) return null;
  const box = (root.attributes['viewBox'] ?? '').split(/[\s,]+/).map(Number);
  const size = (name: 'width' | 'height', at: number) => {
    const own = /^\s*[\d.]+(px)?\s*$/.test(root.attributes[name] ?? '')
      ? parseFloat(root.attributes[name]!)
      : (box[at] ?? 0);
    return Number.isFinite(own) ? Math.max(0, Math.round(own)) : 0;
  };
  return { svg, width: size('width', 2), height: size('height', 3) };
}
