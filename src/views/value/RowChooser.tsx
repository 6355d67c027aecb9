import type { Row } from '../../core/board/tables.ts';
import { ComboBox } from '../../ui/ComboBox.tsx';
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
  return (
    <ComboBox
      label={label}
      chosen={chosen}
      placeholder={`one of ${rows.length}, by number or name`}
      find={(typed) => matching(rows, typed)}
      idOf={([key]) => key}
      nameOf={([key, row]) => rowInWords(key, row)}
      onChoose={onChoose}
    />
  );
}
