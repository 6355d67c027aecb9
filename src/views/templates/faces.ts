import { facesFor, rangeHas } from '../../core/text/unicode-range.ts';

/** A face as a style sheet declares it. */
export interface Face {
  family: string;
  source: string;
  weight: string;
  /** The characters that are in it, as style sheets write it; blank for all. */
  range: string;
}

/** The faces that the page's style sheets declare, of these families. */
export function declaredFaces(families: ReadonlySet<string>): Face[] {
  const faces: Face[] = [];
  for (const sheet of document.styleSheets) {
    let rules: CSSRuleList;
    try {
      rules = sheet.cssRules;
    } catch {
      continue;
    }
    for (const rule of rules) {
      if (!(rule instanceof CSSFontFaceRule)) continue;
      const said = (name: string) => rule.style.getPropertyValue(name).trim();
      const family = said('font-family').replace(/^["']|["']$/g, '');
      if (!families.has(family.replace(/ Variable$/, ''))) continue;
      // A worker stands elsewhere than the style sheet: addresses are made whole.
      const source = said('src').replace(
        /url\(["']?([^"')]+)["']?\)/g,
        (_, at: string) => `url("${new URL(at, sheet.href ?? location.href).href}")`,
      );
      faces.push({ family, source, weight: said('font-weight') || '400', range: said('unicode-range') });
    }
  }
  return faces;
}

/** What is written in one font and weight. */
export interface Written {
  font: string;
  weight: number;
  text: string;
}

/** The faces that texts are written in, as a style sheet that carries them within itself. */
export async function carriedFaces(texts: readonly Written[]): Promise<string> {
  const faces = declaredFaces(new Set(texts.map((t) => t.font)));
  const needed = new Set(
    texts.flatMap(({ font, weight, text }) =>
      facesFor(
        weight,
        faces.filter((f) => f.family === font || f.family === `${font} Variable`),
      ).filter((f) => rangeHas(f.range, text)),
    ),
  );
  const rules = [...needed].map(async ({ family, source, weight, range }) => {
    const address = /url\("([^"]+)"\)/.exec(source)?.[1];
    if (!address) return '';
    const data = await dataOf(address);
    return `@font-face{font-family:"${family}";font-weight:${weight};${range && `unicode-range:${range};`}src:url(${data})}`;
  });
  return (await Promise.all(rules)).join('\n');
}

/** What is at an address, as an address that has it within itself. Throws where nothing is. */
export async function dataOf(address: string): Promise<string> {
  const response = await fetch(address);
  if (!response.ok) throw new Error(`${address} is not there`);
  const blob = await response.blob();
  return new Promise((done, failed) => {
    const reader = new FileReader();
    reader.onload = () => done(reader.result as string);
    reader.onerror = () => failed(reader.error ?? new Error(`${address} cannot be read`));
    reader.readAsDataURL(blob);
  });
}
