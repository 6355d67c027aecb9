import type { RefObject } from 'react';
import { ListLayout, Tree, Virtualizer, type Key, type TreeProps } from 'react-aria-components';

/** What rows are dragged as: their keys. */
export const rowsAsText = (keys: ReadonlySet<Key>) => [...keys].map((key) => ({ 'text/plain': String(key) }));

/** A tree of rows that are equally high, of which several can be chosen, and that are moved by dragging. Only what is seen is drawn. */
export function RowTree({
  rowHeight,
  chosen,
  all,
  onChoose,
  ...tree
}: Omit<
  TreeProps<object>,
  'selectionMode' | 'selectionBehavior' | 'selectedKeys' | 'onSelectionChange' | 'items'
> & {
  ref: RefObject<HTMLDivElement | null>;
  rowHeight: number;
  chosen: ReadonlySet<string>;
  /** What all of it is, where all is chosen. */
  all: () => Iterable<string>;
  onChoose: (chosen: ReadonlySet<string>) => void;
}) {
  return (
    <Virtualizer layout={ListLayout} layoutOptions={{ rowHeight }}>
      <Tree
        {...tree}
        selectionMode="multiple"
        selectionBehavior="replace"
        selectedKeys={chosen}
        // The set is handed on as it is: it knows where a range began.
        onSelectionChange={(keys) =>
          onChoose(keys === 'all' ? new Set(all()) : (keys as ReadonlySet<string>))
        }
      />
    </Virtualizer>
  );
}
