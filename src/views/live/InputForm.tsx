import { Fragment, useMemo, type KeyboardEvent, type ReactNode } from 'react';
import type { Scalar } from '../../core/board/values.ts';
import type { InputDef, Template } from '../../core/documents/template.ts';
import type { Layout } from '../../core/layers/kinds.ts';
import type { Idle } from '../../core/workshop/effect.ts';
import { Button } from '../../ui/Button.tsx';
import { later } from '../../ui/Later.tsx';
import { firstView, useLoaded } from '../../ui/loaded.ts';
import { NumberField } from '../../ui/NumberField.tsx';
import { Segments } from '../../ui/Segments.tsx';
import { Switch } from '../../ui/Switch.tsx';
import { tip } from '../../ui/tip.ts';
import type { Desk } from '../shared/desk.ts';
import { scopeOf } from '../shared/scope.ts';
import { useDesk, useKnown } from '../shared/use-desk.ts';
import css from './InputForm.module.css';

const PicturePicker = later(() => import('../shared/PicturePicker.tsx').then((m) => m.PicturePicker));
const RowChooser = later(() => import('../value/RowChooser.tsx').then((m) => m.RowChooser));
/** What a form does without at first comes once the view stands: on a slow line it would hold that up. */
const loadEffect = () => firstView.then(() => import('../../core/workshop/effect.ts'));
const Members = later(
  () => firstView.then(() => import('./Members.tsx')).then((m) => m.Members),
  // Until pictures of them can be drawn, the choices stand there in words.
  ({ def, value, onChange }: Parameters<typeof import('./Members.tsx').Members>[0]) => (
    <Segments label={def.label} value={value} options={def.choices ?? []} onChange={onChange} />
  ),
);

interface Props {
  desk: Desk;
  template: Pick<Template, 'key' | 'inputs'>;
  /** The layout that it is filled in for: what shows there decides what an input does. */
  layout: Layout;
  inputs: Record<string, Scalar>;
  onEdit: (inputs: Record<string, Scalar>) => void;
  onTake: () => void;
}

/** A template's inputs, each edited in place. Ctrl+Enter takes, Escape goes back to the keys. */
export function InputForm({ desk, template, layout, inputs, onEdit, onTake }: Props) {
  const { inputs: defs } = template;
  // What reads formulas is large: the form stands before it is here.
  const effect = useLoaded(loadEffect);
  // What hides a layer may be a field of the board: worked out at each of its changes, drawn only where it is another.
  const idleBy = useMemo(
    () => (effect && template.inputs.length ? effect.withoutEffect(template, layout) : null),
    [effect, template, layout],
  );
  const said = useDesk(desk, () => (idleBy ? JSON.stringify(idleBy(scopeOf(desk, inputs))) : '[]'));
  const idle = useMemo(() => JSON.parse(said) as Idle[], [said]);
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
        <Fragment key={def.key}>
          {def.section && <h4 className={css['section']}>{def.section}</h4>}
          <Row
            def={def}
            idle={idle.find((i) => i.input === def.key)}
            onFix={({ input, value }) => onEdit({ [input]: value })}
          >
            <Control
              def={def}
              desk={desk}
              layout={layout}
              inputs={inputs}
              value={inputs[def.key] ?? null}
              onEdit={(value) => onEdit({ [def.key]: value })}
            />
          </Row>
        </Fragment>
      ))}
    </form>
  );
}

/** An input with its label; what has several parts is labelled as a group. */
function Row({
  def,
  idle,
  onFix,
  children,
}: {
  def: InputDef;
  idle: Idle | undefined;
  onFix: (fix: NonNullable<Idle['fix']>) => void;
  children: ReactNode;
}) {
  const Tag = def.kind === 'text' ? 'label' : 'div';
  return (
    <div className={css['cell']} data-wide={def.wide}>
      <Tag className={css['row']} {...tip(def.help)}>
        <span>
          {def.label}
          {def.required && <i data-tip="needed"> *</i>}
        </span>
        {children}
      </Tag>
      {idle && (
        <p className={css['idle']}>
          Does not show: {idle.hidden} is hidden.
          {idle.fix && (
            <Button onClick={() => onFix(idle.fix!)}>
              {idle.fix.value === true
                ? `Switch ${idle.fix.label} on`
                : `Set ${idle.fix.label} to ${idle.fix.text}`}
            </Button>
          )}
        </p>
      )}
    </div>
  );
}

function Control({
  def,
  desk,
  layout,
  inputs,
  value,
  onEdit,
}: {
  def: InputDef;
  desk: Desk;
  layout: Layout;
  inputs: Record<string, Scalar>;
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
    return <PicturePicker label="" path={String(value ?? '')} library={desk.media} onChange={onEdit} />;
  if (def.kind === 'switch') {
    return <Switch label={def.label} on={value === true} onChange={onEdit} />;
  }
  if (def.kind === 'choice') {
    const held = typeof value === 'string' ? value : null;
    if (def.rows) return <RowChoice desk={desk} def={def} rows={def.rows} value={held} onEdit={onEdit} />;
    return <Members {...{ desk, def, layout, inputs }} value={held} onChange={onEdit} />;
  }
  return (
    <input
      type="text"
      aria-required={def.required}
      value={String(value ?? '')}
      placeholder={String(def.sample ?? '')}
      maxLength={def.maxLength ?? 200}
      onChange={(e) => onEdit(e.target.value)}
    />
  );
}

/** One row of a table: what the input holds is the row’s key. */
function RowChoice({
  desk,
  def,
  rows: { table, column },
  value,
  onEdit,
}: {
  desk: Desk;
  def: InputDef;
  rows: NonNullable<InputDef['rows']>;
  value: string | null;
  onEdit: (value: Scalar) => void;
}) {
  const known = useKnown(desk, 'tables').find((t) => t.key === table);
  if (!known) return <p className={css['none']}>There is no table {table} now.</p>;
  const rows = known.rows.map(([key, row]) => [key, { [column]: row[column] ?? null }] as const);
  const there = value !== null && rows.some(([key]) => key === value);
  return (
    <RowChooser
      label={def.label}
      rows={there ? rows : [[value ?? '', { [column]: value ? 'no such row now' : 'none' }], ...rows]}
      chosen={value ?? ''}
      onChoose={(key) => onEdit(key === '' ? null : key)}
    />
  );
}
