import type { Template } from '../../core/documents/template.ts';
import { layersOf, type Layer, type Layout } from '../../core/layers/kinds.ts';
import { later } from '../../ui/Later.tsx';
import type { Desk } from '../shared/desk.ts';
import shell from '../shared/View.module.css';
import type { ValueContext } from '../value/context.ts';
import { Arrange } from './Arrange.tsx';
import { nameOf, type Operations } from './operations.ts';
import type { DocumentSession } from '../shared/document-session.ts';

const Inspector = later(() => import('./Inspector.tsx').then((m) => m.Inspector));

/** What is worked at, and what of it is chosen. */
export interface Picked {
  desk: Desk;
  work: DocumentSession<Template>;
  layout: Layout;
  picked: readonly Layer[];
  /** Of the chosen ones those that no other chosen one holds. */
  top: readonly Layer[];
  ops: Operations;
  context: ValueContext;
}

/** What the chosen layers are, and what is done with them as a whole. */
export function Properties({
  work,
  layout,
  picked,
  top,
  ops,
  context,
  desk,
  onHandedOver,
}: Picked & { onHandedOver: () => void }) {
  const all = [...layersOf(layout.layers)];
  if (picked.length === 0)
    return (
      <p className={shell['dim']}>
        {layout.width} × {layout.height} px, {all.length} layers. Choose a layer to change it.
      </p>
    );
  return (
    <>
      {top.length > 0 && <Arrange layers={top} ops={ops} />}
      <Inspector
        layers={picked}
        all={all}
        context={context}
        desk={desk}
        onHandOver={(prop) => {
          const { id, name } = picked[0]!;
          // What reads formulas is large: it is here once properties are.
          void import('../../core/workshop/inputs.ts').then(({ handOver }) => {
            work.change(
              `Handed ${name} over`,
              (draft) => void handOver(draft as Template, layout.key, id, prop),
            );
            onHandedOver();
          });
        }}
        onSet={(prop, label, held) =>
          ops.set(
            `Changed ${label.toLowerCase()} of ${nameOf(picked)}`,
            picked,
            prop,
            held,
            `set ${prop} ${picked.map((l) => l.id).join(' ')}`,
          )
        }
        onEnd={work.end}
      />
    </>
  );
}
