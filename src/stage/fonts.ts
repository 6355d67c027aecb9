/** Where the style sheet that declares a font of the library stands, by the font's hash. It never changes. */
const sheetOf = (hash: string) => `/state/fonts/${hash}.css`;

const sheets = new Map<string, Promise<CSSStyleSheet | null>>();

function declare(hash: string): Promise<CSSStyleSheet | null> {
  return new Promise((done) => {
    const link = document.createElement('link');
    link.rel = 'stylesheet';
    link.onload = () => done(link.sheet);
    link.onerror = () => {
      // Whoever asks again tries again.
      sheets.delete(hash);
      link.remove();
      done(null);
    };
    link.href = sheetOf(hash);
    document.head.append(link);
  });
}

/**
 * Declares the fonts that were brought in, by hash, each once; one that is gone stays for as long as the page does, since what
 * is seen may be written in it. With `load` they are asked for as well, before anything is written in them.
 */
export async function declareFonts(hashes: readonly string[], load = false): Promise<void> {
  for (const hash of hashes) if (!sheets.has(hash)) sheets.set(hash, declare(hash));
  if (!load) return;
  for (const sheet of await declared())
    for (const rule of sheet?.cssRules ?? [])
      if (rule instanceof CSSFontFaceRule) {
        const { style } = rule;
        const [weight] = style.getPropertyValue('font-weight').split(' ');
        // One that cannot be had holds up no other.
        void document.fonts.load(`${weight} 20px ${style.getPropertyValue('font-family')}`).catch(() => {});
      }
}

/** Resolves once all fonts that were asked for are declared, or cannot be. */
export const declared = () => Promise.all(sheets.values());
