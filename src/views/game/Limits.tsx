import { useState } from 'react';
import { isClock } from '../../core/board/values.ts';
import type { FieldDef } from '../../core/sport/profile.ts';
import { defaultValue, parseTyped, typedText } from '../../core/sport/typed.ts';
import { Time } from '../shared/TimeInput.tsx';
import { tip } from '../../ui/tip.ts';
import { NumberField } from '../../ui/NumberField.tsx';

/** What a field is when a game begins; nothing typed is what its kind suggests, which stands there dimmed. */
function Begins({ field, onChange }: { field: FieldDef; onChange: (field: FieldDef) => void }) {
  const [problem, setProblem] = useState<string | null>(null);
  const { default: first, ...alone } = field;
  const written = first === undefined ? '' : typedText(defaultValue(field, 0));
  return (
    <label>
      begins at{' '}
      <input
        key={written}
        defaultValue={written}
        placeholder={typedText(defaultValue(alone as FieldDef, 0)) || 'blank'}
        size={7}
        aria-label={`${field.label} begins at`}
        aria-invalid={problem !== null}
        {...tip(problem)}
        onBlur={(e) => {
          const text = e.target.value.trim();
          if (text === written) return setProblem(null);
          const read = parseTyped(field, text, 0);
          if ('problem' in read) return setProblem(read.problem);
          setProblem(null);
          const { value } = read;
          if (value === null) onChange(alone as FieldDef);
          else onChange({ ...field, default: isClock(value) ? value.value : value });
        }}
      />
      {problem && <small role="status">{problem}</small>}
    </label>
  );
}

/** What one field may say, and what it begins with. */
export function Limits(props: {
  field: FieldDef;
  clocks: readonly FieldDef[];
  onChange: (field: FieldDef) => void;
}) {
  return (
    <>
      <Bounds {...props} />
      <Begins field={props.field} onChange={props.onChange} />
    </>
  );
}

/** What one field may say: between which numbers, how long, of which choices, how its clock goes. */
function Bounds({
  field,
  clocks,
  onChange,
}: {
  field: FieldDef;
  clocks: readonly FieldDef[];
  onChange: (field: FieldDef) => void;
}) {
  const whole = (label: string, value: number, set: (n: number) => void, min = -9999, max = 999_999) => (
    <NumberField
      label={label}
      name={`${label} of ${field.label}`}
      value={value}
      min={min}
      max={max}
      onChange={set}
    />
  );
  const choose = (
    label: string,
    value: string,
    options: readonly [string, string][],
    set: (v: string) => void,
  ) => (
    <label>
      {label}{' '}
      <select value={value} aria-label={`${label} of ${field.label}`} onChange={(e) => set(e.target.value)}>
        {options.map(([v, text]) => (
          <option key={v} value={v}>
            {text}
          </option>
        ))}
      </select>
    </label>
  );
  switch (field.kind) {
    case 'integer':
      return (
        <>
          {whole('from', field.min, (min) => onChange({ ...field, min }))}{' '}
          {whole('to', field.max, (max) => onChange({ ...field, max }))}
        </>
      );
    case 'text':
      return whole('characters', field.maxLength, (maxLength) => onChange({ ...field, maxLength }), 1, 500);
    case 'choice':
      return (
        <label>
          of{' '}
          <input
            defaultValue={field.choices.join(', ')}
            aria-label={`Choices of ${field.label}`}
            size={16}
            onBlur={(e) => {
              const choices = [
                ...new Set(
                  e.target.value
                    .split(',')
                    .map((c) => c.trim())
                    .filter(Boolean),
                ),
              ];
              if (choices.length) onChange({ ...field, choices });
              else e.target.value = field.choices.join(', ');
            }}
          />
        </label>
      );
    case 'clock': {
      const { with: beside, ...alone } = field;
      const others = clocks.filter((f) => f.kind === 'clock' && f.key !== field.key);
      return (
        <>
          <Time
            label="longest"
            name={`longest of ${field.label}`}
            value={field.max}
            onChange={(max) => onChange({ ...field, max })}
          />
          {choose(
            'counts',
            field.direction,
            [
              ['down', 'down'],
              ['up', 'up'],
            ],
            (v) => onChange({ ...field, direction: v as 'down' }),
          )}
          {choose(
            'written',
            field.form,
            [
              ['m:ss', '0:34'],
              ['s', '34'],
            ],
            (v) => onChange({ ...field, form: v as 's' }),
          )}
          <Time
            label="tenths below"
            name={`tenths below of ${field.label}`}
            value={field.tenthsBelow}
            onChange={(tenthsBelow) => onChange({ ...field, tenthsBelow })}
          />
          {choose(
            'at a stoppage it',
            field.stops,
            [
              ['whistle', 'stands'],
              ['runs on', 'runs on'],
            ],
            (v) => onChange({ ...field, stops: v as 'whistle' }),
          )}
          {(others.length > 0 || beside) &&
            choose(
              'goes with',
              beside ?? '',
              [['', 'itself'], ...others.map((o): [string, string] => [o.key, o.label])],
              (v) => onChange(v ? { ...field, with: v } : alone),
            )}
        </>
      );
    }
    default:
      return null;
  }
}
