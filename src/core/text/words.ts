/** A number with its noun: `1 row`, `2 rows`. */
export const counted = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;

/**
 * A text that none of those taken is: `wanted` itself, else with the first number from 2 that makes it another. `nth` writes it with
 * a number; behind a space where nothing is said.
 */
export function unlike(
  wanted: string,
  isTaken: (text: string) => boolean,
  nth: (n: number) => string = (n) => `${wanted} ${n}`,
): string {
  let free = wanted;
  for (let n = 2; isTaken(free); n++) free = nth(n);
  return free;
}

/** A text as a part of an id or a key: small letters and digits without marks, hyphens between; at most 60. Blank for none. */
export const stemOf = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
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

/** A key made of a text, which begins with a letter, unlike those taken: `home-name`, and where that is there already `home-name-2`. */
export function freshKey(text: string, isTaken: (key: string) => boolean, otherwise: string): string {
  const stem = stemOf(text).replace(/^[^a-z]+/, '') || otherwise;
  return unlike(stem, isTaken, (n) => `${stem}-${n}`);
}
