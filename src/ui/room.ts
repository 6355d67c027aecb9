import { useLayoutEffect, useState, type RefObject } from 'react';

/** How much room an element has inside, in px without its scroll bars: known before anything of it is seen, and kept. */
export function useRoom(ref: RefObject<HTMLElement | null>): { width: number; height: number } {
  const [room, setRoom] = useState({ width: 0, height: 0 });
  useLayoutEffect(() => {
    const measure = () => {
      const { clientWidth, clientHeight } = ref.current!;
      setRoom({ width: clientWidth, height: clientHeight });
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(ref.current!);
    return () => observer.disconnect();
  }, [ref]);
  return room;
}
