import { useEffect, useLayoutEffect, useRef, type RefObject } from 'react';
import type { Scalar } from '../../core/board/values.ts';
import type { LayerProps, Layout } from '../../core/layers/kinds.ts';
import { facesOf } from '../../core/text/families.ts';
import type { BoardReader } from '../../core/resolve/dependents.ts';
import { Resolver } from '../../core/resolve/resolver.ts';
import { fontsReady, Stage } from '../../stage/stage.ts';
import { useStable } from '../../ui/stable.ts';
import type { Desk } from './desk.ts';

const MOUNT = 'own';

interface Shown {
  /** What it is: another one is not the same in another form. */
  name: string;
  layout: Layout;
  inputs: Record<string, Scalar>;
  /** The layout as it is by now, where the page may be behind: never an older one is drawn over it. */
  latest?: () => Layout;
  /** How large it stands, in px; as large as the layout where nothing is said. */
  size?: { width: number; height: number };
  /** Called each time it was drawn anew. */
  onDrawn?: (stage: Stage) => void;
  /** Called each time that the board changed what it shows. */
  onChanged?: (stage: Stage) => void;
  /** It stays as it was drawn, whatever the board says next. */
  still?: boolean;
  /** It is not there: it leaves, and comes again, as it does on air. */
  out?: boolean;
  /** What it reads in the place of the board. */
  board?: BoardReader | null;
}

/**
 * Shows one layout with its inputs on a stage that shows nothing else; `moving`, it comes as it does on air. Gives what its
 * Values say, by the layers' ids.
 */
export function showAlone(
  stage: Stage,
  resolver: Resolver,
  { name, layout, inputs, size = layout }: Pick<Shown, 'name' | 'layout' | 'inputs' | 'size'>,
  moving = false,
): Record<string, LayerProps> {
  const { width, height } = size;
  const states = resolver.mount(MOUNT, layout, inputs);
  const box = { x: 0, y: 0, width, height };
  const item = { mount: MOUNT, zone: MOUNT, box, level: 0, item: name, template: name, layout, states };
  if (moving) stage.take(item, true);
  else stage.show({ output: { key: MOUNT, width, height, background: {} }, items: [item] });
  return states;
}

/**
 * A stage of the page's own in an element: a layout with its inputs, worked out in the page from the same board as on air. Gives
 * what draws the latest at once, before the page follows.
 */
export function useOwnStage(desk: Desk, root: RefObject<HTMLElement | null>, shown: Shown): () => void {
  const { name, layout, inputs, size = layout, still = false, out = false } = shown;
  const wasOut = useRef(false);
  const board = shown.board ?? desk;
  const { width, height } = size;
  const running = useRef<{ stage: Stage; resolver: Resolver; board: BoardReader } | null>(null);
  const draw = useStable((ahead = false) => {
    if (!running.current) return;
    const { stage } = running.current;
    if (running.current.board !== board)
      running.current = { stage, board, resolver: new Resolver(board, desk.picture) };
    const { resolver } = running.current;
    const came = wasOut.current && !out;
    if (out && !wasOut.current) stage.clear(MOUNT, true);
    wasOut.current = out;
    if (out) return;
    const latest = shown.latest?.() ?? layout;
    showAlone(stage, resolver, { name, layout: latest, inputs, size: shown.size ?? latest }, came);
    if (!ahead) shown.onDrawn?.(stage);
  });
  const changed = useStable((stage: Stage) => shown.onChanged?.(stage));
  const first = useRef(layout);
  useEffect(() => {
    let gone = false;
    let off = () => {};
    void fontsReady(facesOf([first.current])).then(() => {
      if (gone) return;
      const stage = new Stage(root.current!, desk.link.serverNow);
      running.current = { stage, board: desk, resolver: new Resolver(desk, desk.picture) };
      draw();
      if (!still)
        off = desk.onFields((keys) => {
          const deltas = running.current!.resolver.touch(keys);
          stage.perform([{ op: 'layers', deltas }]);
          if (deltas.length) changed(stage);
        });
    });
    return () => {
      gone = true;
      off();
      running.current?.stage.destroy();
      running.current = null;
    };
  }, [desk, root, still, draw, changed]);
  useLayoutEffect(() => draw(), [draw, name, layout, inputs, width, height, board, out]);
  return useStable(() => draw(true));
}
