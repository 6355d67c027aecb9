import opentype from 'opentype.js';

/** The width of every letter of a made-up font, in parts of its size. */
export const WIDE = 0.8;

/** A font (OpenType, CFF) of blocks that are all as wide: what is written in it is known by its width. */
export function blockFont(
  family: string,
  { style = 'Regular', weight = 400, width = 5 }: { style?: string; weight?: number; width?: number } = {},
): Uint8Array {
  const glyph = (name: string, unicode: number) => {
    const path = new opentype.Path();
    path.moveTo(100, 0);
    path.lineTo(100, 700);
    path.lineTo(700, 700);
    path.lineTo(700, 0);
    path.close();
    return new opentype.Glyph({ name, unicode, advanceWidth: WIDE * 1000, path });
  };
  const letters = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789 !,.'];
  const font = new opentype.Font({
    familyName: family,
    styleName: style,
    unitsPerEm: 1000,
    ascender: 800,
    descender: -200,
    glyphs: [glyph('.notdef', 0), ...letters.map((l, i) => glyph(`g${i}`, l.codePointAt(0)!))],
  } as opentype.FontConstructorOptions);
  const os2 = font.tables['os2'] as Record<string, number>;
  os2['usWeightClass'] = weight;
  os2['usWidthClass'] = width;
  return new Uint8Array(font.toArrayBuffer());
}
