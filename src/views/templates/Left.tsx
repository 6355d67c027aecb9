import { useMemo, useState } from 'react';
import type { InputDef } from '../../core/documents/template.ts';
import type { Layer } from '../../core/layers/kinds.ts';
import { isPicture, type MediaEntry } from '../../core/media/media.ts';
import type { BindingState } from '../../core/value/state.ts';
import { propertyFor } from '../../core/workshop/showing.ts';
import * as tree from '../../core/workshop/tree.ts';
import { later } from '../../ui/Later.tsx';
import type { Picked } from './Properties.tsx';
import css from './WorkshopView.module.css';

const Tabs = later(() => import('../../ui/Tabs.tsx').then((m) => m.Tabs));
const Layers = later(() => import('./Layers.tsx').then((m) => m.Layers));
const BoardList = later(() => import('./BoardList.tsx').then((m) => m.BoardList));
const PictureList = later(() => import('./PictureList.tsx').then((m) => m.PictureList));

/** What is put on the sheet from the left: the layers that are there, what the board says, the pictures of the library. */
export function Left({
  desk,
  context,
  layout,
  picked,
  ops,
  stateOf,
  hidden,
  locked,
  chosen,
  inputs,
  media,
  onChoose,
  onHide,
  onLock,
}: Pick<Picked, 'desk' | 'context' | 'layout' | 'picked' | 'ops'> & {
  stateOf: (layer: Layer) => BindingState | null;
  hidden: ReadonlySet<string>;
  locked: ReadonlySet<string>;
  chosen: ReadonlySet<string>;
  inputs: readonly InputDef[];
  media: readonly MediaEntry[];
  onChoose: (ids: ReadonlySet<string>) => void;
  onHide: (id: string) => void;
  onLock: (id: string) => void;
}) {
  // Kept here: another tab draws nothing else anew.
  const [left, setLeft] = useState<'layers' | 'board' | 'pictures'>('layers');
  const pictures = useMemo(() => media.filter(isPicture), [media]);
  return (
    <aside className={css['left']} aria-label="Layers of the layout">
      <Tabs
        label="What is listed"
        tabs={[
          { key: 'layers', name: 'Layers' },
          { key: 'board', name: 'Board' },
          { key: 'pictures', name: 'Pictures' },
        ]}
        chosen={left}
        onChoose={(key) => setLeft(key as typeof left)}
      >
        {left === 'pictures' ? (
          <PictureList
            pictures={pictures}
            onPut={(carried) => {
              const into = picked.filter((l) => l.kind === 'picture');
              if (into.length) return ops.put(carried, into);
              ops.putDown(carried, { x: layout.width / 2, y: layout.height / 2 });
            }}
          />
        ) : left === 'board' ? (
          <BoardList
            desk={desk}
            context={context}
            inputs={inputs}
            canPut={(carried) => picked.some((l) => propertyFor(l.kind, carried.what) !== null)}
            onPut={(carried) => ops.put(carried, picked)}
          />
        ) : (
          <Layers
            layers={layout.layers}
            chosen={chosen}
            onChoose={onChoose}
            hidden={hidden}
            locked={locked}
            onHide={onHide}
            onLock={onLock}
            onRename={(id, name) =>
              ops.edit(`Renamed ${name}`, (draft) => {
                const { list, at } = ops.inDraft(draft, id);
                list[at]!.name = name;
              })
            }
            stateOf={stateOf}
            onMove={(ids, to) =>
              ops.edit(
                `Moved ${ids.size === 1 ? 'a layer' : 'layers'} in the order`,
                (draft) => void tree.move(draft, ids, to),
              )
            }
          />
        )}
      </Tabs>
    </aside>
  );
}
