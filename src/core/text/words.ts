/** A number with its noun: `1 row`, `2 rows`. */
export const counted = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;
