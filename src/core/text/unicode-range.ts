/**
 * Whether a font's `unicode-range` (CSS Fonts 4, section 4.5: `U+26`, `U+0-7F`, `U+4??`, with commas between) has any of a
 * text's characters. A blank one has all.
 */
export function rangeHas(range: string, text: string): boolean {
  if (range.trim() === '') return true;
  const spans = range.split(',').map((part) => {
    const [from = '', to] = part.trim().replace(/^u\+/i, '').split('-');
    return [
      Number.parseInt(from.replaceAll('?', '0'), 16),
      Number.parseInt((to ?? from).replaceAll('?', 'F'), 16),
    ] as const;
  });
  return [...text].some((letter) => {
    const point = letter.codePointAt(0)!;
    return spans.some(([from, to]) => point >= from && point <= to);
  });
}

/**
 * Which of a family's faces a weight is written in: the one whose range has it, else those nearest to it.
 * @param weight 1 to 1000
 * @param faces each with its weight as style sheets say it: `400`, or `100 900`
 */
export function facesFor<F extends { weight: string }>(weight: number, faces: readonly F[]): F[] {
  const far = ({ weight: said }: F): number => {
    const [from = 400, to = from] = said
      .split(/\s+/)
      .map((w) => ({ normal: 400, bold: 700 })[w] ?? Number(w));
    return Math.max(0, from - weight, weight - to);
  };
  const least = Math.min(...faces.map(far));
  return faces.filter((f) => far(f) === least);
}
