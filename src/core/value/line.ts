import type { Scalar } from '../board/values.ts';
import type { Format } from './format.ts';
import type { Value } from './value.ts';

/** A part of a line: text as it is typed, or a Value among it. */
export type Segment = { text: string } | { chip: Value };

/** Signs of Unicode's private use that stand around a chip where a line is one text: nobody types them. */
const OPEN = '\uE000';
const CLOSE = '\uE001';
/** Finds the chips in a line that is one text; what is between the signs is the chip's Value as JSON. */
export const CHIP = /\uE000([^\uE000\uE001]*)\uE001/g;

const isText = (value: Value): value is { fixed: string | number } =>
  'fixed' in value && (typeof value.fixed === 'string' || typeof value.fixed === 'number');

/** The parts of a Value as they stand in a line: texts that follow each other are one, pieces within pieces are flat. */
export function segmentsOf(value: Value): Segment[] {
  const parts: Segment[] = [];
  const add = (v: Value, top: boolean): void => {
    if ('pieces' in v && (top || v.format === undefined)) return v.pieces.forEach((p) => add(p, false));
    if (!isText(v)) return void parts.push({ chip: v });
    const text = String(v.fixed);
    const last = parts.at(-1);
    if (last && 'text' in last) last.text += text;
    else if (text !== '') parts.push({ text });
  };
  add(value, true);
  return parts;
}

/**
 * The Value that the parts of a line are: a text alone, a chip alone, or pieces. What was done to the pieces as a whole is done
 * to them still.
 * @param was what the line was: a number that is still one stays a number
 */
export function valueOf(segments: readonly Segment[], was: Value): Value {
  const format: Format | undefined = 'pieces' in was ? was.format : undefined;
  const parts = segments.filter((s) => !('text' in s) || s.text !== '');
  const plain = (s: Segment): Value => ('text' in s ? { fixed: s.text } : s.chip);
  if (format !== undefined) return { pieces: parts.map(plain), format };
  const [only, ...more] = parts;
  if (!only) return { fixed: '' };
  if (more.length) return { pieces: parts.map(plain) };
  if (!('text' in only)) return only.chip;
  const wasNumber = 'fixed' in was && typeof was.fixed === 'number';
  const fixed: Scalar = wasNumber && isNumber(only.text) ? Number(only.text) : only.text;
  return { fixed };
}

const isNumber = (text: string) => text !== '' && String(Number(text)) === text;

/** A line as one text, in which chips are written between two signs: what an editor of text can cut, move and undo. */
export const lineText = (segments: readonly Segment[]): string =>
  segments.map((s) => ('text' in s ? s.text.replace(/[\uE000\uE001]/g, '') : chipText(s.chip))).join('');

/** One chip as it stands in a line that is one text. */
export const chipText = (value: Value): string => `${OPEN}${JSON.stringify(value)}${CLOSE}`;

/**
 * Reads a line that is one text. What stands between the signs and is no Value is left out, and so are signs without their
 * other one.
 * @param isValue tells whether what JSON says is a Value
 */
export function readLine(line: string, isValue: (held: unknown) => held is Value): Segment[] {
  const parts: Segment[] = [];
  const text = (t: string) => {
    const clean = t.replace(/[\uE000\uE001]/g, '');
    if (clean !== '') parts.push({ text: clean });
  };
  let at = 0;
  for (const found of line.matchAll(CHIP)) {
    text(line.slice(at, found.index));
    at = found.index + found[0].length;
    let held: unknown = null;
    try {
      held = JSON.parse(found[1]!);
    } catch {
      continue;
    }
    if (isValue(held)) parts.push({ chip: held });
  }
  text(line.slice(at));
  return parts;
}
