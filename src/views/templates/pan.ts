import { useEffect, useRef, useState, type PointerEvent, type RefObject } from 'react';

/** Whether a key is meant for what is typed into, or for a control that it presses. */
const isForControl = (target: EventTarget | null): boolean =>
  target instanceof Element &&
  target.closest('input, textarea, select, button, a, [contenteditable], [role="slider"]') !== null;

/** With the space bar down, or with the middle button, a drag moves what is seen of an element. */
export function usePan(area: RefObject<HTMLElement | null>) {
  const [space, setSpace] = useState(false);
  const from = useRef<{ x: number; y: number; left: number; top: number } | null>(null);
  useEffect(() => {
    const down = (event: KeyboardEvent) => {
      if (event.key !== ' ' || isForControl(event.composedPath()[0] ?? null)) return;
      // Else the page would scroll.
      event.preventDefault();
      setSpace(true);
    };
    const up = (event: KeyboardEvent) => event.key === ' ' && setSpace(false);
    addEventListener('keydown', down);
    addEventListener('keyup', up);
    return () => {
      removeEventListener('keydown', down);
      removeEventListener('keyup', up);
    };
  }, []);
  return {
    'data-panning': space || undefined,
    onPointerDownCapture: (event: PointerEvent) => {
      const el = area.current;
      if (!el || !(space || event.button === 1)) return;
      event.preventDefault();
      event.stopPropagation();
      el.setPointerCapture(event.pointerId);
      from.current = { x: event.clientX, y: event.clientY, left: el.scrollLeft, top: el.scrollTop };
    },
    onPointerMoveCapture: (event: PointerEvent) => {
      const began = from.current;
      if (!began) return;
      area.current!.scrollLeft = began.left - (event.clientX - began.x);
      area.current!.scrollTop = began.top - (event.clientY - began.y);
    },
    onPointerUpCapture: (event: PointerEvent) => {
      if (!from.current) return;
      event.stopPropagation();
      from.current = null;
    },
  };
}
