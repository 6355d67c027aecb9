import type { Format } from '../../core/value/format.ts';
import { NumberField } from '../../ui/NumberField.tsx';
import css from './ValueEditor.module.css';

const FORMATS: [string, string, Format | undefined][] = [
  ['', 'no format', undefined],
  ['ordinal', '1st, 2nd', 'ordinal'],
  ['signed', '+3, −3', 'signed'],
  ['percent', '46%', 'percent'],
  ['average', '.317', 'average'],
  ['decimals', 'decimals', { decimals: 1 }],
  ['pad', '007', { pad: 2 }],
  ['plural', '1 goal, 2 goals', { plural: ['goal', 'goals'] }],
  ['clock', 'ms as 1:23', 'clock'],
  ['upper', 'CAPITALS', 'upper'],
  ['lower', 'small letters', 'lower'],
  ['initials', 'initials', 'initials'],
  ['date', 'date', { date: 'short' }],
  ['ink', 'legible ink on it', { ink: ['#ffffff', '#111111'] }],
  ['not', 'the opposite', 'not'],
];

/** What is done to a value on its way out. */
export function FormatPicker({
  format,
  onChange,
}: {
  format: Format | undefined;
  onChange: (format: Format | undefined) => void;
}) {
  const name = format === undefined ? '' : typeof format === 'string' ? format : Object.keys(format)[0]!;
  const number = (part: 'decimals' | 'pad', value: number, most: number) => (
    <NumberField
      name={part}
      min={part === 'pad' ? 1 : 0}
      max={most}
      size={2}
      value={value}
      onChange={(n) => onChange((part === 'pad' ? { pad: n } : { decimals: n }) as Format)}
    />
  );
  return (
    <span className={css['format']}>
      <select
        value={name}
        aria-label="Format"
        onChange={(e) => onChange(FORMATS.find(([n]) => n === e.target.value)?.[2])}
      >
        {FORMATS.map(([n, label]) => (
          <option key={n} value={n}>
            {label}
          </option>
        ))}
      </select>
      {typeof format === 'object' && 'decimals' in format && number('decimals', format.decimals, 6)}
      {typeof format === 'object' && 'pad' in format && number('pad', format.pad, 20)}
      {typeof format === 'object' &&
        'plural' in format &&
        [0, 1].map((i) => (
          <input
            key={i}
            value={format.plural[i]}
            aria-label={i === 0 ? 'Word for one' : 'Word for several'}
            size={7}
            onChange={(e) =>
              onChange({
                plural: (i === 0
                  ? [e.target.value, format.plural[1]]
                  : [format.plural[0], e.target.value]) as [string, string],
              })
            }
          />
        ))}
      {typeof format === 'object' && 'date' in format && (
        <select
          value={format.date}
          aria-label="Date form"
          onChange={(e) => onChange({ date: e.target.value as 'short' })}
        >
          {['short', 'long', 'weekday', 'time'].map((d) => (
            <option key={d}>{d}</option>
          ))}
        </select>
      )}
    </span>
  );
}
