import { Refusal } from '../show/show.ts';

/** Throws the sentence that says why something cannot be done. */
export function refuse(why: string): never {
  throw new Refusal(why);
}
