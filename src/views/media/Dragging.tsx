import { memo } from 'react';
import { useDragAndDrop } from 'react-aria-components';
import { ALL, FolderList, sameTiles, TileList, type FoldersProps, type TilesProps } from './Lists.tsx';

/** Under what a drag carries the paths of pictures. */
const DRAGGED = 'foothill-pictures';

/** Folders that pictures are dropped on. */
export function DropFolders({ onDropped, ...list }: FoldersProps) {
  const { dragAndDropHooks } = useDragAndDrop({
    acceptedDragTypes: [DRAGGED],
    getDropOperation: (target, types) =>
      target.type === 'item' && target.key !== ALL && types.has(DRAGGED) ? 'move' : 'cancel',
    onItemDrop: ({ items, target: { key } }) =>
      void Promise.all(items.flatMap((i) => (i.kind === 'text' ? [i.getText(DRAGGED)] : []))).then((paths) =>
        onDropped(paths, String(key)),
      ),
  });
  return <FolderList {...list} drag={dragAndDropHooks} />;
}

/** Pictures that are dragged. */
export const DragTiles = memo(function DragTiles(list: TilesProps) {
  const { dragAndDropHooks } = useDragAndDrop({
    getItems: (keys) => [...keys].map((key) => ({ [DRAGGED]: String(key), 'text/plain': String(key) })),
  });
  return <TileList {...list} drag={dragAndDropHooks} />;
}, sameTiles);
