import type { TableState } from 'react-stately/useTableState';

type Collection<T> = TableState<T>['collection'];
type Node<T> = Collection<T>['columns'][number];
type Key = string | number;

/** The key of a cell: its row's and its column's. */
const cellKey = (row: Key, column: string) => `${row}\u0000${column}`;
const HEAD = 'head';
const BODY = 'body';

/** A column as the keys know it. */
export interface ColumnDef {
  key: string;
  number?: boolean;
}

/**
 * Rows and columns as react-aria goes through them. It is made straight from the rows, with a cell only where one is asked
 * for: what react-aria makes itself from elements takes a second for some thousand rows, at every change.
 */
export class TableRows<T> implements Collection<T> {
  readonly rows: Node<T>[];
  readonly columns: Node<T>[];
  readonly headerRows: Node<T>[];
  readonly rowHeaderColumnKeys: Set<Key>;
  readonly body: Node<T>;
  readonly head: Node<T>;
  readonly columnCount: number;
  private readonly known = new Map<Key, Node<T>>();

  constructor(
    columns: readonly ColumnDef[],
    rows: readonly (readonly [string, T])[],
    private readonly textOf: (row: T, column: string) => string,
  ) {
    const keyOf = (at: number) => (at in rows ? `r:${rows[at]![0]}` : null);
    this.columnCount = columns.length;
    this.columns = columns.map((c, index) =>
      this.node('column', `c:${c.key}`, { index, colIndex: index, textValue: c.key, parentKey: HEAD }),
    );
    this.rows = rows.map(([, value], index) =>
      this.node('item', keyOf(index)!, {
        index,
        value,
        level: 1,
        parentKey: BODY,
        hasChildNodes: true,
        prevKey: keyOf(index - 1),
        nextKey: keyOf(index + 1),
      }),
    );
    this.head = this.node('headerrow', HEAD, { childNodes: this.columns });
    this.body = this.node('body', BODY, { childNodes: this.rows });
    this.headerRows = [this.head];
    this.rowHeaderColumnKeys = new Set(this.columns.slice(0, 1).map((c) => c.key));
  }

  private node(type: string, key: Key, part: Partial<Node<T>>): Node<T> {
    const node: Node<T> = {
      type,
      key,
      value: null,
      level: 0,
      hasChildNodes: false,
      childNodes: [],
      rendered: null,
      textValue: '',
      index: 0,
      props: {},
      ...part,
    };
    // Rows that share a name stay rows; the keys find the first.
    if (!this.known.has(key)) this.known.set(key, node);
    return node;
  }

  /** The cell of a row in a column, by the column's place. */
  private cell(row: Node<T>, column: Node<T>): Node<T> {
    const name = column.textValue;
    const key = cellKey(row.key, name);
    const beside = (by: number) => {
      const other = this.columns[column.index + by];
      return other ? cellKey(row.key, other.textValue) : null;
    };
    return (
      this.known.get(key) ??
      this.node('cell', key, {
        index: column.index,
        colIndex: column.index,
        column,
        level: 2,
        value: row.value,
        parentKey: row.key,
        textValue: this.textOf(row.value!, name),
        prevKey: beside(-1),
        nextKey: beside(1),
      })
    );
  }

  get size(): number {
    return this.rows.length;
  }
  [Symbol.iterator]() {
    return this.rows[Symbol.iterator]();
  }
  getKeys() {
    return this.rows.map((r) => r.key)[Symbol.iterator]();
  }
  getItem(key: Key): Node<T> | null {
    const node = this.known.get(key);
    if (node) return node;
    const [row, column] = String(key).split('\u0000');
    const of = column === undefined ? undefined : this.known.get(row!);
    const at = of && this.known.get(`c:${column}`);
    return at ? this.cell(of, at) : null;
  }
  at(index: number) {
    return this.rows[index] ?? null;
  }
  getKeyBefore(key: Key) {
    return this.getItem(key)?.prevKey ?? null;
  }
  getKeyAfter(key: Key) {
    return this.getItem(key)?.nextKey ?? null;
  }
  getFirstKey() {
    return this.rows[0]?.key ?? null;
  }
  getLastKey() {
    return this.rows.at(-1)?.key ?? null;
  }
  getChildren(key: Key): Iterable<Node<T>> {
    const node = this.getItem(key);
    if (node?.type !== 'item') return node?.childNodes ?? [];
    return this.columns.map((c) => this.cell(node, c));
  }
  getTextValue(key: Key) {
    return this.getItem(key)?.textValue ?? '';
  }
}
