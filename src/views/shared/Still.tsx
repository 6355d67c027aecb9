import { useRef } from 'react';
import type { Scalar } from '../../core/board/values.ts';
import type { Layout } from '../../core/layers/kinds.ts';
import type { Desk } from './desk.ts';
import { useOwnStage } from './own-stage.ts';
import css from './Still.module.css';

/** A layout as the stage draws it, as large as there is room, with these inputs and the board as it is. It does not move. */
export function Still({
  desk,
  layout,
  inputs,
  width = 196,
  height = 110,
}: {
  desk: Desk;
  layout: Layout;
  inputs: Record<string, Scalar>;
  /** How large it is, in px. */
  width?: number;
  height?: number;
}) {
  const root = useRef<HTMLSpanElement>(null);
  useOwnStage(desk, root, { name: 'still', layout, inputs, still: true });
  const scale = `min(${width} / ${layout.width}, ${height} / ${layout.height})`;
  return (
    <span className={css['still']} style={{ width, height }} aria-hidden>
      <span ref={root} style={{ scale: `calc(${scale})`, transformOrigin: 'center', flex: 'none' }} />
    </span>
  );
}
