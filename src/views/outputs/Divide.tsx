import { useState } from 'react';
import type { Output, Zone } from '../../core/show/show.ts';
import {
  along,
  divided,
  dividedZones,
  inParts,
  MOST_PARTS,
  readSizes,
  type Axis,
} from '../../core/show/zones.ts';
import { Button } from '../../ui/Button.tsx';
import { NumberField } from '../../ui/NumberField.tsx';
import { Segments } from '../../ui/Segments.tsx';
import shell from '../shared/View.module.css';
import css from './OutputsView.module.css';

/** Divides the board, or the chosen zone, into parts: equal ones, or of sizes that are typed; each is named as it is made. */
export function Divide({
  output,
  zone,
  usedBy,
  onZones,
}: {
  output: Output;
  zone: Zone | null;
  /** The item that is on air in a zone or goes there, by name; null for none. */
  usedBy: (zone: string) => string | null;
  onZones: (text: string, zones: Zone[]) => void;
}) {
  const [axis, setAxis] = useState<Axis>('across');
  const [parts, setParts] = useState(3);
  const [typed, setTyped] = useState('');
  const [names, setNames] = useState<readonly string[]>([]);
  const area = zone ?? { x: 0, y: 0, width: output.width, height: output.height };
  const most = axis === 'across' ? area.width : area.height;
  const sizes = typed.trim() === '' ? null : readSizes(typed);
  const sum = Array.isArray(sizes) ? sizes.reduce((all, n) => all + n, 0) : 0;
  const boxes =
    typeof sizes === 'string' ? [] : sizes ? along(area, sizes, axis) : inParts(area, parts, axis);
  const of = zone?.key ?? null;
  const made = divided(
    output,
    of,
    boxes.map((box, i) => ({ ...box, name: names[i]?.trim() ?? '' })),
    axis,
    (key) => usedBy(key) !== null,
  );
  // In the order of the parts: they are made one after another.
  const first = made.findIndex(
    (z) => boxes[0] && (['x', 'y', 'width', 'height'] as const).every((side) => z[side] === boxes[0]![side]),
  );
  const over = boxes.length ? dividedZones(output, of, axis).slice(boxes.length) : [];
  const divide = () => {
    if (!boxes.length) return;
    onZones(`Divided ${zone?.name ?? 'the board'}`, made);
    setNames([]);
  };
  const gone = over.filter((z) => usedBy(z.key) === null);
  return (
    <form
      className={shell['panel']}
      aria-label="Divide"
      onSubmit={(event) => {
        event.preventDefault();
        divide();
      }}
    >
      <b>Divide {zone ? zone.name : 'the whole board'}</b>
      <Segments
        label="Direction"
        options={[
          { value: 'across', label: 'Side by side' },
          { value: 'down', label: 'Stacked' },
        ]}
        value={axis}
        onChange={(key) => setAxis(key as Axis)}
      />
      <NumberField label="Equal parts" value={parts} min={2} max={MOST_PARTS} onChange={setParts} />
      <label className={css['named']}>
        or {axis === 'across' ? 'widths' : 'heights'}, px
        <input
          value={typed}
          maxLength={400}
          placeholder="800, 1400, 2000, 1400, 800"
          onChange={(e) => setTyped(e.target.value)}
        />
      </label>
      {typeof sizes === 'string' ? (
        <p className={shell['refused']}>{sizes}</p>
      ) : (
        sizes && (
          <p className={shell['dim']}>
            Together {sum} of {most} px
            {sum < most ? `, ${most - sum} px stay free` : sum > most ? `, ${sum - most} px too many` : ''}
          </p>
        )
      )}
      {boxes.length > 0 && (
        <details className={css['names']}>
          <summary>Names, {axis === 'across' ? 'left to right' : 'top to bottom'}</summary>
          <ol>
            {boxes.map((box, i) => (
              <li key={i}>
                <input
                  aria-label={`Name of part ${i + 1}`}
                  value={names[i] ?? ''}
                  maxLength={80}
                  placeholder={made[first + i]?.name ?? ''}
                  onChange={(e) =>
                    setNames(
                      Array.from({ length: boxes.length }, (_, at) =>
                        at === i ? e.target.value : (names[at] ?? ''),
                      ),
                    )
                  }
                />
                <small>{axis === 'across' ? box.width : box.height}</small>
              </li>
            ))}
          </ol>
        </details>
      )}
      {gone.length > 0 && <p className={shell['dim']}>{gone.map((z) => z.name).join(', ')}: deleted</p>}
      {over.map((z) => {
        const item = usedBy(z.key);
        return (
          item !== null && (
            <p key={z.key} className={shell['dim']}>
              {z.name} stays: {item} goes there
            </p>
          )
        );
      })}
      <Button type="submit" disabled={typeof sizes === 'string'}>
        Divide
      </Button>
    </form>
  );
}
