import { useRef } from 'react';
import type { Scalar } from '../../core/board/values.ts';
import type { Layout } from '../../core/layers/kinds.ts';
import type { Desk } from '../shared/desk.ts';
import { useOwnStage } from '../shared/own-stage.ts';
import css from './Still.module.css';

/** A layout as the stage draws it, as large as there is room, with these inputs and the board as it is. It does not move. */
export function Still({
  desk,
  layout,
  inputs,
}: {
  desk: Desk;
  layout: Layout;
  inputs: Record<string, Scalar>;
}) {
  const root = useRef<HTMLSpanElement>(null);
  const { width, height } = layout;
  useOwnStage(desk, root, { name: 'still', layout, inputs, still: true });
  const scale = `min(${WIDTH} / ${width}, ${HEIGHT} / ${height})`;
  return (
    <span className={css['still']} style={{ width: WIDTH, height: HEIGHT }} aria-hidden>
      <span ref={root} style={{ scale: `calc(${scale})`, transformOrigin: 'center', flex: 'none' }} />
    </span>
  );
}

/** How large a still is, in px. */
export const WIDTH = 196;
export const HEIGHT = 110;
