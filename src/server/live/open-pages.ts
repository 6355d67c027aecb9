import ipaddr from 'ipaddr.js';
import { isRecord } from '../../core/board/own.ts';
import type { DrawFault, OpenPage } from '../../core/wire/wire.ts';
import { isLoopback } from '../config.ts';

/** Without a word for this long a page counts as silent, in ms: it asks for the time once a second. */
export const SILENT_AFTER = 3000;

/** Who follows a stream, as what. */
export interface Joiner {
  /** The address that it came from. */
  from: string;
  /** What the page shows: see `readAs`. */
  as: string;
}

/** A page that only looks on at a desk: nobody sees it outside. */
export const LOOKS_ON = 'desk';

/** What a page says it shows, where that can be: `page`, `key`, `desk` or the colour behind it as `rrggbb`; else `page`. */
export const readAs = (said: string | null): string =>
  said !== null && /^(page|key|desk|[0-9a-f]{6})$/.test(said) ? said : 'page';

/** Where a page is: `this machine`, or its address; one of the older kind as just that, however it is written. */
export function placeOf(address = ''): string {
  if (isLoopback(address)) return 'this machine';
  return ipaddr.isValid(address) ? ipaddr.process(address).toString() : 'unknown';
}

/** What is known of one that follows. Times in server ms. */
export interface Following {
  id: number;
  joiner: Joiner;
  since: number;
  /** When it last asked for the time. */
  asked: number;
  /** How long its last question took there and back, as it measured that; null before it said so. */
  rtt: number | null;
  /** It has not taken what was sent, and waits for a whole picture. */
  behind: boolean;
  /** The newest layer that it could not draw, and when it said so. */
  fault: (DrawFault & { at: number }) | null;
}

/** For so long a layer that could not be drawn is named, in ms: as long as it cannot, the page says so again. */
const FAULT_NAMED_FOR = 20_000;
/** As much is kept of each part of what a page says. */
const FAULT_TEXT = 200;

/** A layer that a page says it could not draw; null where it says nothing of the kind. */
export function readFault(said: unknown, now: number): Following['fault'] {
  if (!isRecord(said)) return null;
  const [item, layer, text] = [said['item'], said['layer'], said['text']].map((part) =>
    typeof part === 'string' ? part.slice(0, FAULT_TEXT) : '',
  );
  return layer ? { item: item!, layer, text: text!, at: now } : null;
}

/** As exact as is of use: so that what hardly changed is not told again. */
const near = (ms: number) =>
  ms < 10 ? Math.round(ms) : ms < 100 ? 5 * Math.round(ms / 5) : 50 * Math.round(ms / 50);

/** A page as desks see it. How late it is counts one way, in ms. */
export function openPage(output: string, of: Following, now: number): OpenPage {
  const { id, joiner, since, asked, rtt, behind, fault } = of;
  const named = fault && now - fault.at < FAULT_NAMED_FOR ? fault : null;
  return {
    ...{ id, output, as: joiner.as, from: joiner.from, since },
    late: rtt === null ? null : near(rtt / 2),
    ...(named ? { fault: { item: named.item, layer: named.layer, text: named.text } } : {}),
    state: now - asked > SILENT_AFTER ? 'silent' : behind ? 'behind' : 'open',
  };
}

/** A page that was open for less, in ms, is not missed; one that is gone is named for so long. */
const MISSED_AFTER = 5000;
export const NAMED_FOR = 15 * 60_000;
/** One that was open before a restart is back by itself within this time, ms, or is missed. */
const BACK_WITHIN = 10_000;

/** A page by what tells it from others, wherever it is open next. */
export type SamePage = Pick<OpenPage, 'output' | 'as' | 'from'>;

/** The pages of outputs that were open and are not any more, until one like it comes, or somebody closed it long ago. */
export class GonePages {
  /** Each with the time from which it is missed, server ms. */
  private list: { page: OpenPage; from: number }[] = [];

  /** A page was closed, or its line broke. */
  left(page: OpenPage, now: number): void {
    if (now - page.since < MISSED_AFTER) return;
    this.list = [...this.list, goneAt(page, now, now)].slice(-50);
  }

  /** A page came: one that shows the same from the same place is not missed any more. */
  came({ output, as, from }: SamePage): void {
    const at = this.list.findIndex(({ page: p }) => p.output === output && p.as === as && p.from === from);
    if (at >= 0) this.list = this.list.filter((_, i) => i !== at);
  }

  /** These were open before a restart: who is not back soon is missed. */
  expect(pages: readonly SamePage[], now: number): void {
    // Numbers below those of any page that joined.
    this.list = pages.map((page, i) => goneAt({ ...page, id: -1 - i, late: null }, now, now + BACK_WITHIN));
  }

  /** Those that are missed, each with when it went. */
  missed(now: number): OpenPage[] {
    this.list = this.list.filter(({ page }) => now - page.since < NAMED_FOR);
    return this.list.flatMap(({ page, from }) => (now >= from ? [page] : []));
  }

  /** All that are not there, also those that may still be back in time. */
  get absent(): SamePage[] {
    return this.list.map(({ page }) => page);
  }
}

const goneAt = (page: SamePage & Pick<OpenPage, 'id' | 'late'>, since: number, from: number) => ({
  page: { ...page, since, state: 'gone' as const },
  from,
});
