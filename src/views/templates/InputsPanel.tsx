import ChevronDown from 'lucide-react/icons/chevron-down';
import ChevronUp from 'lucide-react/icons/chevron-up';
import X from 'lucide-react/icons/x';
import { useRef, useState } from 'react';
import type { Scalar } from '../../core/board/values.ts';
import type { InputDef, Template } from '../../core/documents/template.ts';
import type { Layout } from '../../core/layers/kinds.ts';
import {
  filledBy,
  fillBy,
  groupChosenBy,
  membersIn,
  takeBack,
  unshown,
  type FilledBy,
} from '../../core/workshop/inputs.ts';
import { unlike } from '../../core/text/words.ts';
import { Button } from '../../ui/Button.tsx';
import { later } from '../../ui/Later.tsx';
import { NumberField } from '../../ui/NumberField.tsx';
import { Switch } from '../../ui/Switch.tsx';
import { InputForm } from '../live/InputForm.tsx';
import type { Desk } from '../shared/desk.ts';
import { useOwnStage } from '../shared/own-stage.ts';
import shell from '../shared/View.module.css';
import type { DocumentSession } from '../shared/document-session.ts';
import { FillChoice } from './FillChoice.tsx';
import css from './InputsPanel.module.css';

const PicturePicker = later(() => import('../shared/PicturePicker.tsx').then((m) => m.PicturePicker));

const KINDS: Record<InputDef['kind'], string> = {
  text: 'text',
  choice: 'one of a few',
  switch: 'on or off',
  number: 'number',
  colour: 'colour',
  picture: 'picture',
};

interface Props {
  work: DocumentSession<Template>;
  layout: Layout;
  desk: Desk;
  /** What is tried on the canvas. */
  filled: Record<string, Scalar>;
  onFill: (inputs: Record<string, Scalar>) => void;
}

/** What the operator fills in: the form as it will be, tried on the canvas, and what each input is. */
export function InputsPanel({ desk, work, layout, filled, onFill }: Props) {
  const { doc: template } = work;
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
        <Trying desk={desk} template={template} layout={layout} inputs={filled} />
        <InputForm
          desk={desk}
          template={template}
          layout={layout}
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
            {open === def.key && (
              <One
                def={def}
                desk={desk}
                layout={layout}
                onSet={(part) => set(def.key, part)}
                onFillBy={(by) =>
                  work.change(`Changed how ${def.label} is filled in`, (draft) =>
                    fillBy(draft as Template, def.key, by),
                  )
                }
              />
            )}
          </li>
        ))}
      </ul>
    </div>
  );
}

/** A preview of its own, on which it is taken and goes out as on air. */
function Trying({
  desk,
  template,
  layout,
  inputs,
}: {
  desk: Desk;
  template: Template;
  layout: Layout;
  inputs: Record<string, Scalar>;
}) {
  const root = useRef<HTMLDivElement>(null);
  const [out, setOut] = useState(false);
  useOwnStage(desk, root, { name: template.key, layout, inputs, out });
  const scale = Math.min(WIDE / layout.width, HIGH / layout.height);
  return (
    <div className={css['trying']} role="group" aria-label="Preview">
      <div className={css['frame']} style={{ width: layout.width * scale, height: layout.height * scale }}>
        <div ref={root} data-picture="trying" style={{ scale: String(scale), transformOrigin: '0 0' }} />
      </div>
      <span>
        <Button main={out} disabled={!out} onClick={() => setOut(false)}>
          Take
        </Button>
        <Button disabled={out} onClick={() => setOut(true)}>
          Out
        </Button>
      </span>
    </div>
  );
}

/** How large the preview may be, in px. */
const WIDE = 250;
const HIGH = 150;

interface OneProps {
  def: InputDef;
  desk: Desk;
  layout: Layout;
  onSet: (part: Partial<InputDef>) => void;
}

