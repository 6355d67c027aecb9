import { GridLayout, Size, Virtualizer } from 'react-aria-components';
import { List, type ListProps } from './List.tsx';

/** A list of tiles that flow, drawn only where they are seen. `tile` is the size of one at least, in px. */
export function Tiles<T>({
  tile: { width, height },
  ...list
}: Omit<ListProps<T>, 'layout'> & { tile: { width: number; height: number } }) {
  return (
    <Virtualizer
      layout={GridLayout}
      layoutOptions={{
        minItemSize: new Size(width, height),
        maxItemSize: new Size(width * 2, height),
        minSpace: new Size(8, 8),
      }}
    >
      <List {...list} layout="grid" />
    </Virtualizer>
  );
}
