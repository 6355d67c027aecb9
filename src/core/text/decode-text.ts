import { decode as decodeWindows1252 } from 'windows-1252';

/**
 * Bytes as text in the named encoding (the labels of the WHATWG Encoding standard; unknown ones throw a RangeError).
 * With `fatal` a byte that is none in it throws a TypeError; without, it becomes U+FFFD. Windows-1252, which is also
 * what `latin1` and `iso-8859-1` mean on the web, is read by a package: Node 20's own decoder loses its curly quotes.
 */
export function decodeText(bytes: Uint8Array, label: string, fatal = false): string {
  const decoder = new TextDecoder(label, { fatal });
  return decoder.encoding === 'windows-1252' ? decodeWindows1252(bytes) : decoder.decode(bytes);
}

/**
 * Text whose encoding nobody named: UTF-8 where it is that but for a few bad bytes, which become U+FFFD each, else
 * windows-1252, which is what spreadsheets write.
 */
export function guessText(bytes: Uint8Array): string {
  try {
    return decodeText(bytes, 'utf-8', true);
  } catch {
    const text = decodeText(bytes, 'utf-8');
    const bad = text.split('\uFFFD').length - 1;
    let wide = 0;
    for (let i = 0; i < text.length && wide <= bad; i++) {
      const sign = text.charCodeAt(i);
      if (sign > 0x7f && sign !== 0xfffd) wide++;
    }
    // Signs of more than one byte do not come about by chance.
    return wide > 0 && wide >= bad ? text : decodeText(bytes, 'windows-1252');
  }
}
