import { useEffect, useRef } from 'react';
import type { Scalar } from '../../core/board/values.ts';
import { Resolver } from '../../core/resolve/resolver.ts';
import type { Layout } from '../../core/layers/kinds.ts';
import { fontsReady, Stage } from '../../stage/stage.ts';
import type { Desk } from '../shared/desk.ts';
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
  useEffect(() => {
    let gone = false;
    let stage: Stage | null = null;
    void fontsReady().then(() => {
      if (gone) return;
      stage = new Stage(root.current!, desk.link.serverNow);
      const states = new Resolver(desk, desk.picture).mount('still', layout, inputs);
      const box = { x: 0, y: 0, width, height };
      const item = { mount: 'still', zone: 'still', box, item: 'still', template: 'still', layout, states };
      stage.show({ output: { key: 'still', width, height }, items: [item] });
    });
    return () => {
      gone = true;
      stage?.destroy();
    };
  }, [desk, layout, inputs, width, height]);
  const scale = `min(${WIDTH} / ${width}, ${HEIGHT} / ${height})`;
  return (
    <span className={css['still']} style={{ width: WIDTH, height: HEIGHT }} aria-hidden>
      <span ref={root} style={{ scale: `calc(${scale})`, transformOrigin: 'center', flex: 'none' }} />
    </span>
  );
}

/** How large a still is, in px. */
export const WIDTH = 264;
export const HEIGHT = 132;
