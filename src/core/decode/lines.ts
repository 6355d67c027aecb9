/** The longest line that is waited for, in bytes; a longer one is thrown away. */
const LONGEST = 256 * 1024;

/** Cuts a stream of bytes, in any split, into lines of UTF-8. It holds back one line at most and never throws. */
export class LineSplitter {
  private parts: Uint8Array[] = [];
  private length = 0;
  private skipping = false;
  /** Lines that were too long. */
  tooLong = 0;

  /** A copy of the half line that is held back. */
  get held(): Uint8Array {
    return this.join();
  }

  push(bytes: Uint8Array): string[] {
    const lines: string[] = [];
    let from = 0;
    for (let end = bytes.indexOf(10, from); end >= 0; end = bytes.indexOf(10, from)) {
      this.keep(bytes.subarray(from, end));
      if (!this.skipping) lines.push(this.take());
      this.skipping = false;
      from = end + 1;
    }
    this.keep(bytes.subarray(from));
    return lines.filter((line) => line.trim() !== '');
  }

  /** Forgets half a line, after the connection was lost. */
  reset(): void {
    this.parts = [];
    this.length = 0;
    this.skipping = false;
  }

  private keep(part: Uint8Array): void {
    if (this.skipping || part.length === 0) return;
    this.parts.push(part.slice());
    this.length += part.length;
    if (this.length <= LONGEST) return;
    this.reset();
    this.skipping = true;
    this.tooLong++;
  }

  private join(): Uint8Array {
    const whole = new Uint8Array(this.length);
    let at = 0;
    for (const part of this.parts) {
      whole.set(part, at);
      at += part.length;
    }
    return whole;
  }

  private take(): string {
    const whole = this.join();
    this.parts = [];
    this.length = 0;
    return new TextDecoder().decode(whole);
  }
}
