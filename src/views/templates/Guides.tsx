import { useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { GuideLines } from '../../core/layers/kinds.ts';
import css from './Guides.module.css';

type Axis = keyof GuideLines;

/** Steps that people count in. */
const STEPS = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000];
/** How far numbers of a ruler stand apart at least, in px of the screen. */
const APART = 48;

/** Where a ruler has its marks, in px of the layout. */
const marksOf = (length: number, zoom: number): number[] => {
  const step = STEPS.find((s) => s * zoom >= APART) ?? 10_000;
  return Array.from({ length: Math.floor(length / step) + 1 }, (_, i) => i * step);
};

/** Rulers beside the sheet, and the guides that are drawn from them: layers are drawn in by guides. */
export function Guides({
  width,
  height,
  zoom,
  guides,
  onGuides,
}: {
  /** The layout's, in its px. */
  width: number;
  height: number;
  zoom: number;
  guides: GuideLines;
  onGuides: (guides: GuideLines, text: string) => void;
}) {
  /** The guide that is dragged: which it was, null for a new one, and where it is now. */
  const [held, setHeld] = useState<{ axis: Axis; at: number | null; to: number } | null>(null);
  const lengthOf = (axis: Axis) => (axis === 'x' ? width : height);
  const place = (event: PointerEvent, axis: Axis) => {
    const { left, top } = event.currentTarget.closest('[data-behind]')!.getBoundingClientRect();
    return Math.round((axis === 'x' ? event.clientX - left : event.clientY - top) / zoom);
  };
  const put = (axis: Axis, at: number | null, to: number | null) => {
    const list = guides[axis].filter((_, i) => i !== at);
    const next = to === null || list.includes(to) ? list : [...list, to];
    onGuides(
      { ...guides, [axis]: next.sort((a, b) => a - b) },
      to === null ? 'Removed a guide' : at === null ? 'Drew a guide' : 'Moved a guide',
    );
  };
  const drag = (axis: Axis, at: number | null) => ({
    onPointerDown: (event: PointerEvent) => {
      event.stopPropagation();
      event.currentTarget.setPointerCapture(event.pointerId);
      setHeld({ axis, at, to: place(event, axis) });
    },
    onPointerMove: (event: PointerEvent) => {
      if (held) setHeld({ ...held, to: place(event, axis) });
    },
    onPointerUp: (event: PointerEvent) => {
      event.stopPropagation();
      if (!held) return;
      setHeld(null);
      // One that is dragged off the sheet is gone.
      const within = held.to >= 0 && held.to <= lengthOf(axis);
      if (within || at !== null) put(axis, at, within ? held.to : null);
    },
    onPointerCancel: () => setHeld(null),
  });
  const keys = (event: KeyboardEvent, axis: Axis, at: number) => {
    const by = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 }[event.key];
    if (event.key === 'Delete' || event.key === 'Backspace') put(axis, at, null);
    else if (by) put(axis, at, guides[axis][at]! + by * (event.shiftKey ? 10 : 1));
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <>
      {(['x', 'y'] as const).map((axis) => (
        <div
          key={axis}
          className={css['ruler']}
          data-axis={axis}
          data-ruler={axis}
          data-tip="Drag onto the sheet for a guide"
          {...drag(axis, null)}
        >
          {marksOf(lengthOf(axis), zoom).map((at) => (
            <span key={at} style={{ [axis === 'x' ? 'left' : 'top']: at * zoom }}>
              {at}
            </span>
          ))}
        </div>
      ))}
      {(['x', 'y'] as const).flatMap((axis) =>
        guides[axis].map((where, at) => {
          const now = held?.axis === axis && held.at === at ? held.to : where;
          return (
            <div
              key={`${axis}${at}`}
              className={css['guide']}
              data-axis={axis}
              data-guide={now}
              role="slider"
              tabIndex={0}
              aria-label={`Guide ${axis === 'x' ? 'down' : 'across'} at ${now} px`}
              aria-valuenow={now}
              style={{ [axis === 'x' ? 'left' : 'top']: now * zoom }}
              onKeyDown={(event) => keys(event, axis, at)}
              {...drag(axis, at)}
            >
              {/* What draws layers in is as thin as it looks. */}
              <i data-guide-line />
            </div>
          );
        }),
      )}
      {held?.at === null && (
        <div
          className={css['guide']}
          data-axis={held.axis}
          style={{ [held.axis === 'x' ? 'left' : 'top']: held.to * zoom }}
        >
          <i />
        </div>
      )}
      {held && (
        <output
          className={css['where']}
          style={
            held.axis === 'x' ? { left: held.to * zoom + 6, top: 4 } : { left: 6, top: held.to * zoom + 4 }
          }
        >
          {held.to} px
        </output>
      )}
    </>
  );
}
