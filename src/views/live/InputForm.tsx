import type { KeyboardEvent, ReactNode } from 'react';
import type { Scalar } from '../../core/board/values.ts';
import type { InputDef } from '../../core/documents/template.ts';
import type { MediaIndex } from '../../core/media/media.ts';
import { later } from '../../ui/Later.tsx';
import { NumberField } from '../../ui/NumberField.tsx';
import { Segments } from '../../ui/Segments.tsx';
import { Switch } from '../../ui/Switch.tsx';
import { tip } from '../../ui/tip.ts';
import css from './InputForm.module.css';

const PicturePicker = later(() => import('../shared/PicturePicker.tsx').then((m) => m.PicturePicker));

interface Props {
  defs: InputDef[];
  library: MediaIndex;
  inputs: Record<string, Scalar>;
  onEdit: (inputs: Record<string, Scalar>) => void;
  onTake: () => void;
}

/** A template's inputs, each edited in place. Ctrl+Enter takes, Escape goes back to the keys. */
export function InputForm({ defs, library, inputs, onEdit, onTake }: Props) {
  const keys = (event: KeyboardEvent) => {
    if (event.key === 'Escape') (event.target as HTMLElement).blur();
    if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) {
      event.preventDefault();
      onTake();
    }
  };
  if (defs.length === 0) return <p className={css['none']}>This template has nothing to fill in.</p>;
  return (
    <form
      className={css['form']}
      onKeyDown={keys}
      onSubmit={(event) => event.preventDefault()}
      autoComplete="off"
    >
      {defs.map((def) => (
        <Row key={def.key} def={def}>
          <Control
            def={def}
            library={library}
            value={inputs[def.key] ?? null}
            onEdit={(value) => onEdit({ [def.key]: value })}
          />
        </Row>
      ))}
    </form>
  );
}

/** An input with its label; what has several parts is labelled as a group. */
function Row({ def, children }: { def: InputDef; children: ReactNode }) {
  const Tag = def.kind === 'text' ? 'label' : 'div';
  return (
    <Tag className={css['row']} {...tip(def.help)}>
      <span>
        {def.label}
        {def.required && <i data-tip="needed"> *</i>}
      </span>
      {children}
    </Tag>
  );
}

function Control({
  def,
  library,
  value,
  onEdit,
}: {
  def: InputDef;
  library: MediaIndex;
  value: Scalar;
  onEdit: (value: Scalar) => void;
}) {
  if (def.kind === 'number') {
    const { min, max } = def;
    return (
      <NumberField
        name={def.label}
        value={typeof value === 'number' ? value : null}
        decimals={2}
        {...(min === undefined ? {} : { min })}
        {...(max === undefined ? {} : { max })}
        onChange={onEdit}
        onEmpty={() => onEdit(null)}
      />
    );
  }
  if (def.kind === 'colour') {
    return (
      <input
        type="color"
        aria-label={def.label}
        value={/^#[0-9a-f]{6}$/i.test(String(value)) ? String(value) : '#ffffff'}
        onChange={(e) => onEdit(e.target.value)}
      />
    );
  }
  if (def.kind === 'picture')
    return <PicturePicker label="" path={String(value ?? '')} library={library} onChange={onEdit} />;
  if (def.kind === 'switch') {
    return <Switch label={def.label} on={value === true} onChange={onEdit} />;
  }
  if (def.kind === 'choice') {
    return (
      <Segments
        label={def.label}
        value={typeof value === 'string' ? value : null}
        options={def.choices ?? []}
        onChange={onEdit}
      />
    );
  }
  return (
    <input
      type="text"
      aria-required={def.required}
      value={String(value ?? '')}
      maxLength={def.maxLength ?? 200}
      onChange={(e) => onEdit(e.target.value)}
    />
  );
}
