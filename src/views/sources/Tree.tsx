import { memo, useState, type MouseEvent } from 'react';
import { Button as FoldButton, Tree as Base, TreeItem, TreeItemContent } from 'react-aria-components';
import { MORE, type PrunedNode } from '../../core/tree/node.ts';
import { placeOf, quoted } from '../../core/tree/place.ts';
import type { Scalar } from '../../core/board/values.ts';
import { Button } from '../../ui/Button.tsx';
import { tip } from '../../ui/tip.ts';
import css from './Tree.module.css';

/** What was picked in a document: one plain value, or an element that repeats. */
export type Pick =
  | { kind: 'value'; place: string; name: string; value: Scalar }
  | { kind: 'rows'; place: string; name: string };

interface Props {
  root: PrunedNode;
  /** The places that have a name already. */
  named: ReadonlySet<string>;
  onPick: (pick: Pick) => void;
  /** More of what repeats is to be seen. */
  onMore: () => void;
}

/** As deep as this a document stands open when it is first seen. */
const OPEN_TO = 3;

/**
 * A press of the mouse takes no focus here: the tree would bring its row, or its first one, into view between the press and the
 * release, so that the click met whatever had moved under it. What is picked opens a form, which takes the focus.
 */
const keepStill = (press: MouseEvent) => press.preventDefault();

const idOf = (way: readonly number[]) => `/${way.join('/')}`;

/** The ids of everything that can be opened and stands open: the first levels, but for what was opened or closed by hand. */
function openIds(root: PrunedNode, turned: ReadonlySet<string>): Set<string> {
  const open = new Set<string>();
  const look = (node: PrunedNode, way: readonly number[]) => {
    if (node.children.length === 0) return;
    const id = idOf(way);
    if (way.length < OPEN_TO !== turned.has(id)) open.add(id);
    if (!isGrid(node)) node.children.forEach((child, i) => look(child, [...way, i]));
  };
  look(root, []);
  return open;
}

/**
 * A document as a tree, rows of cells in it as a grid: every value can be picked, and everything that repeats. It is drawn again
 * only when the document or its names are others: a hundred rows take a tenth of a second, and the view has news many times a
 * second.
 */
export const Tree = memo(function Tree({ root, named, onPick, onMore }: Props) {
  /** What does not stand as it would by its depth. */
  const [turned, setTurned] = useState<ReadonlySet<string>>(new Set());
  const open = openIds(root, turned);
  return (
    <Base
      aria-label="Document"
      className={css['tree']!}
      selectionMode="none"
      expandedKeys={open}
      onExpandedChange={(keys) => {
        const next = new Set(turned);
        for (const id of new Set([...open, ...[...keys].map(String)]))
          if (open.has(id) !== keys.has(id) && !next.delete(id)) next.add(id);
        setTurned(next);
      }}
    >
      {branch({ root, node: root, way: [], named, onPick, onMore })}
    </Base>
  );
});

const isGrid = (n: PrunedNode) => n.children.length > 0 && n.children.every((c) => c.name === 'row');

interface BranchProps extends Props {
  node: PrunedNode;
  way: readonly number[];
}

/** A node with all that is in it, as items of the tree: a function and no component, for the tree reads its items itself. */
function branch({ root, node, way, named, onPick, onMore }: BranchProps) {
  const place = placeOf(root, way);
  const seen = new Set<string>();
  /** Whether a child is the last of its name that is there. */
  const last = (i: number) => node.children.findLastIndex((c) => c.name === node.children[i]!.name) === i;
  const id = idOf(way);
  return (
    <TreeItem key={id} id={id} textValue={node.name} className={css['node']!}>
      <TreeItemContent>
        {({ hasChildItems, isExpanded, level }) => (
          <div className={css['line']} style={{ paddingLeft: (level - 1) * 18 }}>
            {hasChildItems ? (
              <FoldButton slot="chevron" className={css['fold']!}>
                {isExpanded ? '▾' : '▸'}
              </FoldButton>
            ) : (
              <i className={css['leaf']} />
            )}
            <Line node={node} place={place} named={named} onPick={onPick} />
          </div>
        )}
      </TreeItemContent>
      {isGrid(node) ? (
        <TreeItem id={`${id} rows`} textValue={`${node.children.length} rows`} className={css['node']!}>
          <TreeItemContent>
            {({ level }) => (
              <div style={{ paddingLeft: (level - 1) * 18 }}>
                <Grid
                  root={root}
                  node={node}
                  way={way}
                  named={named}
                  onPick={onPick}
                  onMore={onMore}
                  place={place}
                />
              </div>
            )}
          </TreeItemContent>
        </TreeItem>
      ) : (
        node.children.flatMap((child, i) => {
          const count = node.repeated[child.name];
          const first = count !== undefined && !seen.has(child.name);
          seen.add(child.name);
          const at = `${place}/${quoted(child.name)}`;
          return [
            ...(first
              ? [
                  <TreeItem
                    key={`${id} ${child.name}`}
                    id={`${id} ${child.name}`}
                    textValue={`${count} × ${child.name}`}
                    className={css['node']!}
                  >
                    <TreeItemContent>
                      {({ level }) => (
                        <div style={{ paddingLeft: (level - 1) * 18 }}>
                          <Repeats name={child.name} count={count} place={at} onPick={onPick} />
                        </div>
                      )}
                    </TreeItemContent>
                  </TreeItem>,
                ]
              : []),
            branch({ root, node: child, way: [...way, i], named, onPick, onMore }),
            ...(last(i) ? moreOf(node, child.name, id, onMore) : []),
          ];
        })
      )}
    </TreeItem>
  );
}

