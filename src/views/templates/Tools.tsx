import type { LayerKind } from '../../core/layers/kinds.ts';
import { Button } from '../../ui/Button.tsx';
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
  items,
  like,
  onLike,
  behind,
  onBehind,
  safe,
  onSafe,
  zoom,
  onZoom,
}: {
  drawing: LayerKind | null;
  onDraw: (kind: LayerKind | null) => void;
  /** Items of the template: the canvas shows it as one of them has it filled in, or as its samples. */
  items: readonly { id: string; name: string }[];
  like: string;
  onLike: (item: string) => void;
  behind: string;
  onBehind: (behind: string) => void;
  safe: boolean;
  onSafe: (on: boolean) => void;
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
      {items.length > 0 && (
        <select aria-label="Filled in as" value={like} onChange={(e) => onLike(e.target.value)}>
          <option value="">as samples</option>
          {items.map((i) => (
            <option key={i.id} value={i.id}>
              as {i.name}
            </option>
          ))}
        </select>
      )}
      <select aria-label="Behind" value={behind} onChange={(e) => onBehind(e.target.value)}>
        <option value="checker">over a checker</option>
        <option value="camera">over a camera</option>
        <option value="dark">over black</option>
        <option value="light">over white</option>
      </select>
      <Button aria-pressed={safe} onClick={() => onSafe(!safe)}>
        Safe areas
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
