/** The precedence of what stands between two numbers. */
const WORK = new Map<string, { binds: number; of: (a: number, b: number) => number }>([
  ['+', { binds: 1, of: (a, b) => a + b }],
  ['-', { binds: 1, of: (a, b) => a - b }],
  ['*', { binds: 2, of: (a, b) => a * b }],
  ['/', { binds: 2, of: (a, b) => a / b }],
]);

/** More than anybody types into a number box; what is longer is not read. */
const LONGEST = 80;

/** What may be typed as well: the signs of print, and a comma before the decimals. */
const plain = (text: string) =>
  text
    .trim()
    .replaceAll('\u2212', '-')
    .replaceAll('\u00d7', '*')
    .replaceAll('\u00f7', '/')
    .replace(/(\d),(\d)/g, '$1.$2');

const CHANGE = /^([-+*/])=(.*)$/;

/** Whether a text typed into a number box changes what stood there (`+=8`), rather than saying a number of its own. */
export const isChange = (text: string): boolean => CHANGE.test(plain(text));

/**
 * The number that a text typed into a number box stands for: a number (`12.5`, `12,5`), arithmetic with + - * / and brackets
 * (`1920/3`), or a change of what stood there (`+=8`, `-=8`, `*=2`, `/=2`; `before` is what stood there, null if nothing did).
 * Null for what is no number, for a change of nothing, and for what has no finite result (`1/0`).
 */
export function evaluated(text: string, before: number | null): number | null {
  if (text.length > LONGEST) return null;
  const whole = plain(text);
  const change = CHANGE.exec(whole);
  if (change && before === null) return null;
  const tokens = (change ? change[2]! : whole).match(/\d+\.?\d*|\.\d+|\S/g) ?? [];
  let at = 0;
  const one = (): number => {
    const token = tokens[at++];
    if (token === '-') return -one();
    if (token === '(') {
      const inner = sum(1);
      return tokens[at++] === ')' ? inner : NaN;
    }
    return token !== undefined && /\d/.test(token) ? Number(token) : NaN;
  };
  const sum = (least: number): number => {
    let left = one();
    for (;;) {
      const work = WORK.get(tokens[at] ?? '');
      if (!work || work.binds < least) return left;
      at++;
      left = work.of(left, sum(work.binds + 1));
    }
  };
  const right = sum(1);
  if (at < tokens.length) return null;
  const result = change ? WORK.get(change[1]!)!.of(before!, right) : right;
  return Number.isFinite(result) ? result : null;
}

/** A number with so many decimals at most, and never minus nought. */
export const rounded = (n: number, decimals: number): number => {
  const by = 10 ** decimals;
  return Math.round(n * by) / by + 0;
};

/** What may stand in a number box. */
export interface Bounds {
  min?: number;
  max?: number;
  /** How many decimals are kept; none by default. */
  decimals?: number;
}

/** The nearest number that may stand within bounds. */
export const within = (n: number, { min = -Infinity, max = Infinity, decimals = 0 }: Bounds): number =>
  Math.min(max, Math.max(min, rounded(n, decimals)));

/** Which numbers may stand within bounds, in words; blank where any may. */
export function boundsText({ min, max, decimals = 0 }: Bounds): string {
  const kind = decimals ? '' : 'A whole number ';
  if (min !== undefined && max !== undefined) return `${kind || 'A number '}from ${min} to ${max}.`;
  if (min !== undefined) return `${kind || 'A number '}from ${min}.`;
  if (max !== undefined) return `${kind || 'A number '}up to ${max}.`;
  return kind ? 'A whole number.' : 'A number.';
}
