/** What counts as yes and as no wherever a word, a sign or a number stands for one of them; null for anything else. */
export function yesOrNo(said: unknown): boolean | null {
  if (typeof said === 'boolean') return said;
  if (said === 1 || (typeof said === 'string' && /^\s*(true|yes|y|1|x|on)\s*$/i.test(said))) return true;
  if (said === 0 || (typeof said === 'string' && /^\s*(false|no|n|0|off|-)\s*$/i.test(said))) return false;
  return null;
}
