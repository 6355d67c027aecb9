import { useRef, type PointerEvent, type RefObject } from 'react';

/** How far a pointer goes for one step, in px; further with Alt, for small changes. */
const STEP = 2;
const FINE = 10;
/** What is less than this is a press, in px. */
const PRESS = 4;

/**
 * Makes a number follow a pointer that is dragged to its right or left over the box that it stands in; a press without a drag
 * enters the box as before. Shift goes ten steps at a time.
 * @param value what stands there: a number, or several that are changed alike
 * @param go is told how many steps from where the drag began, and what stood there then
 */
export function useScrub<T>(
  box: RefObject<HTMLInputElement | null>,
  value: T | null,
  go: (from: T, steps: number) => void,
) {
  const drag = useRef<{ x: number; from: T; moved: boolean } | null>(null);
  return {
    onPointerDown: (event: PointerEvent<HTMLInputElement>) => {
      // Who types drags over letters, and a finger scrolls.
      const typing = document.activeElement === box.current;
      if (event.button !== 0 || event.pointerType === 'touch' || value === null || typing) return;
      drag.current = { x: event.clientX, from: value, moved: false };
      event.currentTarget.setPointerCapture(event.pointerId);
    },
    onMouseDown: (event: { preventDefault: () => void }) => {
      if (drag.current) event.preventDefault();
    },
    onPointerMove: (event: PointerEvent<HTMLInputElement>) => {
      const { current } = drag;
      if (!current) return;
      const far = event.clientX - current.x;
      if (!current.moved && Math.abs(far) < PRESS) return;
      current.moved = true;
      const steps = Math.trunc(far / (event.altKey ? FINE : STEP));
      go(current.from, event.shiftKey ? 10 * steps : steps);
    },
    onPointerUp: () => {
      if (drag.current && !drag.current.moved) box.current?.focus();
      drag.current = null;
    },
    onPointerCancel: () => {
      if (drag.current?.moved) go(drag.current.from, 0);
      drag.current = null;
    },
  };
}
