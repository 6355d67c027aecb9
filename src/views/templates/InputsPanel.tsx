import { ChevronDown, ChevronUp, X } from 'lucide-react';
import { useState } from 'react';
import type { Scalar } from '../../core/board/values.ts';
import type { InputDef, Template } from '../../core/documents/template.ts';
import type { Layout } from '../../core/layers/kinds.ts';
import type { MediaIndex } from '../../core/media/media.ts';
import { takeBack, unshown } from '../../core/workshop/inputs.ts';
import { Button } from '../../ui/Button.tsx';
import { NumberField } from '../../ui/NumberField.tsx';
import { Switch } from '../../ui/Switch.tsx';
import { InputForm } from '../live/InputForm.tsx';
import shell from '../shared/View.module.css';
import type { Workshop } from './workshop.ts';
import css from './InputsPanel.module.css';

const KINDS: Record<InputDef['kind'], string> = {
  text: 'text',
  choice: 'one of a few',
  switch: 'on or off',
  number: 'number',
  colour: 'colour',
  picture: 'picture',
};

interface Props {
  work: Workshop;
  layout: Layout;
  library: MediaIndex;
  /** What is tried on the canvas. */
  filled: Record<string, Scalar>;
  onFill: (inputs: Record<string, Scalar>) => void;
}

/** What the operator fills in: the form as it will be, tried on the canvas, and what each input is. */
export function InputsPanel({ work, layout, library, filled, onFill }: Props) {
  const { template } = work;
  const [open, setOpen] = useState<string | null>(null);
  const [refused, setRefused] = useState('');
  const idle = unshown(template, layout);
  if (template.inputs.length === 0)
    return (
      <p className={shell['dim']}>
        Nothing is handed to the operator yet. Choose a layer and press the hand beside a property.
      </p>
    );
  /** Changes one input; choices of the same name are one step while they are typed. */
  const set = (key: string, part: Partial<InputDef>) =>
    work.change(
      'Changed an input',
      (draft) => {
        const def = draft.inputs.find((i) => i.key === key)!;
        Object.assign(def, part);
        for (const [name, held] of Object.entries(part))
          if (held === undefined) delete (def as unknown as Record<string, unknown>)[name];
      },
      `input ${key} ${Object.keys(part).join(' ')}`,
    );
  const move = (at: number, by: number) =>
    work.change('Moved an input', (draft) => {
      const [def] = draft.inputs.splice(at, 1);
      draft.inputs.splice(at + by, 0, def!);
    });
  const remove = (def: InputDef) => {
    const others = takeBack(structuredClone(template), def.key);
    if (others.length)
      return setRefused(`${def.label} is a part of ${others.join(', ')}: change that first.`);
    setRefused('');
    work.change(`Took ${def.label} back`, (draft) => void takeBack(draft as Template, def.key));
  };
  return (
    <div className={css['inputs']}>
      <section className={css['try']} aria-label="The operator’s form">
        <h3>The operator’s form</h3>
        <InputForm
          defs={template.inputs}
          library={library}
          inputs={filled}
          onEdit={onFill}
          onTake={() => {}}
        />
        {idle.length > 0 && <p className={css['idle']}>Nothing in this layout shows {idle.join(', ')}.</p>}
      </section>
      {refused && <p className={shell['refused']}>{refused}</p>}
      <ul className={css['list']} aria-label="Inputs">
        {template.inputs.map((def, at) => (
          <li key={def.key} data-input={def.key} onBlur={work.end}>
            <div className={css['head']}>
              <Button
                aria-expanded={open === def.key}
                onClick={() => setOpen(open === def.key ? null : def.key)}
              >
                {def.label}
              </Button>
              <small>{KINDS[def.kind]}</small>
              <button
                type="button"
                disabled={at === 0}
                aria-label={`Move ${def.label} up`}
                onClick={() => move(at, -1)}
              >
                <ChevronUp size={14} />
              </button>
              <button
                type="button"
                disabled={at === template.inputs.length - 1}
                aria-label={`Move ${def.label} down`}
                onClick={() => move(at, 1)}
              >
                <ChevronDown size={14} />
              </button>
              <button
                type="button"
                aria-label={`Take ${def.label} back`}
                data-tip="Take it back: it stays as it is now"
                onClick={() => remove(def)}
              >
                <X size={14} />
              </button>
            </div>
            {open === def.key && <One def={def} onSet={(part) => set(def.key, part)} />}
          </li>
        ))}
      </ul>
    </div>
  );
}

/** What one input is. */
function One({ def, onSet }: { def: InputDef; onSet: (part: Partial<InputDef>) => void }) {
  return (
    <div className={css['one']}>
      <label>
        Label
        <input
          defaultValue={def.label}
          maxLength={80}
          onChange={(e) => e.target.value.trim() && onSet({ label: e.target.value.trim() })}
        />
      </label>
      <label>
        Help
        <input
          value={def.help ?? ''}
          maxLength={300}
          placeholder="what else the operator should know"
          onChange={(e) => onSet({ help: e.target.value || undefined } as Partial<InputDef>)}
        />
      </label>
      {def.kind === 'text' && (
        <NumberField
          label="At most"
          unit="letters"
          min={1}
          max={2000}
          value={def.maxLength ?? null}
          placeholder="200"
          onChange={(maxLength) => onSet({ maxLength })}
          onEmpty={() => onSet({ maxLength: undefined } as unknown as Partial<InputDef>)}
        />
      )}
      {def.kind === 'number' && (
        <span>
          {(['min', 'max'] as const).map((part) => (
            <NumberField
              key={part}
              label={part === 'min' ? 'From' : 'to'}
              decimals={2}
              value={def[part] ?? null}
              placeholder="any"
              onChange={(n) => onSet({ [part]: n })}
              onEmpty={() => onSet({ [part]: undefined })}
            />
          ))}
        </span>
      )}
      {def.kind === 'choice' && (
        <label>
          Choices, one in a line: what is shown
          <textarea
            rows={Math.min(6, (def.choices ?? []).length + 1)}
            defaultValue={(def.choices ?? []).map((c) => c.label).join('\n')}
            onChange={(e) => {
              // A label that stays keeps what it stands for.
              const known = new Map((def.choices ?? []).map((c, i) => [i, c.value]));
              const labels = e.target.value.split('\n').map((l) => l.trim());
              const choices = labels.flatMap((label, i) =>
                label ? [{ label, value: known.get(i) ?? label }] : [],
              );
              if (choices.length) onSet({ choices });
            }}
          />
        </label>
      )}
      {(def.kind === 'text' || def.kind === 'number') && (
        <label>
          Begins as
          <input
            value={String(def.first ?? '')}
            maxLength={2000}
            placeholder="blank"
            onChange={(e) => {
              const { value } = e.target;
              const first = value === '' ? undefined : def.kind === 'number' ? Number(value) : value;
              if (!Number.isNaN(first)) onSet({ first } as Partial<InputDef>);
            }}
          />
        </label>
      )}
      <Switch on={def.required === true} onChange={(required) => onSet({ required })}>
        has to be filled in
      </Switch>
    </div>
  );
}
