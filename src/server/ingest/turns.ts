/** Of each window, in ms, lines may take this much of the main thread between them; pages and operators have the rest. */
const WINDOW = 50;
const SHARE = 20;
/** As many bytes of one line may wait for its turn; older ones are dropped, for the newest state counts. */
const MOST_WAITING = 64 * 1024;

/** One line's bytes on their way to what reads them. */
export interface LineTurn {
  push(bytes: Uint8Array): void;
  /** Forgets what waits. */
  drop(): void;
}

interface Line {
  parts: Uint8Array[];
  length: number;
  take: (bytes: Uint8Array) => void;
  dropped: (bytes: number) => void;
}

/**
 * Shares the main thread among lines. What comes is taken at once as long as there is time for it; a line that floods is
 * taken in slices, each all that came meanwhile.
 */
export class LineScheduler {
  private began = 0;
  private spent = 0;
  private timer: NodeJS.Timeout | null = null;
  private readonly waiting = new Set<Line>();

  /** A line of its own; `dropped` is told how many bytes were let go. */
  line(take: (bytes: Uint8Array) => void, dropped: (bytes: number) => void): LineTurn {
    const line: Line = { parts: [], length: 0, take, dropped };
    return {
      push: (bytes) => {
        if (!this.waiting.has(line) && this.hasTime()) return this.run(() => take(bytes));
        this.keep(line, bytes);
      },
      drop: () => {
        line.parts = [];
        line.length = 0;
        this.waiting.delete(line);
      },
    };
  }

  private hasTime(): boolean {
    const now = performance.now();
    if (now - this.began > WINDOW) {
      this.began = now;
      this.spent = 0;
    }
    return this.spent < SHARE;
  }

  private run(work: () => void): void {
    const from = performance.now();
    try {
      work();
    } finally {
      this.spent += performance.now() - from;
    }
  }

  private keep(line: Line, bytes: Uint8Array): void {
    line.parts.push(bytes);
    line.length += bytes.length;
    while (line.length > MOST_WAITING && line.parts.length > 1) {
      const oldest = line.parts.shift()!;
      line.length -= oldest.length;
      line.dropped(oldest.length);
    }
    this.waiting.add(line);
    this.timer ??= setTimeout(() => this.drain(), Math.max(1, this.began + WINDOW - performance.now()));
  }

  private drain(): void {
    this.timer = null;
    for (const line of [...this.waiting]) {
      if (!this.hasTime()) break;
      // Whoever had a turn stands last.
      this.waiting.delete(line);
      const all = line.parts.length === 1 ? line.parts[0]! : Buffer.concat(line.parts);
      line.parts = [];
      line.length = 0;
      this.run(() => line.take(all));
    }
    if (this.waiting.size > 0)
      this.timer ??= setTimeout(() => this.drain(), Math.max(1, this.began + WINDOW - performance.now()));
  }
}
