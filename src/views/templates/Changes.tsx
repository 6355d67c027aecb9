import { useId, useMemo } from 'react';
import type { Template } from '../../core/documents/template.ts';
import type { Layout } from '../../core/layers/kinds.ts';
import type { Box } from '../../core/text/fit.ts';
import { placeLabels } from '../../core/workshop/labels.ts';
import { boundsOf, changingIn } from '../../core/workshop/showing.ts';
import { bindingState, worstOf, type StateSource } from '../../core/value/state.ts';
import type { Desk, Prepared } from '../shared/desk.ts';
import { useKnown } from '../shared/use-desk.ts';
import { chipWords } from '../value/chips.ts';
import type { ValueContext } from '../value/context.ts';
import { WORDS } from './binding-words.ts';
import { useFitCheck } from './fit.ts';
import css from './Changes.module.css';

/** Where layers are drawn on the sheet, in px of the screen. */
export interface Geometry {
  width: number;
  height: number;
  /** What is seen around it. */
  area: Box;
  boxOf: (id: string) => Box | null;
}

/** How large a label is, in px of the screen: two lines, as wide as what it says up to a bound. */
const LINE = 15;
const LETTER = 6.1;
const WIDEST = 230;

/** What a layer is there to say. */
const MAIN = new Set(['text', 'clock', 'picture', 'count', 'which']);

const cutTo = (text: string, most: number) => (text.length > most ? `${text.slice(0, most - 1)}…` : text);

/** Dims what is fixed, and names what changes: by what, and with the shortest and the longest that it says in the league. */
export function Changes({
  desk,
  snapshot,
  template,
  layout,
  context,
  known,
  chosen,
  geometry: { width, height, area, boxOf },
  onChoose,
}: {
  desk: Desk;
  snapshot: Prepared;
  template: Template;
  layout: Layout;
  context: ValueContext;
  known: StateSource;
  chosen: ReadonlySet<string>;
  geometry: Geometry;
  onChoose: (ids: ReadonlySet<string>) => void;
}) {
  const mask = useId();
  const tables = useKnown(desk, 'tables');
  const alone = useMemo(() => [template], [template]);
  const { answer } = useFitCheck(desk, snapshot, alone, tables, true);
  const changing = changingIn(layout).flatMap(({ layer, bindings }) => {
    const box = boxOf(layer.id);
    if (!box) return [];
    const ranges = bindings.flatMap(({ value }) => boundsOf(value, desk.def, template.inputs) ?? []);
    const range = answer?.extremes.get(`${layout.key} ${layer.id}`) ?? ranges[0];
    const by = bindings.map(({ prop, property, value }) => {
      const said = chipWords(value, context);
      return MAIN.has(prop) ? said : `${property.label}: ${said}`;
    });
    // What it says comes first; how it looks is counted.
    const at = Math.max(
      0,
      bindings.findIndex(({ prop }) => MAIN.has(prop)),
    );
    const more = by.length > 1 ? ` +${by.length - 1}` : '';
    return [
      {
        layer,
        box,
        state: worstOf(bindings.map(({ value }) => bindingState(value, known)))!,
        words: cutTo(by[at]!, 34) + more,
        all: [`${layer.name}`, ...by].join('\n'),
        range: range ? cutTo(`${range.shortest || 'blank'} … ${range.longest || 'blank'}`, 40) : '',
      },
    ];
  });
  const sizes = changing.map(({ words, range }) => ({
    width: Math.min(WIDEST, 18 + LETTER * Math.max(words.length, range.length)),
    height: (range ? 2 : 1) * LINE + 4,
  }));
  const places = placeLabels(
    changing.map((c) => c.box),
    sizes,
    area,
  );
  return (
    <div className={css['changes']} role="group" aria-label="What changes">
      <svg viewBox={`0 0 ${width} ${height}`} width={width} height={height} aria-hidden>
        <mask id={mask} maskUnits="userSpaceOnUse" x={0} y={0} width={width} height={height}>
          <rect width={width} height={height} fill="#fff" />
          {changing.map(({ layer, box: b }) =>
            // A group is named; what it holds is fixed, or named itself.
            'layers' in layer ? null : (
              <rect key={layer.id} x={b.x - 2} y={b.y - 2} width={b.width + 4} height={b.height + 4} />
            ),
          )}
        </mask>
        <rect width={width} height={height} className={css['veil']} mask={`url(#${mask})`} />
        {changing.map(({ layer, box, state }, i) => {
          const label = places[i]!;
          const above = label.y < box.y;
          return (
            <g key={layer.id} data-state={state} className={css['hole']}>
              <rect x={box.x - 2} y={box.y - 2} width={box.width + 4} height={box.height + 4} />
              <line
                x1={label.x + 8}
                y1={above ? label.y + label.height : label.y}
                x2={Math.max(box.x, Math.min(label.x + 8, box.x + box.width))}
                y2={above ? box.y - 2 : box.y + box.height + 2}
              />
            </g>
          );
        })}
      </svg>
      {changing.map(({ layer, state, words, all, range }, i) => {
        const { x, y, width: w, height: h } = places[i]!;
        return (
          <button
            key={layer.id}
            type="button"
            className={css['label']}
            data-state={state}
            data-chosen={chosen.has(layer.id)}
            data-changes={layer.name}
            data-tip={`${all}\n${WORDS[state]}`}
            style={{ left: x, top: y, width: w, height: h }}
            onPointerDown={(e) => e.stopPropagation()}
            onClick={() => onChoose(new Set([layer.id]))}
          >
            <b>{words}</b>
            {range && <small>{range}</small>}
          </button>
        );
      })}
      {changing.length === 0 && <p className={css['none']}>Nothing here changes: all of it is fixed.</p>}
    </div>
  );
}
