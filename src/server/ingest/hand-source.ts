import type { Health } from '../../core/source/health.ts';
import { sourceMemory, type SourceMemory } from '../../core/tape/memory.ts';
import type { SourceDoc } from '../../core/source/source.ts';
import type { SourceState } from '../../core/wire/wire.ts';
import type { RunningSource } from './running-source.ts';

/** The operator's own hand as a source: it is there whenever it is in use, and speaks only when something is pressed. */
export class HandSource implements RunningSource {
  readonly frames = null;
  readonly documents = null;
  readonly pad = this;
  readonly lastRead = null;
  health: Health;
  refused = 0;
  private lastWord: number | null = null;
  private pressed = 0;
  private trouble: SourceState['trouble'] = null;
  /** The fields whose newest word is its own. */
  readonly words = new Set<string>();

  constructor(public doc: SourceDoc) {
    this.health = doc.enabled ? 'live' : 'off';
  }

  start(): void {}
  stop(): void {}
  receive(): void {}
  whereIs(): null {
    return null;
  }

  look(): boolean {
    return false;
  }

  report(text: string, at: number): void {
    this.trouble = { text, at };
  }

  /** Notes that fields were set by hand. */
  press(fields: readonly string[], at: number): void {
    this.pressed++;
    this.lastWord = at;
    for (const field of fields) this.words.add(field);
  }

  remember(zero: number): SourceMemory {
    return { ...sourceMemory(this.lastWord, this.health, zero), words: [...this.words] };
  }

  recall({ lastWord, words }: SourceMemory, zero: number): void {
    this.lastWord = lastWord === null ? null : lastWord + zero;
    this.words.clear();
    for (const field of words) this.words.add(field);
  }

  state(): SourceState {
    return {
      key: this.doc.key,
      name: this.doc.name,
      address: 'by hand',
      health: this.health,
      connected: this.doc.enabled,
      lastWord: this.lastWord,
      rate: 0,
      holds: [...this.words],
      counts: { good: this.pressed, badChecks: 0, skipped: 0, refused: this.refused },
      trouble: this.trouble,
      waiting: [],
    };
  }
}
