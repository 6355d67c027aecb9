import { useId, useState } from 'react';
import type { Row } from '../../core/board/tables.ts';
import { matching, rowInWords } from './context.ts';

/** Up to this many rows stand in a list; of more, those that match what is typed. */
const LISTED = 200;

/** Chooses one row of a table, however many there are. */
export function RowChooser({
  rows,
  chosen,
  label,
  onChoose,
}: {
  rows: readonly (readonly [string, Row])[];
  /** The chosen row's key. */
  chosen: string;
  label: string;
  onChoose: (key: string) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const list = useId();
  if (rows.length <= LISTED)
    return (
      <select value={chosen} aria-label={label} onChange={(e) => onChoose(e.target.value)}>
        {rows.map(([key, row]) => (
          <option key={key} value={key}>
            {rowInWords(key, row)}
          </option>
        ))}
      </select>
    );
  const found = matching(rows, typed ?? '');
  return (
    <>
      <input
        list={list}
        value={typed ?? chosen}
        aria-label={label}
        placeholder={`one of ${rows.length}, by number or name`}
        onFocus={(e) => e.target.select()}
        onChange={(e) => {
          setTyped(e.target.value);
          if (rows.some(([key]) => key === e.target.value)) onChoose(e.target.value);
        }}
        onBlur={() => {
          const [first] = found;
          if (typed && first && !rows.some(([key]) => key === typed)) onChoose(first[0]);
          setTyped(null);
        }}
      />
      <datalist id={list}>
        {found.map(([key, row]) => (
          <option key={key} value={key}>
            {rowInWords(key, row)}
          </option>
        ))}
      </datalist>
    </>
  );
}
