import { useState } from 'react';
import ArrowDown from 'lucide-react/icons/arrow-down';
import ArrowUp from 'lucide-react/icons/arrow-up';
import Grip from 'lucide-react/icons/grip-vertical';
import Trash from 'lucide-react/icons/trash';
import type { Output, Zone } from '../../core/show/show.ts';
import { coversAll, FARTHEST } from '../../core/show/zones.ts';
import { Button } from '../../ui/Button.tsx';
import { NumberField } from '../../ui/NumberField.tsx';
import { tip } from '../../ui/tip.ts';
import shell from '../shared/View.module.css';
import css from './OutputsView.module.css';

const SIDES = [
  ['x', 'Left'],
  ['y', 'Top'],
  ['width', 'Width'],
  ['height', 'Height'],
] as const;

/** The zones in numbers, the one in front first. */
export function ZoneTable({
  output,
  chosen,
  onAir,
  onChoose,
  onSet,
  onEnd,
  onOrder,
  onRemove,
}: {
  output: Output;
  chosen: string | null;
  /** What is on air in a zone, by name; null for nothing. */
  onAir: (zone: string) => string | null;
  onChoose: (zone: string) => void;
  onSet: (zone: string, part: Partial<Zone>, text: string, entry: string) => void;
  /** What was typed is one step. */
  onEnd: () => void;
  /** Puts a zone in front of so many others. */
  onOrder: (zone: string, to: number) => void;
  onRemove: (zone: string) => void;
}) {
  const { zones } = output;
  const [dragged, drag] = useState<string | null>(null);
  const [over, setOver] = useState<string | null>(null);
  const end = () => {
    drag(null);
    setOver(null);
  };
  return (
    <div className={`${shell['cells']} ${css['zones']}`}>
      <table>
        <thead>
          <tr>
            <th>Front to back</th>
            {SIDES.map(([of, name]) => (
              <th key={of}>{name}</th>
            ))}
            <th>On air</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {zones
            .map((zone, at) => (
              <tr
                key={zone.key}
                data-zone={zone.key}
                data-chosen={zone.key === chosen || undefined}
                data-drop={(zone.key === over && zone.key !== dragged) || undefined}
                onDragOver={(event) => {
                  if (dragged === null) return;
                  event.preventDefault();
                  setOver(zone.key);
                }}
                onDrop={(event) => {
                  event.preventDefault();
                  if (dragged !== null && dragged !== zone.key) onOrder(dragged, at);
                  end();
                }}
                onFocus={() => onChoose(zone.key)}
                onPointerDown={() => onChoose(zone.key)}
              >
                <td className={css['named-zone']}>
                  <span
                    draggable
                    className={css['grip']}
                    data-tip="Drag to the front or the back"
                    aria-hidden
                    onDragStart={(event) => {
                      event.dataTransfer.effectAllowed = 'move';
                      event.dataTransfer.setDragImage(event.currentTarget.closest('tr')!, 8, 12);
                      drag(zone.key);
                    }}
                    onDragEnd={end}
                  >
                    <Grip size={14} />
                  </span>
                  <input
                    aria-label={`Name of ${zone.name}`}
                    value={zone.name}
                    maxLength={80}
                    onChange={(e) =>
                      onSet(zone.key, { name: e.target.value }, `Renamed ${zone.name}`, 'name')
                    }
                    onBlur={onEnd}
                  />
                </td>
                {SIDES.map(([of, name]) => (
                  <td key={of} onBlur={onEnd}>
                    <NumberField
                      name={`${name} of ${zone.name}`}
                      value={zone[of]}
                      min={of === 'x' || of === 'y' ? -FARTHEST : 1}
                      max={FARTHEST}
                      size={4}
                      onChange={(n) =>
                        onSet(zone.key, { [of]: n }, `Changed the ${name.toLowerCase()} of ${zone.name}`, of)
                      }
                    />
                  </td>
                ))}
                <td className={css['on']}>
                  {onAir(zone.key) ?? (coversAll(output, zone) ? 'covers all' : '')}
                </td>
                <td className={css['marks']}>
                  <Button
                    aria-label={`${zone.name} further to the front`}
                    {...tip('Further to the front')}
                    disabled={at === zones.length - 1}
                    onClick={() => onOrder(zone.key, at + 1)}
                  >
                    <ArrowUp size={14} />
                  </Button>
                  <Button
                    aria-label={`${zone.name} further to the back`}
                    {...tip('Further to the back')}
                    disabled={at === 0}
                    onClick={() => onOrder(zone.key, at - 1)}
                  >
                    <ArrowDown size={14} />
                  </Button>
                  <Button
                    aria-label={`Delete ${zone.name}`}
                    {...tip('Delete')}
                    disabled={zones.length === 1}
                    onClick={() => onRemove(zone.key)}
                  >
                    <Trash size={14} />
                  </Button>
                </td>
              </tr>
            ))
            .reverse()}
        </tbody>
      </table>
    </div>
  );
}
