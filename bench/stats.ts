/** One line of the result: a figure, what it is measured against, and the bound that is claimed. */
export interface Figure {
  name: string;
  value: number;
  unit: string;
  p99?: number;
  /** The bound on `value`, at most or at least. */
  bound?: { most?: number; least?: number };
}

/** The share `q` (0 to 1) of the sorted numbers that lie at or below the answer. */
export function quantile(numbers: readonly number[], q: number): number {
  const sorted = [...numbers].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * q))] ?? NaN;
}

export const median = (numbers: readonly number[]) => quantile(numbers, 0.5);

/** Times, in ms, as one figure: their median and what 99 % of them stay below. */
export const timesOf = (name: string, list: readonly number[]): Figure => ({
  name,
  value: median(list),
  p99: quantile(list, 0.99),
  unit: 'ms',
});

export const holds = ({ value, bound }: Figure) =>
  (bound?.most === undefined || value <= bound.most) && (bound?.least === undefined || value >= bound.least);

const short = (n: number) => (Math.abs(n) >= 100 ? Math.round(n).toLocaleString('en') : n.toPrecision(3));

export function table(figures: readonly Figure[]): string {
  const rows = figures.map((f) => [
    f.name,
    `${short(f.value)} ${f.unit}`.trim(),
    f.p99 === undefined ? '' : `${short(f.p99)} ${f.unit}`.trim(),
    f.bound?.most !== undefined
      ? `at most ${f.bound.most}`
      : f.bound?.least !== undefined
        ? `at least ${f.bound.least}`
        : '',
    f.bound ? (holds(f) ? 'holds' : 'FAILS') : '',
  ]);
  const head = ['figure', 'median', '99 %', 'bound', ''];
  const widths = head.map((h, i) => Math.max(h.length, ...rows.map((r) => r[i]!.length)));
  return [head, ...rows]
    .map((r) =>
      r
        .map((c, i) => c.padEnd(widths[i]!))
        .join('  ')
        .trimEnd(),
    )
    .join('\n');
}
