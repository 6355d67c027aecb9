import { useEffect, useRef, useState, type Ref, type RefObject } from 'react';
import Moveable, { type OnDrag, type OnDragStart, type OnResize, type OnResizeStart } from 'react-moveable';
import type { Box } from '../../core/text/fit.ts';
import { useStable } from '../../ui/stable.ts';
import css from './Handles.module.css';

/** How one layer was changed by hand: only what was. */
export type Changed = Partial<Box> & { rotation?: number };

/** How near edges draw each other in, in px of the screen. */
const SNAP = 6;

/** What of a layer is drawn in, and what of others draws it. */
const DRAWN_BY = { left: true, top: true, right: true, bottom: true, center: true, middle: true };

const round = Math.round;
const number = (text: string) => Number.parseFloat(text) || 0;
/** Where an element stands in what holds it, as it is drawn. */
const boxIn = ({ style }: HTMLElement): Box => ({
  x: number(style.left),
  y: number(style.top),
  width: number(style.width),
  height: number(style.height),
});
/** Puts an element where a hand has it, until the document says so. */
function put({ style }: HTMLElement, { x, y, width, height, rotation }: Changed): void {
  if (x !== undefined) style.left = `${x}px`;
  if (y !== undefined) style.top = `${y}px`;
  if (width !== undefined) style.width = `${width}px`;
  if (height !== undefined) style.height = `${height}px`;
  if (rotation !== undefined) style.rotate = `${rotation}deg`;
}

/**
 * Takes hold, with the press that chose it, of what the hands stand on two frames later. A press that is over by then (a tap)
 * was none to drag with: what is taken hold of without a hand on it would go wherever the pointer goes next.
 */
export function takeAtOnce(hands: RefObject<Moveable | null>, press: PointerEvent): void {
  const over = new AbortController();
  for (const end of ['pointerup', 'pointercancel'])
    window.addEventListener(end, () => over.abort(), { capture: true, signal: over.signal });
  const take = () => {
    if (!over.signal.aborted) hands.current?.dragStart(press);
    over.abort();
  };
  requestAnimationFrame(() => requestAnimationFrame(take));
}

/** Whether Shift is held: also one that is pressed, or let go, while something is dragged. */
function useShift(): boolean {
  const [held, setHeld] = useState(false);
  useEffect(() => {
    const over = new AbortController();
    const look = (event: KeyboardEvent) => setHeld(event.shiftKey);
    window.addEventListener('keydown', look, { capture: true, signal: over.signal });
    window.addEventListener('keyup', look, { capture: true, signal: over.signal });
    window.addEventListener('blur', () => setHeld(false), { signal: over.signal });
    return () => over.abort();
  }, []);
  return held;
}

/** What takes hold of layers where they are drawn: moves, resizes, rotates, and draws in to what stands beside. */
export function Handles({
  ref,
  targets,
  guides,
  rotates = true,
  onChanged,
}: {
  ref: Ref<Moveable>;
  targets: readonly HTMLElement[];
  /** What edges are drawn in by. */
  guides: readonly HTMLElement[];
  /** One alone can be turned. */
  rotates?: boolean;
  /** Layers were changed, each in what holds it. */
  onChanged: (changes: ReadonlyMap<string, Changed>, text: string) => void;
}) {
  const shift = useShift();
  // What a hand does is drawn at once and told once it is done.
  const by = useRef(new Map<string, Changed>());
  const hold = (target: HTMLElement | SVGElement, part: Changed) => {
    const el = target as HTMLElement;
    put(el, part);
    const id = el.dataset['id'];
    if (id !== undefined) by.current.set(id, { ...by.current.get(id), ...part });
  };
  const done = useStable((text: string) => {
    const changes = by.current;
    by.current = new Map();
    if (changes.size) onChanged(changes, text);
  });

  // Layers stand by left and top: what a hand adds is counted from there.
  const begin = ({ target, set }: Pick<OnDragStart, 'target' | 'set'>) => {
    const { x, y } = boxIn(target as HTMLElement);
    set([x, y]);
  };
  const moved = ({ target, beforeTranslate: [x, y] }: Pick<OnDrag, 'target' | 'beforeTranslate'>) =>
    hold(target, { x: round(x!), y: round(y!) });
  const beginResize = ({ target, dragStart }: Pick<OnResizeStart, 'target' | 'dragStart'>) => {
    if (dragStart) begin({ target, set: dragStart.set });
  };
  const resized = ({
    target,
    width,
    height,
    drag,
  }: Pick<OnResize, 'target' | 'width' | 'height' | 'drag'>) => {
    const [x, y] = drag.beforeTranslate;
    hold(target, { x: round(x!), y: round(y!), width: round(width), height: round(height) });
  };

  return (
    <Moveable
      ref={ref}
      target={targets as HTMLElement[]}
      className={css['hands']!}
      draggable
      resizable
      rotatable={rotates && targets.length === 1}
      origin={false}
      throttleDrag={1}
      throttleResize={1}
      // With Shift a drag keeps to one axis, a size its proportion, a turn its steps.
      keepRatio={shift}
      throttleDragRotate={shift ? 90 : 0}
      throttleRotate={shift ? 15 : 1}
      snappable
      snapThreshold={SNAP}
      isDisplaySnapDigit
      snapGap
      snapDirections={DRAWN_BY}
      elementSnapDirections={DRAWN_BY}
      elementGuidelines={guides as HTMLElement[]}
      snapRotationDegrees={[0, 45, 90, 135, 180, 225, 270, 315]}
      onDragStart={begin}
      onDrag={moved}
      onDragEnd={() => done('Moved')}
      onDragGroupStart={({ events }) => events.forEach(begin)}
      onDragGroup={({ events }) => events.forEach(moved)}
      onDragGroupEnd={() => done('Moved')}
      onResizeStart={(event) => {
        event.setMin([1, 1]);
        beginResize(event);
      }}
      onBeforeResize={({ setFixedDirection, inputEvent }) => {
        if ((inputEvent as MouseEvent).altKey) setFixedDirection([0, 0]);
      }}
      onResize={resized}
      onResizeEnd={() => done('Resized')}
      onResizeGroupStart={({ events }) => events.forEach(beginResize)}
      onResizeGroup={({ events }) => events.forEach(resized)}
      onResizeGroupEnd={() => done('Resized')}
      onRotateStart={({ target, set }) => set(number((target as HTMLElement).style.rotate))}
      onRotate={({ target, beforeRotate }) => hold(target, { rotation: round(beforeRotate) })}
      onRotateEnd={() => done('Rotated')}
    />
  );
}
