import { useRef, useState, type ReactNode } from 'react';
import { Button } from 'react-aria-components';
import { useNumberField } from 'react-aria/useNumberField';
import type { NumberFieldState } from 'react-stately/useNumberFieldState';
import { boundsText, isChange, rounded, within, evaluated, type Bounds } from '../core/number/arithmetic.ts';
import { useScrub } from './scrub.ts';
import css from './NumberField.module.css';

export interface NumberProps extends Bounds {
  /** What stands before it, and what it is called. */
  label?: ReactNode;
  /** What it is called where the label alone does not say it. */
  name?: string;
  value: number | null;
  onChange: (n: number) => void;
  /** Nothing may stand there: what an emptied box does. */
  onEmpty?: () => void;
  /** What an arrow key adds; ten times that with Shift. */
  step?: number;
  unit?: string;
  placeholder?: string;
  /** How many digits there is room for. */
  size?: number;
  /** It follows a pointer that is dragged over it. */
  drags?: boolean;
  /** Numbers of several things where they differ (the value is null): a step, a drag or `+=8` changes each by as much. */
  each?: { values: readonly number[]; onChange: (to: readonly number[]) => void };
  /** What `tip` gives. */
  tip?: Record<`data-${string}` | `aria-${string}`, string>;
}

/** What a text stands for: nothing, a number as typed and as it may stand, or one for each of several. */
type Read = { empty: true } | { n: number; to: number } | { all: readonly number[] };

const nothing = () => {};
const FINE = { isInvalid: false, validationErrors: [], validationDetails: {} as ValidityState };
/** What react-aria asks of forms that it checks itself; ours say what is wrong by themselves. */
const UNCHECKED = {
  realtimeValidation: FINE,
  updateValidation: nothing,
  resetValidation: nothing,
  commitValidation: nothing,
};

/**
 * A number: typed, also as arithmetic (1920/3, +=8), or stepped by arrow keys and the buttons at its end. A number that may
 * stand there is taken while it is typed; arithmetic at Enter or when the box is left. What is out of bounds is then brought
 * within, and what is no number changes nothing.
 */
export function NumberBox({
  label,
  name,
  value,
  onChange,
  onEmpty,
  step = 1,
  unit,
  placeholder,
  size = 4,
  drags = false,
  each,
  tip,
  ...bounds
}: NumberProps) {
  const { min, max, decimals = 0 } = bounds;
  const [typed, setTyped] = useState<string | null>(null);
  /** What stood there when the box was entered: what += adds to, and what Escape goes back to. */
  const before = useRef(value);
  const box = useRef<HTMLInputElement>(null);

  const several = value === null ? (each?.values ?? null) : null;
  const changeEach = (from: readonly number[], change: (n: number) => number) => {
    const to = from.map((n) => within(change(n), bounds));
    if (to.some((n, i) => n !== several?.[i])) each!.onChange(to);
  };
  const readOf = (text: string): Read | null => {
    if (text.trim() === '') return onEmpty ? { empty: true } : null;
    if (several && isChange(text)) {
      const all = several.map((n) => evaluated(text, n));
      return all.includes(null) ? null : { all: all as number[] };
    }
    const n = evaluated(text, before.current);
    return n === null ? null : { n, to: within(n, bounds) };
  };
  const take = (read: Read | null) => {
    if (!read) return;
    if ('all' in read) return changeEach(read.all, (n) => n);
    if ('empty' in read) {
      if (value !== null) onEmpty!();
    } else if (read.to !== value) onChange(read.to);
  };
  const settle = (text = typed) => {
    if (text !== null) take(readOf(text));
    setTyped(null);
  };
  const nudge = (by: number) => {
    setTyped(null);
    if (several) return changeEach(several, (n) => n + by);
    const to = value === null ? (min ?? 0) : within(value + by, bounds);
    if (to !== value) onChange(to);
  };
  const read = typed === null ? null : readOf(typed);
  // What ends with a sign is not ended yet.
  const bad =
    typed !== null && !/[-+*/=(.,]\s*$/.test(typed) && (!read || ('n' in read && read.n !== read.to));
  const state: NumberFieldState = {
    ...UNCHECKED,
    displayValidation: { ...FINE, isInvalid: bad },
    inputValue: typed ?? (value === null ? '' : String(rounded(value, decimals))),
    // Whoever types hears it: what came of it is said when it stands.
    numberValue: (typed === null ? value : before.current) ?? NaN,
    defaultNumberValue: value ?? NaN,
    minValue: min ?? NaN,
    maxValue: max ?? NaN,
    canIncrement: max === undefined || value === null || value < max,
    canDecrement: min === undefined || value === null || value > min,
    validate: () => true,
    setInputValue: (text) => {
      setTyped(text);
      // Arithmetic waits until it is whole, and so does a number out of bounds, which may be the beginning of one within.
      const now = readOf(text);
      const isWorkedOut = now && 'n' in now && now.n === now.to && /^\s*-?[\d.,]+\s*$/.test(text);
      if (isWorkedOut || (now && 'empty' in now)) take(now);
    },
    setNumberValue: nothing,
    commit: settle,
    increment: () => nudge(step),
    decrement: () => nudge(-step),
    incrementToMax: nothing,
    decrementToMin: nothing,
  };
  const field = useNumberField(
    {
      ...(name || !label ? { 'aria-label': name ?? '' } : { label }),
      ...(min === undefined ? {} : { minValue: min }),
      ...(max === undefined ? {} : { maxValue: max }),
      formatOptions: { maximumFractionDigits: decimals },
      isWheelDisabled: true,
      ...(bad ? { errorMessage: boundsText(bounds) } : {}),
      onFocus: (event) => {
        before.current = value;
        (event.target as HTMLInputElement).select();
      },
    },
    state,
    box,
  );
  const scrub = useScrub<number | readonly number[]>(box, value ?? several, (from, steps) => {
    if (typeof from !== 'number') return changeEach(from, (n) => n + steps * step);
    const to = within(rounded(from + steps * step, decimals), bounds);
    if (to !== value) onChange(to);
  });
  const { onKeyDown } = field.inputProps;
  return (
    <span className={css['field']}>
      {label && (name ? <span>{label}</span> : <label {...field.labelProps}>{label}</label>)}
      <span {...field.groupProps} className={css['box']}>
        <input
          {...field.inputProps}
          {...tip}
          {...(drags ? scrub : {})}
          data-drags={drags}
          ref={box}
          placeholder={placeholder}
          style={{ width: `calc(${size}ch + 36px)` }}
          onKeyDown={(event) => {
            const up = event.key === 'ArrowUp' || event.key === 'PageUp';
            const down = event.key === 'ArrowDown' || event.key === 'PageDown';
            if (event.key === 'Escape' && typed !== null) {
              event.preventDefault();
              event.stopPropagation();
              setTyped(null);
              if (before.current === null) onEmpty?.();
              else if (before.current !== value) onChange(before.current);
            } else if ((up || down) && (event.shiftKey || event.key.startsWith('Page'))) {
              event.preventDefault();
              nudge(up ? 10 * step : -10 * step);
            } else if (event.key !== 'Home' && event.key !== 'End') onKeyDown?.(event);
          }}
        />
        <span className={css['steps']}>
          <Button {...field.incrementButtonProps} aria-label="Increase">
            +
          </Button>
          <Button {...field.decrementButtonProps} aria-label="Decrease">
            −
          </Button>
        </span>
        {bad && (
          <small {...field.errorMessageProps} role="status" className={css['bad']}>
            {boundsText(bounds)}
          </small>
        )}
      </span>
      {unit}
    </span>
  );
}
