import transliterate from '@sindresorhus/transliterate';
import { unlike } from './words.ts';

/**
 * A text as a part of an id or a key: small letters and digits without marks, hyphens between; at most 60. Letters of other alphabets as
 * they are written in Latin ones: `Straße` is `strasse`, `Мяч` is `myach`. Blank where nothing is left.
 */
export const stemOf = (text: string): string =>
  // A letter is first what it is without its marks: `ü` is `u`.
  transliterate(text.normalize('NFKD').replace(/\p{M}/gu, ''))
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 60);

/** An id made of a text, unlike those taken: its stem, and where that is there already `home-name-2`. It is then among them. */
export function freshId(taken: Set<string>, text: string, otherwise = 'layer'): string {
  const stem = stemOf(text) || otherwise;
  const id = unlike(
    stem,
    (free) => taken.has(free),
    (n) => `${stem}-${n}`,
  );
  taken.add(id);
  return id;
}

/**
 * A key made of a text, which begins with a letter, unlike those taken: `home-name`, and where that is there already `home-name-2`. Of a
 * text that leaves none it is made of `otherwise`.
 */
export function freshKey(
  text: string,
  taken: readonly string[] | ((key: string) => boolean),
  otherwise: string,
): string {
  const stem = stemOf(text).replace(/^[^a-z]+/, '') || otherwise;
  const isTaken = typeof taken === 'function' ? taken : (key: string) => taken.includes(key);
  return unlike(stem, isTaken, (n) => `${stem}-${n}`);
}
