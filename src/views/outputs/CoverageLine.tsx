import { largestOf, sumOf, type Coverage as Lying } from '../../core/show/zones.ts';
import type { Output } from '../../core/show/show.ts';
import { counted } from '../../core/text/words.ts';
import css from './OutputsView.module.css';

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
  const to = (key: string, text: string) => (
    <button key={text} type="button" onClick={() => onChoose(key)}>
      {text}
    </button>
  );
  return (
    <p className={css['lie']} role="status" aria-label="How the zones lie">
      {row && (
        <span>
          Widths together {across} of {output.width} px
        </span>
      )}
      {column && (
        <span>
          Heights together {down} of {output.height} px
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
        <span data-bad>{outside.slice(0, 4).map((key) => to(key, `${name(key)} reaches outside`))}</span>
      )}
      {overlaps.length === 0 && outside.length === 0 && <span data-good>No overlaps, nothing outside</span>}
    </p>
  );
}
