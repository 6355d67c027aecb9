import { decodeHTML } from 'entities';

const TAG = /<[!/]?[a-z][^<>]*>|<!--[\s\S]*?-->/gi;

/** What a piece of HTML says, without its marks. */
export function plainText(html: string): string {
  return decodeHTML(html.replace(/<(script|style)\b[^>]*>[\s\S]*?<\/\1\s*>/gi, ' ').replace(TAG, ' '))
    .replace(/\s+/g, ' ')
    .trim();
}

/** Text that may be HTML or not, as titles of RSS are: freed of marks where it has any, else as it stands. */
export function looselyPlain(text: string): string {
  return /<\/?[a-z][^<>]*>|&(#\d+|#x[\da-f]+|[a-z]+\d*);/i.test(text)
    ? plainText(text)
    : text.replace(/\s+/g, ' ').trim();
}
