/** What the state of a binding says, in words. */
export const WORDS = {
  live: 'live: the board says it now',
  sample: 'sample: the board says nothing of it yet',
  missing: 'missing: what it asks for is not there',
} as const;
