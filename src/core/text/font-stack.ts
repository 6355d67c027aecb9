/** A font as CSS names it: a family that has all weights in one file carries that in its name. */
export const fontStack = (font: string) => `"${font}", "${font} Variable", sans-serif`;