/** What one input is. */
function One({ def, desk, layout, onSet, onFillBy }: OneProps & { onFillBy: (by: FilledBy) => void }) {
  const by = filledBy(def);
  const gone = (part: string) => ({ [part]: undefined }) as Partial<InputDef>;
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
      {def.kind !== 'switch' && <FillChoice def={def} desk={desk} layout={layout} onFillBy={onFillBy} />}
      {by === 'list' && <Choices def={def} desk={desk} layout={layout} onSet={onSet} />}
      {(def.kind === 'text' || def.kind === 'number') && (
        <label>
          Begins as
          <input
            value={String(def.default ?? '')}
            maxLength={2000}
            placeholder="blank"
            onChange={(e) => {
              const { value } = e.target;
              const first = value === '' ? undefined : def.kind === 'number' ? Number(value) : value;
              if (!Number.isNaN(first)) onSet({ default: first } as Partial<InputDef>);
            }}
          />
        </label>
      )}
      <label>
        Heading above it
        <input
          value={def.section ?? ''}
          maxLength={80}
          placeholder="none"
          onChange={(e) => onSet(e.target.value ? { section: e.target.value } : gone('section'))}
        />
      </label>
      <Switch on={def.required === true} onChange={(required) => onSet({ required })}>
        has to be filled in
      </Switch>
      <Switch on={def.wide === true} onChange={(on) => onSet(on ? { wide: true } : gone('wide'))}>
        has a line of the form to itself
      </Switch>
      <Switch on={def.resets === true} onChange={(on) => onSet(on ? { resets: true } : gone('resets'))}>
        begins anew once it was on air; else it keeps what was filled in
      </Switch>
    </div>
  );
}

/** What can be chosen, one under another: what people read, and what it stands for. */
function Choices({ def, desk, layout, onSet }: OneProps) {
  const choices = def.choices ?? [];
  /** Layers that came into the group since it was handed over. */
  const group = groupChosenBy(layout, def.key);
  const missing = group ? membersIn(group).filter((m) => !choices.some((c) => c.value === m.value)) : [];
  const put = (at: number, part: Partial<(typeof choices)[number]>) =>
    onSet({ choices: choices.map((c, i) => (i === at ? { ...c, ...part } : c)) });
  const as = def.as ?? 'text';
  const fresh = () => {
    const value = unlike(
      'choice',
      (key) => choices.some((c) => c.value === key),
      (n) => `choice ${n}`,
    );
    return { label: 'Another', value: as === 'colour' ? '#2c5d8f' : as === 'picture' ? '' : value };
  };
  return (
    <>
      <label>
        Shown as
        <select value={as} onChange={(e) => onSet({ as: e.target.value as NonNullable<InputDef['as']> })}>
          <option value="text">words</option>
          <option value="picture">pictures</option>
          <option value="colour">colours</option>
        </select>
      </label>
      <ul className={css['choices']} aria-label={`Choices of ${def.label}`}>
        {choices.map((choice, at) => (
          <li key={at}>
            <input
              value={choice.label}
              maxLength={80}
              aria-label={`What choice ${at + 1} is called`}
              onChange={(e) => e.target.value.trim() && put(at, { label: e.target.value })}
            />
            {as === 'colour' ? (
              <input
                type="color"
                aria-label={`Colour of ${choice.label}`}
                value={/^#[0-9a-f]{6}$/i.test(choice.value) ? choice.value : '#000000'}
                onChange={(e) => put(at, { value: e.target.value })}
              />
            ) : as === 'picture' ? (
              <PicturePicker
                path={choice.value}
                library={desk.media}
                label=""
                onChange={(value) => put(at, { value })}
              />
            ) : (
              <input
                value={choice.value}
                maxLength={2000}
                aria-label={`What ${choice.label} stands for`}
                data-tip="What the layer gets: for a one-of group, the name of its layer"
                onChange={(e) => put(at, { value: e.target.value })}
              />
            )}
            <button
              type="button"
              aria-label={`Remove ${choice.label}`}
              disabled={choices.length < 2}
              onClick={() => onSet({ choices: choices.filter((_, i) => i !== at) })}
            >
              <X size={14} />
            </button>
          </li>
        ))}
      </ul>
      {missing.length > 0 && (
        <Button onClick={() => onSet({ choices: [...choices, ...missing] })}>
          Add {missing.map((m) => m.label).join(', ')}
        </Button>
      )}
      <Button onClick={() => onSet({ choices: [...choices, fresh()] })}>Add a choice</Button>
    </>
  );
}
