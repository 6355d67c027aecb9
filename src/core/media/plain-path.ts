/**
 * A path without what people get wrong: case, accents, spaces and signs, the file type. `Head Shots/Herons/07.PNG`
 * and `head-shots/herons/07` are the same.
 */
export function plainPath(path: string): string {
  return path
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/\.(png|jpe?g|webp|gif|svg|webm)$/, '')
    .split('/')
    .map((part) => part.replace(/[^a-z0-9]+/g, '-').replace(/^-+|-+$/g, ''))
    .filter(Boolean)
    .join('/');
}

/** The name at the end of a path, with its type: `07.png` of `headshots/herons/07.png`. */
export const fileNameOf = (path: string): string => path.slice(path.lastIndexOf('/') + 1);
