import { HighlightStyle, StreamLanguage, syntaxHighlighting } from '@codemirror/language';
import { tags } from '@lezer/highlight';

/** Functions of formulas with what each gives, as they are offered while one types. */
export const FUNCTIONS: readonly (readonly [name: string, says: string])[] = [
  ['size', 'length of a text, count of a list'],
  ['contains', 'text.contains("a"): yes where it is in it'],
  ['startsWith', 'text.startsWith("a")'],
  ['endsWith', 'text.endsWith("a")'],
  ['matches', 'text.matches("^[0-9]+$"): a pattern'],
  ['has', 'yes where the field is not blank'],
  ['int', 'a whole number of a text or a decimal number'],
  ['double', 'a decimal number'],
  ['string', 'a text of a number'],
  ['field', 'field("home.shots-on-goal"): a key with a dash in it'],
];

const WORDS = new Set(['true', 'false', 'null']);

/** The tokens of the Common Expression Language (github.com/google/cel-spec, doc/langdef.md), as far as they have colours. */
const cel = StreamLanguage.define<object>({
  name: 'cel',
  startState: () => ({}),
  token: (stream) => {
    if (stream.eatSpace()) return null;
    if (stream.match('//')) {
      stream.skipToEnd();
      return 'comment';
    }
    if (stream.match(/^[rRbB]{0,2}("([^"\\]|\\.)*"?|'([^'\\]|\\.)*'?)/)) return 'string';
    if (stream.match(/^(0x[0-9a-fA-F]+|\d+(\.\d+)?([eE][+-]?\d+)?)u?/)) return 'number';
    const name = stream.match(/^[A-Za-z_]\w*/);
    if (Array.isArray(name)) {
      if (WORDS.has(name[0])) return 'bool';
      if (name[0] === 'in') return 'operator';
      return stream.match(/^\s*\(/, false) ? 'function' : 'variableName';
    }
    if (stream.match(/^[-+*/%<>=!&|?:]+/)) return 'operator';
    stream.next();
    return null;
  },
  tokenTable: { function: tags.function(tags.variableName) },
});

const colours = HighlightStyle.define([
  { tag: tags.string, color: 'var(--code-text)' },
  { tag: [tags.number, tags.bool], color: 'var(--code-number)' },
  { tag: tags.function(tags.variableName), color: 'var(--code-function)' },
  { tag: [tags.operator, tags.comment], color: 'var(--dim)' },
]);

/** Formulas in the editor: their tokens and the colours of these. */
export const CEL = [cel, syntaxHighlighting(colours)];
