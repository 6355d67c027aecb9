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
