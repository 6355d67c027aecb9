import type { Show } from '../../core/show/show.ts';
import { waiting, type Scheduler, type Timer } from '../scheduler.ts';

/** Under this name the log says what Foothill did by itself. */
export const FOOTHILL = 'Foothill';
/** A timer waits no longer than this, in ms: what is later is looked at again then. */
const LONGEST_WAIT = 60_000;
/** When something could not be done, it is tried again after so long, in ms. */
const AGAIN = 1000;

/** An action as Foothill asks for it. */
export interface OwnAction {
  kind: 'end-item';
  item: string;
  takenAt: number;
}

/** Does what is due by itself: items whose length is over go off. */
export class TimedActions {
  private timer: Timer | undefined;
  private busy = false;
  private stopped = false;

  constructor(
    private readonly parts: {
      show: Show;
      scheduler: Scheduler;
      /** The time of the show, ms. */
      now: () => number;
      /** Does an action; false where it could not be done now and is to be tried again. */
      act: (action: OwnAction) => Promise<boolean>;
    },
  ) {}

  /** The item that is over next, and when. One that stands in several zones since one take is one. */
  private due(): { at: number; action: OwnAction } | null {
    const { lanes, items } = this.parts.show;
    let first: { at: number; action: OwnAction } | null = null;
    for (const { onAir, off } of lanes.values()) {
      if (off.includes('length')) continue;
      const length = onAir && items.get(onAir.item)?.length;
      if (!onAir || length === null || length === undefined) continue;
      const at = onAir.takenAt + length * 1000;
      if (!first || at < first.at)
        first = { at, action: { kind: 'end-item', item: onAir.item, takenAt: onAir.takenAt } };
    }
    return first;
  }

  /** Looks what is due next: after every change of what is on air, of an item, or of the time. */
  look(): void {
    this.parts.scheduler.clear(this.timer);
    if (this.busy || this.stopped) return;
    const next = this.due();
    if (!next) return;
    const wait = next.at - this.parts.now();
    this.timer = this.parts.scheduler.setTimeout(
      () => void this.run(),
      Math.min(LONGEST_WAIT, Math.max(0, wait)),
    );
  }

  private async run(): Promise<void> {
    const next = this.due();
    // The time of the show may stand still, or have gone back.
    if (!next || next.at > this.parts.now()) return this.look();
    this.busy = true;
    const done = await this.parts.act(next.action);
    if (!done) await waiting(this.parts.scheduler, AGAIN);
    this.busy = false;
    this.look();
  }

  stop(): void {
    this.stopped = true;
    this.parts.scheduler.clear(this.timer);
  }
}
