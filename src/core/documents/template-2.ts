import { isRecord } from '../board/own.ts';
import { renamedKeys, type Step } from '../document/upgrade.ts';

/** From version 2 to 3: an input's `default` was called `first`, and `resets` was called `afresh`. */
export const inputsByDefault: Step = (doc) => {
  const { inputs } = doc;
  if (!Array.isArray(inputs)) return doc;
  return {
    ...doc,
    inputs: inputs.map((input: unknown) =>
      isRecord(input) ? renamedKeys(input, { first: 'default', afresh: 'resets' }) : input,
    ),
  };
};
