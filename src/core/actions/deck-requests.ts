import { isRecord } from '../board/own.ts';
import { Count, Maybe, Must, Name, Num, OneOf, OrNull, Text } from '../document/rules.ts';
import type { Part } from '../tape/tape.ts';
import { ActionRequest } from './request.ts';

const TAPE = ['record', 'stop', 'rename', 'delete', 'cut'] as const;

/** What is done to tapes. */
export class TapeRequest extends ActionRequest {
  @OneOf('tape') kind!: 'tape';
  @OneOf(...TAPE) do!: (typeof TAPE)[number];
  /** The tape's key; a recording is the one that is being made. */
  @Maybe() @Text(1, 80) tape?: string;
  @Maybe() @Name() name?: string;
  /** For a cut: the parts that are kept, in ms. The deck reads them. */
  @Maybe() @Count(0, 100) parts?: Part[];
}

const REHEARSE = ['start', 'end', 'play', 'pause', 'jump', 'speed', 'loop'] as const;

/** What is done with the tape that is played. */
export class RehearseRequest extends ActionRequest {
  @OneOf('rehearse') kind!: 'rehearse';
  @OneOf(...REHEARSE) do!: (typeof REHEARSE)[number];
  @Maybe() @Text(1, 80) tape?: string;
  /** By which maps and patches the tape is read. */
  @Maybe() @OneOf('tape', 'today') maps?: 'tape' | 'today';
  /** Where to jump to, ms; or how fast it is to run. */
  @Maybe() @Num(0, 1e9) to?: number;
  /** The part to play again and again, ms; none ends that. */
  @Maybe() @OrNull() @Must('object', isRecord, 'must be a part of the tape') part?: Part | null;
}

/** What the tape deck is asked to do. */
export type DeckRequest = TapeRequest | RehearseRequest;
