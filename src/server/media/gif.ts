/** The blocks of a GIF (GIF89a, appendix A). */
const EXTENSION = 0x21;
const IMAGE = 0x2c;

/** How many bytes a table of colours has, by the flags that announce it. */
const tableLength = (flags: number): number => (flags & 0x80 ? 3 << ((flags & 7) + 1) : 0);

/**
 * The size at which browsers draw a GIF, in px: that of its screen, made as large as its first picture reaches, for many
 * programs write a screen that is smaller. Null where it ends before that.
 */
export function gifSize(bytes: Uint8Array): { width: number; height: number } | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  try {
    const word = (at: number) => view.getUint16(at, true);
    const screen = { width: word(6), height: word(8) };
    let at = 13 + tableLength(view.getUint8(10));
    while (view.getUint8(at) === EXTENSION) {
      at += 2;
      while (view.getUint8(at) !== 0) at += view.getUint8(at) + 1;
      at++;
    }
    if (view.getUint8(at) !== IMAGE) return null;
    return {
      width: Math.max(screen.width, word(at + 1) + word(at + 5)),
      height: Math.max(screen.height, word(at + 3) + word(at + 7)),
    };
  } catch {
    return null;
  }
}
