import type { Health } from '../../core/source/health.ts';
import { addressOf, type SourceDoc } from '../../core/source/source.ts';
import { sourceMemory, type SourceMemory } from '../../core/tape/memory.ts';
import type { SourceState } from '../../core/wire/wire.ts';
import type { SourceListener } from './source-listener.ts';

/** How a device or a feed is: when it last spoke and how often, what its silence means, what troubles it. */
export class SourceStatus {
  /** When it last spoke, server ms; null where it never did. */
  lastWord: number | null = null;
  health: Health;
  trouble: SourceState['trouble'] = null;
  private recent: { at: number; times: number }[] = [];

  /** `span`: over how many ms its rate is counted. */
  constructor(
    private readonly source: { readonly doc: SourceDoc },
    private readonly listener: SourceListener,
    private readonly span: number,
  ) {
    this.health = source.doc.enabled ? 'lost' : 'off';
  }

  /** It spoke at `now`, and so many words of it count for its rate. */
  spoke(now: number, times: number): void {
    this.lastWord = now;
    if (times > 0) this.recent.push({ at: now, times });
  }

  /** Words in a second, of late. */
  get rate(): number {
    return Math.round((this.recent.reduce((sum, r) => sum + r.times, 0) * 1000) / this.span);
  }

  /** Judges its silence at `now`; gives true where its health changed, which is logged. */
  look(now: number, judged: () => Health): boolean {
    this.recent = this.recent.filter((r) => r.at > now - this.span);
    const health = this.source.doc.enabled ? judged() : 'off';
    if (health === this.health) return false;
    this.health = health;
    this.listener.log[health === 'live' ? 'info' : 'warn'](
      { source: this.source.doc.key, health },
      'source health changed',
    );
    return true;
  }

  /** Notes trouble, as a sentence for the operator. */
  report(text: string): void {
    this.trouble = { text, at: this.listener.now() };
  }

  /** What desks are told of it. */
  state(more: Pick<SourceState, 'connected' | 'changedAt' | 'counts' | 'waiting'>): SourceState {
    const { key, name, transport } = this.source.doc;
    const { health, lastWord, rate, trouble } = this;
    return { key, name, address: addressOf(transport), health, lastWord, rate, trouble, ...more };
  }

  /** What is known, with times counted from `zero`. */
  remember(zero: number): SourceMemory {
    return sourceMemory(this.lastWord, this.health, zero);
  }

  recall({ lastWord, health }: SourceMemory, zero: number): void {
    this.lastWord = lastWord === null ? null : lastWord + zero;
    this.health = health;
    this.recent = [];
  }
}
