/** A font as CSS names it: a family that has all weights in one file carries that in its name. */
export function fontStack(font: string): string {
  // A name that would end its own quotes is none that a font has.
  const name = font.replace(/["\\\p{Cc}]/gu, '');
  return `"${name}", "${name} Variable", sans-serif`;
}
