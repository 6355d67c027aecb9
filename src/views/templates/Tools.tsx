import type { LayerKind } from '../../core/layers/kinds.ts';
import { Button } from '../../ui/Button.tsx';
import type { Showing } from './showing.ts';
import css from './WorkshopView.module.css';

/** What can be drawn: its kind, what it is called, and its key. */
export const DRAWN: [LayerKind, string, string][] = [
  ['text', 'Text', 'T'],
  ['shape', 'Shape', 'R'],
  ['picture', 'Picture', 'P'],
  ['clock', 'Clock', 'C'],
  ['pips', 'Pips', ''],
  ['line', 'Line', ''],
];

/** What is drawn next, and how the canvas shows it. */
export function Tools({
  drawing,
  onDraw,
  showing,
  changes,
  onChanges,
  behind,
  onBehind,
  safe,
  onSafe,
  guides,
  onGuides,
  zoom,
  onZoom,
}: {
  drawing: LayerKind | null;
  onDraw: (kind: LayerKind | null) => void;
  showing: Showing;
  /** What is fixed is dimmed, and what changes is named. */
  changes: boolean;
  onChanges: (on: boolean) => void;
  behind: string;
  onBehind: (behind: string) => void;
  safe: boolean;
  onSafe: (on: boolean) => void;
  guides: boolean;
  onGuides: (on: boolean) => void;
  zoom: number | null;
  onZoom: (zoom: number | null) => void;
}) {
  return (
    <div className={css['tools']} role="toolbar" aria-label="Draw and arrange">
      {DRAWN.map(([kind, name, key]) => (
        <Button
          key={kind}
          {...(key ? { shortcut: key } : {})}
          aria-pressed={drawing === kind}
          onClick={() => onDraw(drawing === kind ? null : kind)}
        >
          {name}
        </Button>
      ))}
      <span className={css['gap']} />
      <Button shortcut="W" aria-pressed={changes} onClick={() => onChanges(!changes)}>
        What changes
      </Button>
      <select
        aria-label="Shows"
        className={css['shows']}
        value={showing.chosen}
        onChange={(e) => showing.choose(e.target.value)}
      >
        {showing.choices.map(({ heading, of }) => (
          <optgroup key={heading} label={heading}>
            {of.map(({ key, name }) => (
              <option key={key} value={key}>
                {name}
              </option>
            ))}
          </optgroup>
        ))}
      </select>
      {showing.records && <Stepper {...showing.records} />}
      <select aria-label="Behind" value={behind} onChange={(e) => onBehind(e.target.value)}>
        <option value="checker">over a checker</option>
        <option value="camera">over a camera</option>
        <option value="dark">over black</option>
        <option value="light">over white</option>
      </select>
      <Button aria-pressed={safe} onClick={() => onSafe(!safe)} data-tip="EBU R 95: action and graphics safe">
        Safe areas
      </Button>
      <Button aria-pressed={guides} onClick={() => onGuides(!guides)} data-tip="Drag a guide from a ruler">
        Guides
      </Button>
      <select
        aria-label="Zoom"
        value={zoom === null ? 'fit' : String(zoom)}
        onChange={(e) => onZoom(e.target.value === 'fit' ? null : Number(e.target.value))}
      >
        <option value="fit">fit</option>
        {[...new Set([0.25, 0.5, 1, 2, 4, 8, ...(zoom === null ? [] : [zoom])])]
          .sort((a, b) => a - b)
          .map((z) => (
            <option key={z} value={z}>
              {Math.round(z * 100)} %
            </option>
          ))}
      </select>
    </div>
  );
}

/** Goes through records one by one; with nothing chosen, the arrow keys on the canvas do too. */
function Stepper({ at, of, label, step }: NonNullable<Showing['records']>) {
  return (
    <span
      className={css['stepper']}
      role="group"
      aria-label="One by one"
      onKeyDown={(e) => {
        const by = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 }[e.key];
        if (by === undefined) return;
        e.preventDefault();
        step(by);
      }}
    >
      <Button aria-label="The one before" disabled={of === 0} onClick={() => step(-1)}>
        ‹
      </Button>
      <output data-tip={label}>{of === 0 ? 'none' : `${at + 1} of ${of}: ${label}`}</output>
      <Button aria-label="The next one" disabled={of === 0} onClick={() => step(1)}>
        ›
      </Button>
    </span>
  );
}
