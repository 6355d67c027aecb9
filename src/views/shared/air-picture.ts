import type { Layout } from '../../core/layers/kinds.ts';
import { facesOf } from '../../core/text/families.ts';
import type { AirOp, AirSnapshot } from '../../core/wire/wire.ts';
import { openLink } from '../../stage/link.ts';
import { fontsReady, Stage } from '../../stage/stage.ts';

/**
 * Draws in an element what is on an output, as its air pages do, for as long as it is not closed.
 * @param layouts what their fonts are loaded of first
 * @returns what closes it
 */
export function airPicture(root: HTMLElement, output: string, layouts: readonly Layout[]): () => void {
  let stage: Stage | null = null;
  let closed = false;
  let close = () => {};
  void fontsReady(facesOf(layouts)).then(() => {
    if (closed) return;
    const link = openLink<AirSnapshot, AirOp>(`air:${output}`, {
      onSnapshot: (snapshot) => stage?.show(snapshot),
      onOps: (ops) => stage?.perform(ops),
      onRehearsal: (rehearsal) => stage?.rehearse(rehearsal?.tape ?? null),
      onHere: (here) => (here ? stage?.resume() : stage?.hold()),
    });
    stage = new Stage(root, link.serverNow, link);
    close = link.close;
  });
  return () => {
    closed = true;
    close();
    stage?.destroy();
  };
}
