/** Numbers below a bound that look random and are the same for the same seed (a linear congruential generator; Knuth, MMIX). */
export function randomOf(seed: number): (below: number) => number {
  let state = BigInt(seed);
  return (below) => {
    state = (state * 6364136223846793005n + 1442695040888963407n) & 0xffff_ffff_ffff_ffffn;
    return Number((state >> 33n) % BigInt(below));
  };
}
