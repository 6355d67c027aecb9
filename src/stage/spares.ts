import type { AirItem } from '../core/wire/wire.ts';
import { whenIdle } from './frames.ts';

/** For so many templates the next take is prepared: more than stand on any one output. */
const MOST = 24;

/** What items that are built alike have in common. */
const formOf = ({ template, layout }: AirItem) => `${template}/${layout.key}`;

/**
 * Items that are built for takes to come while the page has nothing else to do, one for each template and layout: the next take of a
 * template, mostly with another name, only writes what differs.
 */
export class Spares<Built> {
  /** Each with all that its layout was when it was built. */
  private readonly ready = new Map<string, { layout: string; built: Built }>();
  /** Those that are to be built; what calls that off, null while there are none. */
  private readonly toBuild = new Map<string, AirItem>();
  private endWaiting: (() => void) | null = null;

  /** @param build builds the layout of an item once more, with all that is the same whatever it says */
  constructor(private readonly build: (item: AirItem) => Built) {}

  /** Has one built for the next take that is like this. */
  prepare(item: AirItem): void {
    this.toBuild.set(formOf(item), item);
    this.endWaiting ??= whenIdle(this.buildNext);
  }

  /** What was built for a take of this item, which has it from now on; null where nothing was. */
  take(item: AirItem): Built | null {
    const form = formOf(item);
    const spare = this.ready.get(form);
    if (!spare || spare.layout !== JSON.stringify(item.layout)) return null;
    this.ready.delete(form);
    return spare.built;
  }

  /** Throws away what was built. */
  clear(): void {
    this.ready.clear();
  }

  /** Builds no more. */
  end(): void {
    this.endWaiting?.();
  }

  private readonly buildNext = (): void => {
    const [next] = this.toBuild;
    if (!next) return;
    const [form, item] = next;
    this.toBuild.delete(form);
    this.endWaiting = this.toBuild.size ? whenIdle(this.buildNext) : null;
    this.ready.delete(form);
    this.ready.set(form, { layout: JSON.stringify(item.layout), built: this.build(item) });
    const [oldest] = this.ready.keys();
    if (this.ready.size > MOST) this.ready.delete(oldest!);
  };
}
