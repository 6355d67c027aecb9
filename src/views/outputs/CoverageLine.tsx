import { beyondOf, largestOf, sumOf, type Beyond, type Coverage as Lying } from '../../core/show/zones.ts';
import type { Output } from '../../core/show/show.ts';
import { counted } from '../../core/text/words.ts';
import css from './OutputsView.module.css';

const AT: Record<keyof Beyond, string> = {
  left: 'at the left',
  right: 'at the right',
  top: 'at the top',
  bottom: 'at the bottom',
};
const SIDES = Object.keys(AT) as (keyof Beyond)[];

/** How the zones lie, in numbers: what is covered, and what is not as a board should be. */
export function CoverageLine({
  output,
  lie: { gaps, overlaps, outside },
  onChoose,
}: {
  output: Output;
  lie: Lying;
  onChoose: (zone: string) => void;
}) {
  const [across, down] = [sumOf(output, 'across'), sumOf(output, 'down')];
  // What lies all over each other is neither a row nor a column.
  const row = across !== null && down === null;
  const column = down !== null && across === null;
  const largest = largestOf(gaps)!;
  const name = (key: string) => output.zones.find((z) => z.key === key)?.name ?? key;
  const free = gaps.reduce((all, g) => all + g.width * g.height, 0) / (output.width * output.height);
  const beyond = outside.map((key) => ({
    key,
    ...beyondOf(
      output,
      output.zones.find((z) => z.key === key)!,
    ),
  }));
  /** How much of a sum stands beyond the board. */
  const past = (sides: readonly (keyof Beyond)[]) => {
    const px = beyond.reduce((all, b) => all + sides.reduce((n, side) => n + b[side], 0), 0);
    return px > 0 && `, ${px} px of them outside`;
  };
  const to = (key: string, text: string) => (
    <button key={text} type="button" onClick={() => onChoose(key)}>
      {text}
    </button>
  );
  return (
    <p className={css['lie']} role="status" aria-label="How the zones lie">
      {row && (
        <span>
          Widths together {across} of {output.width} px{past(['left', 'right'])}
        </span>
      )}
      {column && (
        <span>
          Heights together {down} of {output.height} px{past(['top', 'bottom'])}
        </span>
      )}
      <span data-good={gaps.length === 0 || undefined}>
        {gaps.length === 0
          ? 'No gaps'
          : `${counted(gaps.length, 'gap')}, ${Math.max(1, Math.round(free * 100))} % free, the largest ${largest.width} × ${largest.height} at ${largest.x}, ${largest.y}`}
      </span>
      {overlaps.length > 0 && (
        <span data-bad>
          {overlaps
            .slice(0, 4)
            .map(({ zones: [a, b], box }) =>
              to(b, `${name(b)} over ${name(a)}: ${box.width} × ${box.height}`),
            )}
          {overlaps.length > 4 && ` and ${overlaps.length - 4} more`}
        </span>
      )}
      {outside.length > 0 && (
        <span data-bad>
          {beyond.slice(0, 4).map((b) =>
            to(
              b.key,
              `${name(b.key)} reaches outside: ${SIDES.filter((side) => b[side] > 0)
                .map((side) => `${b[side]} px ${AT[side]}`)
                .join(', ')}`,
            ),
          )}
          {beyond.length > 4 && ` and ${beyond.length - 4} more`}
        </span>
      )}
      {overlaps.length === 0 && outside.length === 0 && <span data-good>No overlaps, nothing outside</span>}
    </p>
  );
}
