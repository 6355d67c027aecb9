import { useEffect, useRef, useState } from 'react';
import type { Scalar } from '../../core/board/values.ts';
import type { Layout } from '../../core/layers/kinds.ts';
import type { Desk } from './desk.ts';
import { useOwnStage } from './own-stage.ts';
import css from './Still.module.css';

/** Those that wait to be drawn: one a frame, so that a list of many never holds the page up. */
const waiting: (() => void)[] = [];
function drawNext(): void {
  waiting.shift()?.();
  if (waiting.length) requestAnimationFrame(drawNext);
}

/** True once it is seen and its turn has come. */
function useTurn(root: React.RefObject<HTMLElement | null>): boolean {
  const [turn, setTurn] = useState(false);
  useEffect(() => {
    const mine = () => setTurn(true);
    const look = new IntersectionObserver((entries) => {
      if (!entries.some((e) => e.isIntersecting)) return;
      look.disconnect();
      waiting.push(mine);
      if (waiting.length === 1) requestAnimationFrame(drawNext);
    });
    look.observe(root.current!);
    return () => {
      look.disconnect();
      const at = waiting.indexOf(mine);
      // The first one stays, and does nothing: it is what goes on with the rest.
      if (at > 0) waiting.splice(at, 1);
    };
  }, [root]);
  return turn;
}

/** A layout as the stage draws it, as large as there is room, with these inputs and the board as it is. It does not move. */
export function Still(shown: Shown) {
  const frame = useRef<HTMLSpanElement>(null);
  const turn = useTurn(frame);
  const { width = 196, height = 110 } = shown;
  return (
    <span ref={frame} className={css['still']} style={{ width, height }} aria-hidden>
      {turn && <Drawn {...shown} width={width} height={height} />}
    </span>
  );
}

interface Shown {
  desk: Desk;
  layout: Layout;
  inputs: Record<string, Scalar>;
  /** How large it is, in px. */
  width?: number;
  height?: number;
}

function Drawn({ desk, layout, inputs, width, height }: Required<Shown>) {
  const root = useRef<HTMLSpanElement>(null);
  useOwnStage(desk, root, { name: 'still', layout, inputs, still: true });
  const scale = `min(${width} / ${layout.width}, ${height} / ${layout.height})`;
  return <span ref={root} style={{ scale: `calc(${scale})`, transformOrigin: 'center', flex: 'none' }} />;
}
