import { isRecord } from '../board/own.ts';
import type { BoardMemory } from '../board/board.ts';
import { isClock, type ClockState, type FieldValue } from '../board/values.ts';
import type { Row } from '../board/tables.ts';
import type { ArbiterMemory } from '../patch/arbiter.ts';
import { Each, EachIn, One } from '../document/check.ts';
import { isKey, isScalar, Key, ListOf, Must, Num, OneOf, OrNull, Text } from '../document/rules.ts';

const finite = (v: unknown) => typeof v === 'number' && Number.isFinite(v);
const isClockState = (v: unknown): v is ClockState => {
  if (typeof v !== 'object' || v === null || !isClock(v as FieldValue)) return false;
  const { value, running, direction, anchor, until } = v as ClockState;
  return (
    [value, anchor, until].every(finite) &&
    typeof running === 'boolean' &&
    (direction === 'down' || direction === 'up')
  );
};
/** True for a field's value as it stands in a tape. */
export const isFieldValue = (v: unknown): v is FieldValue => isScalar(v) || isClockState(v);

const isRecordOf = (v: unknown, holds: (item: unknown) => boolean) =>
  isRecord(v) && Object.values(v).every(holds);
const RecordOf = (holds: (item: unknown) => boolean, message: string) =>
  Must('recordOf', (v) => isRecordOf(v, holds), message);
const isRow = (v: unknown) =>
  Array.isArray(v) && v.length === 2 && typeof v[0] === 'string' && isRecordOf(v[1], isScalar);
const areTexts = (v: unknown) => Array.isArray(v) && v.every((t) => typeof t === 'string');
const BASE64 = /^(?:[A-Za-z0-9+/]{4})*(?:[A-Za-z0-9+/]{2}==|[A-Za-z0-9+/]{3}=)?$/;
/** True for bytes as base64 (RFC 4648). */
export const isBase64 = (v: unknown): v is string => typeof v === 'string' && BASE64.test(v);

const QUALITIES = ['ok', 'late', 'lost', 'none'] as const;
type Quality = (typeof QUALITIES)[number];
const AnyFieldValue = () => Must('fieldValue', isFieldValue, 'is not the value of a field');
const ClockAt = () => Must('clock', isClockState, 'is not a clock');

class Said {
  @Key() key!: string;
  @AnyFieldValue() value!: FieldValue;
  @Key() origin!: string;
}
class FieldKnown extends Said {
  @OrNull() @Num() at!: number | null;
  @OneOf(...QUALITIES) quality!: Quality;
}
/** A table as a tape and the database keep it. */
export class TableKnown {
  @Key() key!: string;
  @Text(0, 2000) name!: string;
  @Must('columns', areTexts, 'must be names of columns') columns!: string[];
  @ListOf(isRow, 'must be rows') rows!: [string, Row][];
  @Text(0, 80) origin!: string;
  @Num() at!: number;
  @OneOf(...QUALITIES) quality!: Quality;
}
class BoardKnown {
  @Each(() => FieldKnown) fields!: FieldKnown[];
  @Each(() => TableKnown) tables!: TableKnown[];
}
class ArbiterKnown {
  @RecordOf(finite, 'must be times') live!: Record<string, number>;
  @Each(() => Said) latest!: Said[];
  @RecordOf((v) => typeof v === 'string', 'must be keys of sources') holders!: Record<string, string>;
  @RecordOf(areTexts, 'must be keys of sources') lost!: Record<string, string[]>;
}
class ClockKnown {
  @Key() field!: string;
  @ClockAt() state!: ClockState;
  @Num() said!: number;
}

/** What is known of a source. */
export class SourceMemory {
  @OrNull() @Num() lastWord!: number | null;
  @OneOf('live', 'late', 'lost', 'off') health!: 'live' | 'late' | 'lost' | 'off';
  /** Bytes of a frame or a line that has only begun, as base64. */
  @Must('base64', isBase64, 'is not base64') held = '';
  @Each(() => ClockKnown) clocks: ClockKnown[] = [];
  /** For a pad: the fields whose newest word is its own. */
  @ListOf(isKey, 'must be keys of fields') words: string[] = [];
}

/** What is known of a source that holds nothing back: its last word, counted from `zero`, and its health. */
export const sourceMemory = (
  lastWord: number | null,
  health: SourceMemory['health'],
  zero: number,
): SourceMemory => ({
  lastWord: lastWord === null ? null : lastWord - zero,
  health,
  held: '',
  clocks: [],
  words: [],
});

/** All that Foothill knows of its sources and by them at one moment. Times count from that moment, in ms. */
export class IntakeMemory {
  @One(() => BoardKnown) board!: BoardMemory;
  @One(() => ArbiterKnown) arbiter!: ArbiterMemory;
  @EachIn(() => SourceMemory) sources!: Record<string, SourceMemory>;
}
