import { yesOrNo } from '../board/yes.ts';
import { isClock, type FieldValue } from '../board/values.ts';
import { clockText, parseClock, stoppedClock, type ClockForm } from '../clock/clock.ts';
import { parseColour } from '../colour/contrast.ts';
import { isPlainNumber } from '../value/format.ts';
import type { FieldDef } from './field.ts';

/** Why `value` cannot stand in the field: a sentence; or null where it can. Blank can stand anywhere. */
export function refuseValue(def: FieldDef, value: FieldValue): string | null {
  if (value === null) return null;
  switch (def.kind) {
    case 'clock':
      if (!isClock(value)) return `${says(def, value)}: it is a clock`;
      return value.value >= 0 && value.value <= def.max + 999
        ? null
        : `${says(def, value)}: it goes to ${clockText(def.max)} at most`;
    case 'integer':
      if (typeof value !== 'number' || !Number.isInteger(value))
        return `${says(def, value)}: it is a whole number`;
      return value >= def.min && value <= def.max
        ? null
        : `${says(def, value)}: it goes from ${def.min} to ${def.max}`;
    case 'flag':
      return typeof value === 'boolean' ? null : `${says(def, value)}: it is yes or no`;
    case 'choice':
      return typeof value === 'string' && def.choices.includes(value)
        ? null
        : `${says(def, value)}: it is ${def.choices.join(' or ')}`;
    case 'colour':
      return typeof value === 'string' && parseColour(value)
        ? null
        : `${says(def, value)}: a colour is written #rrggbb`;
    case 'text':
      if (typeof value !== 'string') return `${says(def, value)}: it is a text`;
      return value.length <= def.maxLength ? null : `${def.label} is limited to ${def.maxLength} characters`;
    case 'derived':
      return null;
    case 'picture':
      return typeof value === 'string' ? null : `${says(def, value)}: it is a picture's path`;
  }
}

const says = ({ label }: FieldDef, value: FieldValue) =>
  `${label} cannot be ${isClock(value) ? clockText(value.value) : JSON.stringify(value)}`;

/**
 * What a field is when a game begins: what the profile says, else what its kind suggests: a clock of the game is full where
 * it runs down, numbers are 0 or their least, a flag is no. Blank where that fits nothing.
 */
export function defaultValue(def: FieldDef, now: number): FieldValue {
  const clock = (ms: number) => (def.kind === 'clock' ? stoppedClock(ms, def.direction, now) : ms);
  const { default: first } = def;
  const value =
    first !== undefined
      ? typeof first === 'number'
        ? clock(first)
        : first
      : def.kind === 'clock'
        ? def.group === 'clocks'
          ? clock(def.direction === 'down' ? def.max : 0)
          : null
        : def.kind === 'integer'
          ? Math.max(0, def.min)
          : def.kind === 'flag'
            ? false
            : null;
  return refuseValue(def, value) ? null : value;
}

/** How the field's clock is written; empty for other kinds. */
export function clockFormOf(def: FieldDef): ClockForm {
  return def.kind === 'clock' ? { form: def.form, tenthsBelow: def.tenthsBelow } : {};
}

/** A value as it would be typed; `parseTyped` reads it back. */
export function typedText(value: FieldValue): string {
  if (isClock(value)) return clockText(value.value, { tenthsBelow: 60_000 });
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  return value === null ? '' : String(value);
}

/**
 * Reads what a person typed for a field. An empty text is blank; a clock is typed as 5:32, 34.5 or 18 and is
 * stopped there. Gives the value, or a sentence that says what can be typed.
 */
export function parseTyped(
  def: FieldDef,
  text: string,
  now: number,
): { value: FieldValue } | { problem: string } {
  const t = text.trim();
  let value: FieldValue = t;
  if (t === '') value = null;
  else if (def.kind === 'integer') {
    if (!/^[+-]?\d+$/.test(t))
      return { problem: `${def.label} is a whole number from ${def.min} to ${def.max}` };
    value = Number(t);
  } else if (def.kind === 'derived') value = isPlainNumber(t) ? Number(t) : t;
  else if (def.kind === 'flag') {
    if (yesOrNo(t) === null) return { problem: `${def.label} is yes or no` };
    value = yesOrNo(t);
  } else if (def.kind === 'clock') {
    const reading = parseClock(t);
    if (!reading) return { problem: `${def.label} is a time such as 5:32, 34.5 or 18` };
    value = stoppedClock(reading.ms, def.direction, now);
  }
  const problem = refuseValue(def, value);
  return problem ? { problem } : { value };
}
