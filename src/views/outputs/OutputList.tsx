import type { DragAndDropHooks } from 'react-aria-components';
import type { Output } from '../../core/show/show.ts';
import { List } from '../../ui/List.tsx';
import css from './OutputsView.module.css';

export interface OutputListProps {
  outputs: readonly Output[];
  shown: string;
  onShow: (key: string) => void;
  /** Puts one before another, or behind all. */
  onMove: (key: string, before: string | null) => void;
  /** What is said of one beside its name, and in a line below. */
  onAirText: (output: Output) => string;
  linesOf: (output: Output) => string[];
}

/** The outputs to choose from, in their order. */
export function OutputList({
  outputs,
  shown,
  onShow,
  onAirText,
  linesOf,
  drag,
}: Omit<OutputListProps, 'onMove'> & { drag?: DragAndDropHooks }) {
  return (
    <List
      label="Outputs in order"
      items={outputs}
      idOf={(o) => o.key}
      nameOf={(o) => o.name}
      chosen={new Set([shown])}
      onChoose={([key]) => key !== undefined && onShow(key)}
      className={css['list']}
      itemClass={css['output']}
      dataOf={(o) => ({ 'data-output': o.key })}
      {...(drag ? { drag } : {})}
    >
      {(o) => (
        <>
          <b>{o.name}</b>
          <em>{onAirText(o)}</em>
          {linesOf(o).map((line) => (
            <span key={line}>{line}</span>
          ))}
        </>
      )}
    </List>
  );
}
