import type { InputDef } from '../../core/documents/template.ts';
import type { Layout } from '../../core/layers/kinds.ts';
import { filledBy, groupChosenBy, type FilledBy } from '../../core/workshop/inputs.ts';
import type { Desk } from '../shared/desk.ts';
import { useKnown } from '../shared/use-desk.ts';

/** How an input is filled in that is chosen from no list. */
const BY_ITSELF: Record<Exclude<InputDef['kind'], 'choice' | 'switch'>, string> = {
  text: 'by typing',
  number: 'by typing a number',
  colour: 'with any colour',
  picture: 'with any picture',
};

/** How an input is filled in: by itself, from a list, or from the rows of a table. */
export function FillChoice({
  def,
  desk,
  layout,
  onFillBy,
}: {
  def: InputDef;
  desk: Desk;
  layout: Layout;
  onFillBy: (by: FilledBy) => void;
}) {
  const tables = useKnown(desk, 'tables');
  const by = filledBy(def);
  const plainKind =
    def.kind === 'choice' || def.kind === 'switch'
      ? def.as === 'picture' || def.as === 'colour'
        ? def.as
        : 'text'
      : def.kind;
  return (
    <label>
      How it is filled in
      <select
        value={typeof by === 'object' ? `${by.table}/${by.column}` : by}
        onChange={(e) => {
          const { value } = e.target;
          const at = value.indexOf('/');
          onFillBy(
            value === 'itself' || value === 'list'
              ? value
              : { table: value.slice(0, at), column: value.slice(at + 1) },
          );
        }}
      >
        {/* What chooses the member of a group is nothing that is typed. */}
        {!groupChosenBy(layout, def.key) && <option value="itself">{BY_ITSELF[plainKind]}</option>}
        <option value="list">from a list</option>
        {typeof by === 'object' && !tables.some((t) => t.key === by.table) && (
          <option value={`${by.table}/${by.column}`}>from rows of {by.table}</option>
        )}
        {tables.map((t) => (
          <optgroup key={t.key} label={`From rows of ${t.name}, by`}>
            {t.columns.map((column) => (
              <option key={column} value={`${t.key}/${column}`}>
                {t.name}: {column}
              </option>
            ))}
          </optgroup>
        ))}
      </select>
    </label>
  );
}
