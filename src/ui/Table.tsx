import { defaultRangeExtractor, useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, type ReactNode, type RefObject } from 'react';
import {
  useTable,
  useTableCell,
  useTableColumnHeader,
  useTableHeaderRow,
  useTableRow,
  useTableRowGroup,
} from 'react-aria/useTable';
import { useTableState, type TableState } from 'react-stately/useTableState';
import { TableRows, type ColumnDef } from './table-collection.ts';
import css from './Table.module.css';

/** How high a row is, in px. */
const HIGH = 28;

type State<T> = TableState<T>;
type Node<T> = State<T>['collection']['columns'][number];

interface Props<T> {
  label: string;
  columns: readonly ColumnDef[];
  /** The rows, each with its key. */
  rows: readonly (readonly [string, T])[];
  textOf: (row: T, column: string) => string;
  /** What stands in a cell, where that is more than its text. */
  cell?: (row: T, column: string) => ReactNode;
  /** What a press of a cell, or Enter on it, does. */
  onCell?: (row: string, column: string) => void;
  /** The cell that is chosen. */
  chosen?: { row: string; column: string } | null;
}

const columnOf = (node: Node<unknown>) => node.column!.textValue;
const rowOf = (key: string | number) => String(key).slice(2).split('\u0000')[0]!;

function Heading<T>({ node, state, number }: { node: Node<T>; state: State<T>; number: boolean }) {
  const ref = useRef<HTMLTableCellElement>(null);
  const { columnHeaderProps } = useTableColumnHeader({ node, isVirtualized: true }, state, ref);
  return (
    <th {...columnHeaderProps} ref={ref} data-number={number}>
      {node.textValue}
    </th>
  );
}

function Head<T>({ state, numbers }: { state: State<T>; numbers: ReadonlySet<string> }) {
  const ref = useRef<HTMLTableRowElement>(null);
  const [head] = state.collection.headerRows;
  const { rowProps } = useTableHeaderRow({ node: head!, isVirtualized: true }, state, ref);
  return (
    <tr {...rowProps} ref={ref}>
      {state.collection.columns.map((c) => (
        <Heading key={c.key} node={c} state={state} number={numbers.has(c.textValue)} />
      ))}
    </tr>
  );
}

interface CellProps<T> extends Pick<Props<T>, 'cell' | 'chosen'> {
  state: State<T>;
  numbers: ReadonlySet<string>;
}

function Cell<T>({
  node,
  state,
  cell,
  chosen,
  numbers,
  pressed,
}: CellProps<T> & { node: Node<T>; pressed: boolean }) {
  const ref = useRef<HTMLTableCellElement>(null);
  const { gridCellProps } = useTableCell({ node, isVirtualized: true, focusMode: 'cell' }, state, ref);
  const column = columnOf(node);
  return (
    <td
      {...gridCellProps}
      ref={ref}
      data-number={numbers.has(column)}
      data-pressed-for={pressed || undefined}
      aria-selected={pressed ? chosen?.row === rowOf(node.key) && chosen.column === column : undefined}
    >
      {cell ? cell(node.value!, column) : node.textValue}
    </td>
  );
}

function Row<T>({ node, pressed, ...rest }: CellProps<T> & { node: Node<T>; pressed: boolean }) {
  const ref = useRef<HTMLTableRowElement>(null);
  const { state } = rest;
  const { rowProps } = useTableRow({ node, isVirtualized: true }, state, ref);
  return (
    <tr {...rowProps} ref={ref} data-row={rowOf(node.key)}>
      {[...state.collection.getChildren!(node.key)].map((c) => (
        <Cell key={c.key} {...rest} node={c} pressed={pressed} />
      ))}
    </tr>
  );
}

/** The room of rows that are not drawn. */
const Gap = ({ high }: { high: number }) =>
  high > 0 && (
    <tr aria-hidden>
      <td style={{ height: high, padding: 0, border: 0 }} />
    </tr>
  );

