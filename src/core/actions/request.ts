import { Form, Maybe, Name, Num, Text } from '../document/rules.ts';

/** Who does it: the person at a desk, and at which of its views, for each has an undo of its own. */
export interface By {
  /** The desk's own id, made by the browser. */
  desk: string;
  /** The name that the person gave; blank for none. */
  name: string;
  view: string;
}

/** What every action is asked with. */
export class ActionRequest {
  /** Made by the page, so that a repeated request is done once. */
  @Form(/^[A-Za-z0-9_-]{8,64}$/, 'must be 8 to 64 letters, digits, _ or -') id!: string;

  /** Until when it may be done, server ms: one whose answer was given up must not happen later. */
  @Maybe() @Num() until?: number;

  @Maybe() @Form(/^[A-Za-z0-9_-]{8,64}$/, 'must be 8 to 64 letters, digits, _ or -') desk?: string;
  @Maybe() @Name() who?: string;
  @Maybe() @Form(/^[a-z-]{1,20}$/, 'must be the name of a view') view?: string;
}

/** What every action on one lane is asked with: the zone, and its output. */
export class LaneRequest extends ActionRequest {
  @Text(1, 80) output!: string;
  @Text(1, 80) zone!: string;
}

/** Who asks for it. */
export const byOf = ({ desk = '', who = '', view = '' }: ActionRequest): By => ({ desk, name: who, view });

/** An action without what every request has: what a page asks for, and what is written down of it. */
export type Asked<R> = R extends ActionRequest ? Omit<R, keyof ActionRequest> : never;
