const KINDS = new Map([
  ['int', 'a whole number'],
  ['uint', 'a whole number'],
  ['double', 'a number'],
  ['string', 'a text'],
  ['bool', 'yes or no'],
  ['null_type', 'a blank'],
  ['list', 'a list'],
  ['map', 'a map'],
  ['bytes', 'bytes'],
  ['type', 'a type'],
]);
const kindOf = (name: string) => KINDS.get(name.trim()) ?? `a ${name.trim()}`;

const SIGNS = new Map([
  ['_+_', '+'],
  ['_-_', '-'],
  ['_*_', '×'],
  ['_/_', '/'],
  ['_%_', '%'],
  ['_<_', '<'],
  ['_<=_', '<='],
  ['_>_', '>'],
  ['_>=_', '>='],
  ['-_', 'the minus sign'],
  ['!_', 'not'],
  ['@in', 'in'],
  ['_in_', 'in'],
]);

/** The engine's messages, by how they begin or what they hold, each with its sentence. */
const WORDS: [RegExp, (found: RegExpExecArray) => string][] = [
  [
    /no matching overload for '([^']+)' applied to '(?:([\w.]+)\.)?\(([^)]*)\)'/,
    ([, name = '', target, args = '']) => {
      const given = [...(target ? [target] : []), ...args.split(',').filter((a) => a.trim())].map(kindOf);
      return `"${SIGNS.get(name) ?? name}" does not work with ${given.join(' and ') || 'nothing'}.`;
    },
  ],
  [/^unbound function: (.*)/, ([, name]) => `There is no function "${name}".`],
  [/unresolved attribute|no such (field|key)|undeclared|unknown/i, () => 'A name in it stands for nothing.'],
  [/(divide|division|modulus|modulo) by zero/i, () => 'It divides by zero.'],
  [/index.*(out of|bounds)|invalid.*index/i, () => 'It asks for a member that the list does not have.'],
  [/overflow|out of range|range/i, () => 'A number in it is too large.'],
  [/Maximum call stack/, () => 'It is nested too deep; make it simpler.'],
  [
    /invalid regex|missing closing|error parsing regexp|unexpected \)|invalid (escape|character|nested)/i,
    () => 'The pattern in it is not one.',
  ],
];

/** What went wrong with a formula as one plain sentence; with the formula's text for what cannot be read. */
export function inPlainWords(error: unknown, text?: string): string {
  const message = error instanceof Error ? error.message.split('\n')[0]! : String(error);
  const unread = error as { found?: string | null; location?: { start?: { offset?: number } } };
  if (text !== undefined && unread.location) {
    const at = unread.location.start?.offset ?? 0;
    if (/^[^\w\s"'()[\]{}]*$/.test(text.slice(at).trim())) return 'The formula ends too early.';
    return `"${text[at]}" does not belong here.`;
  }
  for (const [pattern, say] of WORDS) {
    const found = pattern.exec(message);
    if (found) return say(found);
  }
  return /^[A-Z].*\.$/.test(message) ? message : `It cannot be worked out (${message}).`;
}
