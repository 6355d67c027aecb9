import { useState } from 'react';
import type { PrunedNode } from '../../core/tree/node.ts';
import { placeOf, quoted } from '../../core/tree/place.ts';
import type { Scalar } from '../../core/board/values.ts';
import { Button } from '../../ui/Button.tsx';
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
}

/** A document as a tree, rows of cells in it as a grid: every value can be picked, and everything that repeats. */
export function Tree({ root, named, onPick }: Props) {
  return (
    <div className={css['tree']} role="tree" aria-label="Document" tabIndex={0}>
      <Branch root={root} node={root} way={[]} named={named} onPick={onPick} />
    </div>
  );
}

const isGrid = (n: PrunedNode) => n.children.length > 0 && n.children.every((c) => c.name === 'row');

interface BranchProps extends Props {
  node: PrunedNode;
  way: readonly number[];
}

function Branch({ root, node, way, named, onPick }: BranchProps) {
  const [open, setOpen] = useState(way.length < 3);
  const place = placeOf(root, way);
  const leaf = node.children.length === 0;
  const value = (at: string, name: string, said: Scalar) => (
    <button
      type="button"
      className={css['value']}
      data-place={at}
      data-named={named.has(at)}
      title={at}
      onClick={() => onPick({ kind: 'value', place: at, name, value: said })}
    >
      {String(said ?? '–')}
    </button>
  );
  const seen = new Set<string>();
  return (
    <div role="treeitem" aria-expanded={leaf ? undefined : open} className={css['node']}>
      <div className={css['line']}>
        {leaf ? (
          <i className={css['leaf']} />
        ) : (
          <button
            type="button"
            className={css['fold']}
            aria-label={`${open ? 'Close' : 'Open'} ${node.name}`}
            onClick={() => setOpen(!open)}
          >
            {open ? '▾' : '▸'}
          </button>
        )}
        <b>{node.name}</b>
        {Object.entries(node.attributes).map(([name, said]) => (
          <span key={name} className={css['attribute']}>
            {name} {value(`${place}/@${quoted(name)}`, name, said)}
          </span>
        ))}
        {(node.value !== null || (leaf && Object.keys(node.attributes).length === 0)) &&
          value(place, node.name, node.value)}
      </div>
      {open && isGrid(node) && (
        <Grid root={root} node={node} way={way} named={named} onPick={onPick} place={place} />
      )}
      {open &&
        !isGrid(node) &&
        node.children.map((child, i) => {
          const count = node.repeated[child.name];
          const first = count !== undefined && !seen.has(child.name);
          seen.add(child.name);
          return (
            <div key={i} className={css['child']}>
              {first && (
                <Repeats
                  name={child.name}
                  count={count}
                  place={`${place}/${quoted(child.name)}`}
                  onPick={onPick}
                />
              )}
              <Branch root={root} node={child} way={[...way, i]} named={named} onPick={onPick} />
            </div>
          );
        })}
    </div>
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
    <p className={css['repeats']}>
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

function Grid({ root, node, way, named, onPick, place }: BranchProps & { place: string }) {
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
          {node.children.slice(0, 40).map((row, r) => (
            <tr key={r}>
              {row.children.map((cell, c) => {
                const at = `${placeOf(root, [...way, r])}/${quoted(cell.name)}`;
                return (
                  <td key={c}>
                    <button
                      type="button"
                      className={css['value']}
                      data-place={at}
                      data-named={named.has(at)}
                      title={at}
                      onClick={() => onPick({ kind: 'value', place: at, name: cell.name, value: cell.value })}
                    >
                      {String(cell.value ?? '–')}
                    </button>
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}
