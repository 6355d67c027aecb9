import { expect, it } from 'vitest';
import { decodeText, guessText } from './decode-text.ts';
import { fontStack } from './font-stack.ts';

const bytes = (...all: number[]) => Uint8Array.from(all);
const utf8 = (text: string) => new TextEncoder().encode(text);

it.each([
  ['UTF-8', utf8('Ærø – “Söhne”'), 'Ærø – “Söhne”'],
  ['windows-1252, with its curly quotes', bytes(0x93, 0x53, 0xf6, 0x94), '“Sö”'],
  ['plain letters', utf8('Owls'), 'Owls'],
  ['nothing', bytes(), ''],
  ['UTF-8 with one bad byte in it', bytes(...utf8('Ærø – “Söhne”'), 0xff), 'Ærø – “Söhne”\uFFFD'],
  ['one bad byte among plain letters', bytes(0x41, 0xe9), 'Aé'],
])('what nobody named is read as %s', (_, given, text) => expect(guessText(given)).toBe(text));

it('says so where a byte is none, or an encoding is unknown', () => {
  expect(() => decodeText(bytes(0xff), 'utf-8', true)).toThrow(TypeError);
  expect(() => decodeText(bytes(0x41), 'klingon')).toThrow(RangeError);
  expect(decodeText(bytes(0x80), 'latin1')).toBe('€');
});

it('a font is asked for by both names that its file may have', () =>
  expect(fontStack('Oswald')).toBe('"Oswald", "Oswald Variable", sans-serif'));