/** What stands behind the last of its name where the document has more of them. */
function moreOf(node: PrunedNode, name: string, id: string, onMore: () => void) {
  const left = (node.repeated[name] ?? 0) - node.children.filter((c) => c.name === name).length;
  if (left <= 0) return [];
  return [
    <TreeItem
      key={`${id} more ${name}`}
      id={`${id} more ${name}`}
      textValue={`${left} more ${name}`}
      className={css['node']!}
    >
      <TreeItemContent>
        {({ level }) => (
          <div style={{ paddingLeft: (level - 1) * 18 }}>
            <More left={left} name={name} onMore={onMore} />
          </div>
        )}
      </TreeItemContent>
    </TreeItem>,
  ];
}

function More({ left, name, onMore }: { left: number; name: string; onMore: () => void }) {
  return (
    <p className={css['repeats']} onMouseDown={keepStill}>
      {left} more {name}
      <Button onClick={onMore}>Show {Math.min(left, MORE)} more</Button>
    </p>
  );
}

/** A value of the document, which can be picked. */
function ValueButton({
  place,
  name,
  value,
  named,
  onPick,
}: { place: string; name: string; value: Scalar } & Omit<Props, 'root' | 'onMore'>) {
  return (
    <button
      type="button"
      className={css['value']}
      data-place={place}
      data-named={named.has(place)}
      {...tip(place)}
      onMouseDown={keepStill}
      onClick={() => onPick({ kind: 'value', place, name, value })}
    >
      {String(value ?? '–')}
    </button>
  );
}

/** A node's name, its attributes and its value, each of which can be picked. */
function Line({
  node,
  place,
  named,
  onPick,
}: { node: PrunedNode; place: string } & Omit<Props, 'root' | 'onMore'>) {
  const leaf = node.children.length === 0;
  const pick = { named, onPick };
  return (
    <>
      <b>{node.name}</b>
      {Object.entries(node.attributes).map(([name, said]) => (
        <span key={name} className={css['attribute']}>
          {name} <ValueButton place={`${place}/@${quoted(name)}`} name={name} value={said} {...pick} />
        </span>
      ))}
      {(node.value !== null || (leaf && Object.keys(node.attributes).length === 0)) && (
        <ValueButton place={place} name={node.name} value={node.value} {...pick} />
      )}
    </>
  );
}

function Repeats({
  name,
  count,
  place,
  onPick,
}: {
  name: string;
  count: number;
  place: string;
  onPick: Props['onPick'];
}) {
  // The same without what marks one of several parents out.
  const everywhere = place.replace(/\[[^\]]*\]/g, '');
  return (
    <p className={css['repeats']} onMouseDown={keepStill}>
      {count} × {name}
      <Button onClick={() => onPick({ kind: 'rows', place, name })}>Make a table of them</Button>
      {everywhere !== place && (
        <Button onClick={() => onPick({ kind: 'rows', place: everywhere, name })}>
          of all {name}, wherever they stand
        </Button>
      )}
    </p>
  );
}

function Grid({ root, node, way, named, onPick, onMore, place }: BranchProps & { place: string }) {
  const columns = node.children[0]!.children.map((c) => c.name);
  return (
    <>
      <Repeats
        name="row"
        count={node.repeated['row'] ?? node.children.length}
        place={`${place}/row`}
        onPick={onPick}
      />
      <table className={css['grid']}>
        <thead>
          <tr>
            {columns.map((c) => (
              <th key={c}>{c}</th>
            ))}
          </tr>
        </thead>
        <tbody>
          {node.children.map((row, r) => (
            <tr key={r}>
              {row.children.map((cell, c) => {
                const at = `${placeOf(root, [...way, r])}/${quoted(cell.name)}`;
                return (
                  <td key={c}>
                    <ValueButton
                      place={at}
                      name={cell.name}
                      value={cell.value}
                      named={named}
                      onPick={onPick}
                    />
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      {(node.repeated['row'] ?? 0) > node.children.length && (
        <More left={node.repeated['row']! - node.children.length} name="row" onMore={onMore} />
      )}
    </>
  );
}
