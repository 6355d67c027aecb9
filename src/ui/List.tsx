import type { ReactNode } from 'react';
import { ListBox, ListBoxItem, type DragAndDropHooks } from 'react-aria-components';
import css from './List.module.css';

export interface ListProps<T> {
  label: string;
  items: readonly T[];
  idOf: (item: T) => string;
  /** What an item is called where it is announced or found by typing. */
  nameOf: (item: T) => string;
  /** The ids that are chosen; none where items are pressed. */
  chosen?: ReadonlySet<string>;
  onChoose?: (ids: ReadonlySet<string>) => void;
  /** A press or Enter does this and arrow keys only go along; without it, what has the focus is chosen. */
  onPress?: (item: T) => void;
  /** Several at once, by Ctrl and Shift as everywhere. */
  several?: boolean;
  /** Tiles that flow, or one under another. */
  layout?: 'stack' | 'grid';
  children: (item: T) => ReactNode;
  empty?: ReactNode;
  drag?: DragAndDropHooks;
  className?: string | undefined;
  itemClass?: string | undefined;
  /** Attributes that say which item one is, for styles and tests. */
  dataOf?: (item: T) => Record<`data-${string}`, string | boolean | undefined>;
}

/** A list that things are chosen in, by mouse, arrow keys or typing. */
export function List<T>({
  label,
  items,
  idOf,
  nameOf,
  chosen,
  onChoose,
  several = false,
  onPress,
  layout = 'stack',
  children,
  empty,
  drag,
  className,
  itemClass,
  dataOf,
}: ListProps<T>) {
  return (
    <ListBox
      aria-label={label}
      layout={layout}
      selectionMode={onPress ? 'none' : several ? 'multiple' : 'single'}
      selectionBehavior="replace"
      {...(onPress
        ? {
            onAction: (key) => {
              const item = items.find((i) => idOf(i) === key);
              if (item !== undefined) onPress(item);
            },
          }
        : {})}
      disallowEmptySelection={!several}
      {...(chosen ? { selectedKeys: chosen } : {})}
      // The set is handed on as it is: it knows where a range began.
      onSelectionChange={(keys) =>
        onChoose?.(keys === 'all' ? new Set(items.map(idOf)) : (keys as ReadonlySet<string>))
      }
      className={[css['list'], className].filter(Boolean).join(' ')}
      renderEmptyState={() => empty}
      {...(drag ? { dragAndDropHooks: drag } : {})}
    >
      {items.map((item) => (
        <ListBoxItem
          key={idOf(item)}
          id={idOf(item)}
          textValue={nameOf(item)}
          className={[css['item'], itemClass].filter(Boolean).join(' ')}
          {...dataOf?.(item)}
        >
          {children(item)}
        </ListBoxItem>
      ))}
    </ListBox>
  );
}
