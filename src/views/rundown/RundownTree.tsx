import { createContext, memo, useContext, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { Button as Handle, TreeItem, TreeItemContent, useDragAndDrop, type Key } from 'react-aria-components';
import GripVertical from 'lucide-react/icons/grip-vertical';
import Pencil from 'lucide-react/icons/pencil';
import X from 'lucide-react/icons/x';
import type { Template } from '../../core/documents/template.ts';
import type { Item } from '../../core/show/item.ts';
import type { ItemState } from '../../core/show/item-state.ts';
import { placed, without, type Group, type Shown } from '../../core/show/rundown.ts';
import { counted } from '../../core/text/words.ts';
import { RowTree, rowsAsText } from '../../ui/RowTree.tsx';
import { KeyCap } from '../../ui/Button.tsx';
import { OnAir } from '../../ui/OnAir.tsx';
import { TextBox } from '../../ui/TextBox.tsx';
import { useStable } from '../../ui/stable.ts';
import type { Desk } from '../shared/desk.ts';
import { Still } from '../shared/Still.tsx';
import css from './RundownTree.module.css';

/** How high a row is, in px: only those that are seen are drawn. */
const ROW = 50;
const PICTURE = { width: 112, height: 42 };

/** A group's id among those of the items. */
const GROUP = 'group/';
const groupId = (key: string) => `${GROUP}${key}`;
const isGroup = (id: Key) => String(id).startsWith(GROUP);

interface Rows {
  desk: Desk;
  templateOf: (item: Item) => Template | undefined;
  stateOf: (item: Item) => ItemState;
  placesOf: (item: Item) => string;
  /** The items that are next somewhere. */
  next: ReadonlySet<string>;
  /** The group that was just made: it is seen, and its name is asked for. */
  fresh: string | null;
  /** It is seen: from here on it is one as all are. */
  onFresh: () => void;
  onRename: (group: string, name: string) => void;
  /** Takes a group away; its items stand in none then. */
  onRemove: (group: string) => void;
}
/** What rows say beside what they are: those that are seen take it from here, and the tree stays as it is. */
const RowsContext = createContext<Rows | null>(null);

interface Props extends Rows {
  shown: readonly Shown[];
  groups: readonly Group[];
  chosen: ReadonlySet<string>;
  onChoose: (keys: ReadonlySet<string>) => void;
  /** The groups as they are to be. */
  onOrder: (groups: Group[]) => void;
  /** A search is on: all groups are open, and what is found is not moved. */
  searching: boolean;
  empty: ReactNode;
}

/** The items in their groups. Several are chosen by Ctrl and Shift; they are dragged to another place, groups too. */
export function RundownTree({ shown, groups, chosen, onChoose, onOrder, searching, empty, ...rows }: Props) {
  return (
    <RowsContext
      value={{
        ...rows,
        onRename: useStable(rows.onRename),
        onRemove: useStable(rows.onRemove),
        onFresh: useStable(rows.onFresh),
      }}
    >
      <Drawn
        {...{ shown, groups, chosen, searching, empty, fresh: rows.fresh }}
        shape={useMemo(
          () =>
            shown
              .map(
                (g) =>
                  `${g.key}\0${g.name}\0${g.items.map((i) => `${i.key}\0${i.number} ${i.name}`).join('\0')}`,
              )
              .join('\n'),
          [shown],
        )}
        onChoose={useStable(onChoose)}
        onOrder={useStable(onOrder)}
      />
    </RowsContext>
  );
}

interface DrawnProps extends Pick<
  Props,
  'shown' | 'groups' | 'chosen' | 'onChoose' | 'onOrder' | 'searching' | 'empty' | 'fresh'
> {
  /** All that the tree is made of, as one text: while it is the same, its rows are not made anew. */
  shape: string;
}

function DrawnTree({ shown, groups, shape, chosen, onChoose, onOrder, searching, empty, fresh }: DrawnProps) {
  const ref = useRef<HTMLDivElement>(null);
  const isThere = fresh !== null && groups.some((g) => g.key === fresh);
  // It is the last one, and only what is seen is drawn.
  useEffect(() => {
    if (!isThere) return;
    ref.current!.scrollTop = ref.current!.scrollHeight;
    // The tree goes back to where it knows it was scrolled to as soon as something in it has the focus: it is told at once.
    ref.current!.dispatchEvent(new Event('scroll'));
  }, [isThere, fresh]);
  const [closed, setClosed] = useState<ReadonlySet<Key>>(new Set());
  const open = new Set<Key>(shown.map((g) => groupId(g.key)).filter((id) => searching || !closed.has(id)));
  const groupOf = (item: string) => shown.find((g) => g.items.some((i) => i.key === item))?.key ?? '';

  const { dragAndDropHooks } = useDragAndDrop({
    isDisabled: searching,
    getItems: rowsAsText,
    getDropOperation: (target) =>
      target.type === 'item' && target.dropPosition === 'on' && !isGroup(target.key) ? 'cancel' : 'move',
    onMove: ({ keys, target }) => {
      const at = String(target.key);
      const moved = [...keys].map(String);
      if (moved.some(isGroup)) {
        // A group is put before the one that it is dropped on, or the one in which it is dropped.
        const to = isGroup(at) ? at.slice(GROUP.length) : groupOf(at);
        const goes = groups.filter((g) => moved.includes(groupId(g.key)));
        const stay = groups.filter((g) => !goes.includes(g));
        const place = stay.findIndex((g) => g.key === to);
        if (place < 0) return;
        const after = isGroup(at) && target.dropPosition === 'after';
        onOrder([...stay.slice(0, place + Number(after)), ...goes, ...stay.slice(place + Number(after))]);
        return;
      }
      // In the order in which they stand, whatever they were chosen in.
      const items = shown.flatMap((g) => g.items.map((i) => i.key)).filter((key) => moved.includes(key));
      const group = isGroup(at) ? at.slice(GROUP.length) : groupOf(at);
      if (group === '') return onOrder(without(groups, items));
      if (isGroup(at)) return onOrder(placed(groups, items, group));
      const list = shown.find((g) => g.key === group)!.items.map((i) => i.key);
      const before = target.dropPosition === 'before' ? at : (list[list.indexOf(at) + 1] ?? null);
      onOrder(placed(groups, items, group, before));
    },
  });

  const tree = useMemo(
    () =>
      shown.map((group) => (
        <TreeItem
          key={groupId(group.key)}
          id={groupId(group.key)}
          textValue={group.name}
          className={css['group']!}
          data-group={group.name}
        >
          <TreeItemContent>
            {({ isExpanded }) => <GroupRow group={group} isExpanded={isExpanded} />}
          </TreeItemContent>
          {group.items.map((item) => (
            <TreeItem
              key={item.key}
              id={item.key}
              textValue={`${item.number} ${item.name}`}
              className={css['item']!}
              data-item-row={item.name}
            >
              <TreeItemContent>
                <ItemRow item={item.key} />
              </TreeItemContent>
            </TreeItem>
          ))}
        </TreeItem>
      )),
    // oxlint-disable-next-line react/exhaustive-deps -- many are dear to make, and of this they are made
    [shape],
  );
  return (
    <ItemsContext value={new Map(shown.flatMap((g) => g.items.map((i) => [i.key, i])))}>
      <RowTree
        ref={ref}
        rowHeight={ROW}
        aria-label="Items"
        className={css['tree']!}
        chosen={chosen}
        all={() => shown.flatMap((g) => g.items.map((i) => i.key))}
        onChoose={onChoose}
        disabledKeys={shown.map((g) => groupId(g.key))}
        disabledBehavior="selection"
        expandedKeys={open}
        onExpandedChange={(keys) =>
          setClosed(new Set(shown.map((g) => groupId(g.key)).filter((id) => !keys.has(id))))
        }
        dragAndDropHooks={dragAndDropHooks}
        renderEmptyState={() => empty}
      >
        {tree}
      </RowTree>
    </ItemsContext>
  );
}
const Drawn = memo(DrawnTree);

/** The items as they are now, by their keys. */
const ItemsContext = createContext<ReadonlyMap<string, Item>>(new Map());

function GroupRow({ group, isExpanded }: { group: Shown; isExpanded: boolean }) {
  const { fresh, onFresh, onRename, onRemove } = useContext(RowsContext)!;
  const isFresh = group.key !== '' && group.key === fresh;
  const [naming, setNaming] = useState(isFresh);
  useEffect(() => {
    if (isFresh) onFresh();
  }, [isFresh, onFresh]);
  return (
    <div className={css['heading']}>
      <Handle slot="chevron" className={css['fold']!}>
        {isExpanded ? '▾' : '▸'}
      </Handle>
      {naming ? (
        <span onBlur={() => setNaming(false)}>
          <TextBox
            label={`Name of ${group.name}`}
            value={group.name}
            most={80}
            needed
            begun
            onChange={(name) => onRename(group.key, name)}
          />
        </span>
      ) : (
        <b onDoubleClick={() => group.key && setNaming(true)}>{group.name}</b>
      )}
      <span>{counted(group.items.length, 'item')}</span>
      {group.key && (
        <Handle className={css['grip']!} aria-label={`Rename ${group.name}`} onPress={() => setNaming(true)}>
          <Pencil size={14} />
        </Handle>
      )}
      {group.key && (
        <Handle
          className={css['grip']!}
          aria-label={`Remove the group ${group.name}`}
          onPress={() => onRemove(group.key)}
        >
          <X size={14} />
        </Handle>
      )}
      {group.key && (
        <Handle slot="drag" className={css['grip']!}>
          <GripVertical size={14} />
        </Handle>
      )}
    </div>
  );
}

function ItemRow({ item: key }: { item: string }) {
  const { desk, templateOf, stateOf, placesOf, next } = useContext(RowsContext)!;
  const item = useContext(ItemsContext).get(key);
  if (!item) return null;
  const template = templateOf(item);
  const state = stateOf(item);
  return (
    <div className={css['row']}>
      <Handle slot="drag" className={css['grip']!}>
        <GripVertical size={14} />
      </Handle>
      {template ? (
        <Still desk={desk} layout={template.layouts[0]!} inputs={item.inputs} {...PICTURE} />
      ) : (
        <span style={PICTURE} />
      )}
      <span className={css['number']}>{item.number}</span>
      <span className={css['name']}>
        <b>{item.name}</b>
        <small>{placesOf(item)}</small>
      </span>
      {item.length !== null && <small className={css['dim']}>{item.length} s</small>}
      {item.hotkey && <KeyCap>{item.hotkey}</KeyCap>}
      <span className={css['state']} data-state={state.is}>
        {state.is === 'on-air' ? <OnAir /> : next.has(key) && <em>next</em>}
        {state.says && <span>{state.says}</span>}
      </span>
    </div>
  );
}
