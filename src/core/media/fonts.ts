import { mediaUrl, type MediaEntry, type MediaFace } from './media.ts';

/** The fonts among the entries of the library, each content once, by hash. */
export function fontsOf(entries: Iterable<MediaEntry>): Map<string, MediaFace> {
  const fonts = new Map<string, MediaFace>();
  for (const { hash, face } of entries) if (face) fonts.set(hash, face);
  return fonts;
}

/** A font of the library as a style sheet declares it (CSS Fonts 4, section 4). */
export const faceRule = (hash: string, { family, weights: [from, to] }: MediaFace): string =>
  `@font-face{font-family:"${family}";font-weight:${from === to ? from : `${from} ${to}`};src:url(${mediaUrl({ hash })})}\n`;
