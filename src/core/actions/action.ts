import { Strict, type DocumentClass } from '../document/check.ts';
import type { Decision } from './change.ts';
import type { ActionRequest } from './request.ts';
import type { Preparation, Situation } from './situation.ts';

/** What somebody at a desk is there for; whoever may not do an action is told so. */
export const ROLES = {
  operate: 'puts graphics on and off and corrects what the data says',
  prepare: 'makes games, sports, derived values and pictures ready',
  connect: 'connects sources and says what feeds what',
  record: 'records, plays and cuts tapes',
} as const;
export type Role = keyof typeof ROLES;

/** What an action declares. HTTP, the pages' types, undo, the log, roles and OpenAPI are made of this. */
export interface ActionDef<R extends ActionRequest> {
  /** What is asked; its decorators say what may be. */
  request: DocumentClass<R>;
  role: Role;
  /** What takes its time before it can be decided. Throws a Refusal. */
  prepare?: (make: Preparation, request: R) => Promise<void>;
  /** What it changes; nothing is changed by deciding. Throws a Refusal, a sentence, where it cannot be done. */
  decide: (now: Situation, request: R, at: number) => Decision;
  /** What of it is one entry of the log, together with the same before it, until something else is done. */
  entry?: (request: R) => string | null;
  /**
   * An entry so far, which ended with `last`, and the next of it as one request that does all of it again; null where that one
   * begins an entry of its own. Without this, the next alone does what all before it did.
   */
  joined?: (entry: R, last: R, next: R) => R | null;
  /** The versions that it makes are called by what is another in them; without this, by its sentence. */
  versionsByChange?: (request: R) => boolean;
  /** What was done, in words, for the log and the answer to the page; asked before it is carried out. */
  sentence: (now: Situation, request: R) => string;
}

/** Declares an action. A request with anything that its class does not name is refused. */
export function action<R extends ActionRequest>(def: ActionDef<R>): ActionDef<R> {
  Strict(def.request);
  return def;
}

export { refuse } from './refuse.ts';
