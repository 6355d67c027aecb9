import { moreLegible } from '../../core/colour/contrast.ts';
import type { Template } from '../../core/documents/template.ts';
import type { Layout } from '../../core/layers/kinds.ts';
import type { FitResult } from '../../core/workshop/fit-check.ts';
import { misfit } from '../../core/text/fit.ts';
import { counted } from '../../core/text/words.ts';
import { useKnown } from '../shared/use-desk.ts';
import type { Desk, Prepared } from '../shared/desk.ts';
import { useFitCheck } from './fit.ts';
import { Still } from '../shared/Still.tsx';
import css from './FitList.module.css';

/** How many are shown. */
const MOST = 40;

const NO_INPUTS = {};

/** The text alone, as it would be written, in its box. */
function alone({ text: { layer }, runs }: FitResult): Layout {
  const [width, height] = [layer.width, layer.height].map((n) => (typeof n === 'number' ? n : 400));
  const parts = Object.fromEntries(
    ['text', 'text2', 'text3', 'text4'].map((part, i) => [part, runs[i] ?? '']),
  );
  const { windowClock: _, shows: __, ...rest } = layer;
  const box = { x: 0, y: 0, width: width!, height: height! };
  const ink = typeof layer.colour === 'string' ? layer.colour : '#ffffff';
  const fill = moreLegible(ink, ['#16130f', '#f6f1e7']);
  return {
    key: 'fit',
    width: box.width,
    height: box.height,
    layers: [
      { id: 'ground', kind: 'shape', name: 'ground', ...box, fill },
      { ...rest, ...parts, ...box, colour: ink },
    ],
  };
}

const percent = (n: number) => `${Math.round(n * 100)} %`;

/** What is wrong with how a content fits, in words. */
const faults = ({ cut, small, scale, size }: FitResult): string[] => [
  ...misfit(scale, cut),
  ...(small ? [`too small to read: ${Math.round(size)} px`] : []),
];

/** How every team, player and row of the tables fits the texts of templates, worst first. */
export function FitList({
  desk,
  snapshot,
  templates,
  onGo,
}: {
  desk: Desk;
  snapshot: Prepared;
  templates: readonly Template[];
  /** Leads to a layer. */
  onGo: (at: { template: string; layout: string; layer: string }) => void;
}) {
  const tables = useKnown(desk, 'tables');
  const { answer, busy, problem } = useFitCheck(desk, snapshot, templates, tables);
  if (problem) return <p role="alert">{problem}</p>;
  if (!answer) return <p role="status">Trying every name…</p>;
  const bad = answer.results.filter((r) => faults(r).length > 0);
  return (
    <div
      className={css['fit']}
      role="group"
      aria-label="Fit check"
      data-busy={busy}
      data-ms={Math.round(answer.ms)}
      data-tried={answer.tried}
    >
      <p role="status">
        {counted(answer.tried, 'content')} tried:{' '}
        {bad.length === 0 ? 'all of them fit.' : `${bad.length} to look at.`}
      </p>
      <ul>
        {(bad.length ? bad : answer.results).slice(0, MOST).map((result) => {
          const { text, record, runs } = result;
          const said = faults(result);
          return (
            <li key={`${text.template} ${text.layout} ${text.layer.id} ${runs.join()}`}>
              <button
                type="button"
                data-fit={record}
                onClick={() => onGo({ template: text.template, layout: text.layout, layer: text.layer.id })}
              >
                <Still desk={desk} layout={alone(result)} inputs={NO_INPUTS} />
                <span>
                  <b>{runs.join('')}</b>
                  <small>
                    {text.templateName}, {text.layer.name}
                  </small>
                  {said.length > 0 ? (
                    <em data-cut={result.cut}>{said.join('; ')}</em>
                  ) : (
                    <small>{percent(Math.min(result.scale.x, result.scale.y))}</small>
                  )}
                </span>
              </button>
            </li>
          );
        })}
      </ul>
    </div>
  );
}