/** Where rows are, for Page Up and Page Down among those that are not drawn. */
const layoutIn = <T,>(area: RefObject<HTMLElement | null>, rows: TableRows<T>) => ({
  getItemRect(key: string | number) {
    const node = rows.getItem(key);
    const row = node?.type === 'cell' ? rows.getItem(node.parentKey!) : node;
    return row ? { x: 0, y: HIGH * (row.index + 1), width: 1, height: HIGH } : null;
  },
  getVisibleRect: () => ({
    x: 0,
    y: area.current?.scrollTop ?? 0,
    width: 1,
    height: area.current?.clientHeight ?? 0,
  }),
  getContentSize: () => ({ width: 1, height: HIGH * (rows.size + 1) }),
});

/**
 * Rows and columns, drawn only where they are seen. Arrow keys go from cell to cell, Page Up and Down, Home and End (with Ctrl
 * to the table's ends) further, typing goes to the row that begins so; Enter presses.
 */
export function Table<T extends object>({
  label,
  columns,
  rows,
  textOf,
  cell,
  onCell,
  chosen = null,
}: Props<T>) {
  const area = useRef<HTMLDivElement>(null);
  const table = useRef<HTMLTableElement>(null);
  // oxlint-disable-next-line react/exhaustive-deps -- how a row is said does not change while it stands
  const collection = useMemo(() => new TableRows(columns, rows, textOf), [columns, rows]);
  const numbers = useMemo(() => new Set(columns.filter((c) => c.number).map((c) => c.key)), [columns]);
  const state = useTableState<T>({ collection, selectionMode: 'none' });
  const layoutDelegate = useMemo(() => layoutIn(area, collection), [collection]);
  const { gridProps } = useTable<T>(
    {
      'aria-label': label,
      isVirtualized: true,
      focusMode: 'cell',
      layoutDelegate,
      scrollRef: area,
      ...(onCell
        ? {
            onCellAction: (key) => {
              const node = collection.getItem(key);
              if (node?.type === 'cell') onCell(rowOf(key), columnOf(node));
            },
          }
        : {}),
    },
    state,
    table,
  );
  const { rowGroupProps } = useTableRowGroup();

  const focused = state.selectionManager.focusedKey;
  const focusedNode = focused === null ? null : collection.getItem(focused);
  const under = focusedNode?.type === 'cell' ? collection.getItem(focusedNode.parentKey!) : focusedNode;
  const at = under?.type === 'item' ? under.index : null;
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => area.current,
    estimateSize: () => HIGH,
    overscan: 12,
    scrollPaddingStart: HIGH,
    // What the keys are at is drawn wherever one has scrolled to: they would be nowhere without it.
    rangeExtractor: (range) => {
      const drawn = defaultRangeExtractor(range);
      return at === null || at >= rows.length || drawn.includes(at)
        ? drawn
        : [...drawn, at].sort((a, b) => a - b);
    },
  });
  useEffect(() => {
    if (at !== null && state.selectionManager.isFocused) virtual.scrollToIndex(at, { align: 'auto' });
    // oxlint-disable-next-line react/exhaustive-deps -- only where the keys went
  }, [focused]);

  let y = 0;
  const drawn = virtual.getVirtualItems().flatMap(({ index, start, end }) => {
    const gap = start - y;
    y = end;
    const node = collection.at(index)!;
    return [
      <Gap key={`before ${node.key}`} high={gap} />,
      <Row
        key={node.key}
        node={node}
        state={state}
        numbers={numbers}
        chosen={chosen}
        pressed={onCell !== undefined}
        {...(cell ? { cell } : {})}
      />,
    ];
  });
  return (
    <div ref={area} className={css['scroll']}>
      <table {...gridProps} ref={table} className={css['table']}>
        <thead {...rowGroupProps}>
          <Head state={state} numbers={numbers} />
        </thead>
        <tbody {...rowGroupProps}>
          {drawn}
          <Gap high={virtual.getTotalSize() - y} />
        </tbody>
      </table>
    </div>
  );
}
