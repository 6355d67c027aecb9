import { useDragAndDrop } from 'react-aria-components';
import { OutputList, type OutputListProps } from './OutputList.tsx';

/** Outputs that are dragged into their order. */
export function DragOutputs({ onMove, ...list }: OutputListProps) {
  const { dragAndDropHooks } = useDragAndDrop({
    getItems: (keys) => [...keys].map((key) => ({ 'text/plain': String(key) })),
    getDropOperation: (target) =>
      target.type === 'item' && target.dropPosition !== 'on' ? 'move' : 'cancel',
    onReorder: ({ keys: [key], target }) => {
      const at = list.outputs.findIndex((o) => o.key === target.key);
      const before = target.dropPosition === 'before' ? target.key : list.outputs[at + 1]?.key;
      if (key !== undefined && at >= 0) onMove(String(key), before === undefined ? null : String(before));
    },
  });
  return <OutputList {...list} drag={dragAndDropHooks} />;
}
