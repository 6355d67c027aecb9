import ipaddr from 'ipaddr.js';
import type { OpenPage } from '../../core/wire/wire.ts';
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
}

/** As exact as is of use: so that what hardly changed is not told again. */
const near = (ms: number) =>
  ms < 10 ? Math.round(ms) : ms < 100 ? 5 * Math.round(ms / 5) : 50 * Math.round(ms / 50);

/** A page as desks see it. How late it is counts one way, in ms. */
export function openPage(output: string, of: Following, now: number): OpenPage {
  const { id, joiner, since, asked, rtt, behind } = of;
  return {
    ...{ id, output, as: joiner.as, from: joiner.from, since },
    late: rtt === null ? null : near(rtt / 2),
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
  private list: OpenPage[] = [];
  private expected: SamePage[] = [];
  private until = 0;

  /** A page was closed, or its line broke. */
  left(page: OpenPage, now: number): void {
    if (now - page.since < MISSED_AFTER) return;
    this.list = [...this.list, { ...page, since: now, state: 'gone' as const }].slice(-50);
  }

  /** A page came: one that shows the same from the same place is not missed any more. */
  came({ output, as, from }: SamePage): void {
    const without = <T extends SamePage>(list: T[]): T[] => {
      const at = list.findIndex((p) => p.output === output && p.as === as && p.from === from);
      return at < 0 ? list : list.filter((_, i) => i !== at);
    };
    this.expected = without(this.expected);
    this.list = without(this.list);
  }

  /** These were open before a restart: who is not back soon is missed. */
  expect(pages: readonly SamePage[], now: number): void {
    this.expected = [...pages];
    this.until = now + BACK_WITHIN;
  }

  /** Those that are missed, each with when it went. */
  missed(now: number): OpenPage[] {
    if (this.expected.length > 0 && now > this.until) {
      // Numbers below those of any page that joined.
      const gone = this.expected.map(({ output, as, from }, i) => ({
        ...{ id: -1 - i, output, as, from },
        ...{ since: this.until - BACK_WITHIN, late: null, state: 'gone' as const },
      }));
      this.list = [...this.list, ...gone].slice(-50);
      this.expected = [];
    }
    this.list = this.list.filter((p) => now - p.since < NAMED_FOR);
    return this.list;
  }
}
