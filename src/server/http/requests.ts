import { readRequest } from '../../core/actions/actions.ts';
import { isRecord } from '../../core/board/own.ts';
import { Strict } from '../../core/document/check.ts';
import { Maybe, Must, OrNull, Whole, YesNo } from '../../core/document/rules.ts';

@Strict
class LookRequest {
  @Maybe() @YesNo() fetch?: boolean;
  /** A document map; the core reads it. */
  @Maybe() @OrNull() @Must('object', isRecord, 'must be an object') map?: object | null;
  /** How many of what repeats are to be seen. */
  @Maybe() @Whole(1, 5000) most?: number;
}

@Strict
class TrialRequest {
  /** A transport; the core reads it. */
  @Must('object', isRecord, 'must be an object') transport!: object;
}

/** Reads a request to look at a source's documents: the request, or one sentence that says what is wrong with it. */
export const readLook = (body: unknown): LookRequest | string => readRequest(LookRequest, body);

/** Reads a request to try a line: the request, or one sentence that says what is wrong with it. */
export const readTrial = (body: unknown): TrialRequest | string => readRequest(TrialRequest, body);
