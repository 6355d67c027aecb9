import type { ReactNode } from 'react';
import type { Scalar } from '../../core/board/values.ts';
import type { InputDef } from '../../core/documents/template.ts';
import { memberOf, type Layer, type LayerOf, type Layout } from '../../core/layers/kinds.ts';
import { groupChosenBy } from '../../core/workshop/inputs.ts';
import { boxOf } from '../../core/workshop/tree.ts';
import { Segments } from '../../ui/Segments.tsx';
import type { Desk } from '../shared/desk.ts';
import { Still } from '../shared/Still.tsx';
import css from './Members.module.css';

/** A member of a one-of group alone, as large as the group. */
function alone(group: LayerOf<'one-of'>, member: Layer): Layout {
  const { width, height } = boxOf(group);
  const { shows: _, windowClock: __, ...rest } = member;
  return { key: member.id, width: width || 1, height: height || 1, layers: [rest as Layer] };
}

/**
 * A choice whose members can be seen: those of a one-of group as the stage draws them, pictures and colours as what they are;
 * any other in words.
 */
export function Members({
  desk,
  def,
  layout,
  inputs,
  value,
  onChange,
}: {
  desk: Desk;
  def: InputDef;
  layout: Layout;
  inputs: Record<string, Scalar>;
  value: string | null;
  onChange: (value: string) => void;
}) {
  const group = groupChosenBy(layout, def.key);
  const look = (choice: string): ReactNode => {
    if (def.as === 'colour') return <i className={css['colour']} style={{ background: choice }} />;
    if (def.as === 'picture') {
      const address = desk.picture(choice);
      return address === null ? null : <img src={address} alt="" />;
    }
    const member = group?.layers.find((l) => memberOf(l) === choice);
    return group && member ? (
      <Still desk={desk} layout={alone(group, member)} inputs={inputs} width={72} height={38} />
    ) : null;
  };
  if (!group && (def.as ?? 'text') === 'text')
    return <Segments label={def.label} value={value} options={def.choices ?? []} onChange={onChange} />;
  return (
    <span className={css['members']} role="radiogroup" aria-label={def.label} data-members>
      {(def.choices ?? []).map((choice) => (
        <label key={choice.value} data-member={choice.label}>
          <input
            type="radio"
            name={`member ${def.key}`}
            checked={value === choice.value}
            onChange={() => onChange(choice.value)}
          />
          <span className={css['picture']}>{look(choice.value)}</span>
          {choice.label}
        </label>
      ))}
    </span>
  );
}
