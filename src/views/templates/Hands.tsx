import { useRef, type Ref } from 'react';
import Moveable from 'react-moveable';
import type { Box } from '../../core/workshop/boxes.ts';
import { useStable } from '../../ui/stable.ts';
import css from './Canvas.module.css';

/** How one layer was changed by hand: only what was. */
export type Changed = Partial<Box> & { rotation?: number };

/** How near edges draw each other in, in px of the screen. */
const SNAP = 6;

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

/** What takes hold of layers where they are drawn: moves, resizes, rotates, and draws in to what stands beside. */
export function Hands({
  ref,
  targets,
  guides,
  onChanged,
}: {
  ref: Ref<Moveable>;
  targets: readonly HTMLElement[];
  /** What edges are drawn in by. */
  guides: readonly HTMLElement[];
  /** Layers were changed, each in what holds it. */
  onChanged: (changes: ReadonlyMap<string, Changed>, text: string) => void;
}) {
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

  return (
    <Moveable
      ref={ref}
      target={targets as HTMLElement[]}
      className={css['hands']!}
      draggable
      resizable
      rotatable={targets.length === 1}
      origin={false}
      throttleDrag={1}
      throttleResize={1}
      snappable
      snapThreshold={SNAP}
      isDisplaySnapDigit
      snapGap
      snapDirections={{
        left: true,
        top: true,
        right: true,
        bottom: true,
        center: true,
        middle: true,
      }}
      elementSnapDirections={{
        left: true,
        top: true,
        right: true,
        bottom: true,
        center: true,
        middle: true,
      }}
      elementGuidelines={guides as HTMLElement[]}
      snapRotationDegrees={[0, 45, 90, 135, 180, 225, 270, 315]}
      onDragStart={({ target, set }) => {
        const { x, y } = boxIn(target as HTMLElement);
        set([x, y]);
      }}
      onDrag={({ target, beforeTranslate: [x, y] }) => hold(target, { x: round(x!), y: round(y!) })}
      onDragEnd={() => done('Moved')}
      onDragGroupStart={({ events }) =>
        events.forEach(({ target, set }) => {
          const { x, y } = boxIn(target as HTMLElement);
          set([x, y]);
        })
      }
      onDragGroup={({ events }) =>
        events.forEach(({ target, beforeTranslate: [x, y] }) => hold(target, { x: round(x!), y: round(y!) }))
      }
      onDragGroupEnd={() => done('Moved')}
      onResizeStart={({ target, setMin, dragStart }) => {
        setMin([1, 1]);
        const { x, y } = boxIn(target as HTMLElement);
        if (dragStart) dragStart.set([x, y]);
      }}
      onBeforeResize={({ setFixedDirection, inputEvent }) => {
        if ((inputEvent as MouseEvent).altKey) setFixedDirection([0, 0]);
      }}
      onResize={({ target, width: w, height: h, drag }) =>
        hold(target, {
          x: round(drag.beforeTranslate[0]!),
          y: round(drag.beforeTranslate[1]!),
          width: round(w),
          height: round(h),
        })
      }
      onResizeEnd={() => done('Resized')}
      onResizeGroupStart={({ events }) =>
        events.forEach(({ target, dragStart }) => {
          const { x, y } = boxIn(target as HTMLElement);
          if (dragStart) dragStart.set([x, y]);
        })
      }
      onResizeGroup={({ events }) =>
        events.forEach(({ target, width: w, height: h, drag }) =>
          hold(target, {
            x: round(drag.beforeTranslate[0]!),
            y: round(drag.beforeTranslate[1]!),
            width: round(w),
            height: round(h),
          }),
        )
      }
      onResizeGroupEnd={() => done('Resized')}
      onRotateStart={({ target, set }) => set(number((target as HTMLElement).style.rotate))}
      onRotate={({ target, beforeRotate }) => hold(target, { rotation: round(beforeRotate) })}
      onRotateEnd={() => done('Rotated')}
    />
  );
}
