import type { KeyboardEvent, ReactNode } from 'react';
import type { Scalar } from '../../core/board/values.ts';
import type { InputDef } from '../../core/documents/template.ts';
import { Segments } from '../../ui/Segments.tsx';
import { Switch } from '../../ui/Switch.tsx';
import css from './InputForm.module.css';

interface Props {
  defs: InputDef[];
  inputs: Record<string, Scalar>;
  onEdit: (inputs: Record<string, Scalar>) => void;
  onTake: () => void;
}

/** A template's inputs, each edited in place. Ctrl+Enter takes, Escape goes back to the keys. */
export function InputForm({ defs, inputs, onEdit, onTake }: Props) {
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
    <Tag className={css['row']}>
      <span>
        {def.label}
        {def.required && <i data-tip="needed"> *</i>}
      </span>
      {children}
    </Tag>
  );
}

function Control({ def, value, onEdit }: { def: InputDef; value: Scalar; onEdit: (value: Scalar) => void }) {
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
