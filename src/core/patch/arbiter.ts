import { own } from '../board/own.ts';
import type { Change } from '../board/board.ts';
import { shifted } from '../board/values.ts';

/** How a source takes its fields back after it was silent and another stood in for it. */
export type BackPolicy = 'at-once' | 'stoppage' | 'by-hand';

/** How long a source must have spoken again before it may take a field back, in ms: against flapping. */
export const SETTLED = 3000;

type Said = Extract<Change, { value: unknown }>;

interface Feed {
  source: string;
  /** 1 comes first. */
  priority: number;
}

interface Party {
  policy: BackPolicy;
  live: boolean;
  /** Since when it speaks without a break, server ms. */
  since: number;
  links: readonly { field: string; priority: number }[];
}

/** Who spoke, said and held what at one moment, as plain data. Times count from that moment, in ms. */
export interface ArbiterMemory {
  live: Record<string, number>;
  latest: Said[];
  holders: Record<string, string>;
  lost: Record<string, string[]>;
}

/**
 * Decides, for each field that several sources feed, whose word holds. The first in order that speaks holds it;
 * when it falls silent the next takes over at once; when it is back it takes the field back by its policy, and not
 * before it has spoken for three seconds.
 */
export class Arbiter {
  /** `jumps` says whether a field's going back would be a jump on air that nobody chose: then it waits to be given back. */
  constructor(private readonly jumps: (held: Said, back: Said, now: number) => boolean = () => false) {}

  private readonly parties = new Map<string, Party>();
  private readonly feeds = new Map<string, Feed[]>();
  private readonly holders = new Map<string, string>();
  private readonly latest = new Map<string, Map<string, Said>>();
  /** For each field, the sources that lost it by falling silent: those come back by their policy. */
  private readonly lost = new Map<string, Set<string>>();

  /** Takes a source on, or on anew: what it held is free until it speaks. */
  put(source: string, policy: BackPolicy, links: readonly { field: string; priority: number }[]): void {
    this.remove(source);
    this.parties.set(source, { policy, live: false, since: 0, links });
    for (const { field, priority } of links) this.feed(field, source, priority);
  }

  private feed(field: string, source: string, priority: number): void {
    const feeds = [...(this.feeds.get(field) ?? []), { source, priority }];
    feeds.sort((a, b) => a.priority - b.priority || (a.source < b.source ? -1 : 1));
    this.feeds.set(field, feeds);
  }

  /**
   * Changes what a source feeds while it speaks on: what it holds it goes on holding, what it no longer feeds others
   * take over. Gives the changes that this makes, and the fields that nobody holds now.
   */
  change(
    source: string,
    policy: BackPolicy,
    links: readonly { field: string; priority: number }[],
  ): { changes: Said[]; orphans: string[] } {
    const party = this.parties.get(source);
    if (!party) {
      this.put(source, policy, links);
      return { changes: [], orphans: [] };
    }
    const before = party.links;
    Object.assign(party, { policy, links });
    const changes: Said[] = [];
    const orphans: string[] = [];
    for (const { field } of before)
      this.feeds.set(
        field,
        (this.feeds.get(field) ?? []).filter((f) => f.source !== source),
      );
    for (const { field, priority } of links) this.feed(field, source, priority);
    for (const { field } of before) {
      if (links.some((l) => l.field === field)) continue;
      this.latest.get(field)?.delete(source);
      this.lost.get(field)?.delete(source);
      if (this.holders.get(field) !== source) continue;
      this.holders.delete(field);
      const taken = this.settle(field, 0, false, null);
      changes.push(...taken);
      if (taken.length === 0) orphans.push(field);
    }
    return { changes, orphans };
  }

  /** Lets a source go; gives the changes by which others take over what it held. */
  remove(source: string): Said[] {
    const party = this.parties.get(source);
    if (!party) return [];
    this.parties.delete(source);
    const changes: Said[] = [];
    for (const { field } of party.links) {
      this.feeds.set(
        field,
        (this.feeds.get(field) ?? []).filter((f) => f.source !== source),
      );
      this.latest.get(field)?.delete(source);
      this.lost.get(field)?.delete(source);
      if (this.holders.get(field) !== source) continue;
      this.holders.delete(field);
      changes.push(...this.settle(field, 0, false, null));
    }
    return changes;
  }

  /** What a source says now: gives those of its changes that hold. */
  offer(source: string, changes: readonly Change[], now: number): Change[] {
    const party = this.parties.get(source);
    if (!party) return [];
    if (!party.live) Object.assign(party, { live: true, since: now });
    return changes.filter((change) => {
      if (!('value' in change)) return true;
      this.note(source, change);
      this.settle(change.key, now, false, null);
      return this.holders.get(change.key) === source;
    });
  }

  /**
   * A source fell silent, its clocks stopped as `atRest` says. Gives what holds now: the next source's newest word
   * where there is a next, the source's own last word at rest where there is none.
   */
  silent(source: string, atRest: readonly Change[], now: number): Change[] {
    const party = this.parties.get(source);
    if (!party) return [];
    party.live = false;
    const rest = atRest.filter((c): c is Said => 'value' in c);
    for (const change of rest) this.note(source, change);
    const changes: Change[] = [];
    for (const { field } of party.links) {
      if (this.holders.get(field) !== source) continue;
      changes.push(...this.settle(field, now, false, null));
    }
    return [...changes, ...rest.filter((c) => this.holders.get(c.key) === source)];
  }

  /** Looks for fields that are to go back to a better source: at once, or, when play is stopped, at a stoppage. */
  tick(now: number, stopped: boolean): Said[] {
    return [...this.lost.keys()].flatMap((field) => this.settle(field, now, stopped, null));
  }

  /** The operator gives a source its fields back, whatever its policy. */
  giveBack(source: string, now: number): Said[] {
    return [...this.lost.keys()].flatMap((field) => this.settle(field, now, false, source));
  }

  /** Who holds a field now. */
  holder(field: string): string | undefined {
    return this.holders.get(field);
  }

  /**
   * The live source that a word of this one would not outweigh: the one that holds the field and comes before it.
   * Null where this source's word would hold.
   */
  ahead(source: string, field: string): string | null {
    const holder = this.holders.get(field);
    if (holder === undefined || holder === source || !this.parties.get(holder)?.live) return null;
    return this.place(field, holder) < this.place(field, source) ? holder : null;
  }

  /** Forgets what a source said of a field, when its word was good only while it held it. */
  forget(source: string, field: string): void {
    this.latest.get(field)?.delete(source);
  }

  /**
   * The fields that a source that speaks again, and that comes first of all who speak, has not yet taken back: what holds
   * there now, and what it says itself.
   */
  waiting(source: string): { held: Said | null; back: Said }[] {
    return [...this.lost].flatMap(([field, by]) => {
      const holder = this.holders.get(field);
      if (!by.has(source) || this.best(field)?.source !== source || holder === source) return [];
      const said = this.latest.get(field)!;
      return [{ held: said.get(holder ?? '') ?? null, back: said.get(source)! }];
    });
  }

  /** The first in order of those who speak now and have said something of the field. */
  private best(field: string): Feed | undefined {
    const said = this.latest.get(field);
    return this.feeds.get(field)?.find((f) => this.parties.get(f.source)?.live && said?.has(f.source));
  }

  private place(field: string, source: string): number {
    return (this.feeds.get(field) ?? []).findIndex((f) => f.source === source);
  }

  /** What it knows, with times counted from server time `zero`. */
  remember(zero: number): ArbiterMemory {
    const speaking = [...this.parties].filter(([, party]) => party.live);
    const said = [...this.latest.values()].flatMap((by) => [...by.values()]);
    return {
      live: Object.fromEntries(speaking.map(([source, { since }]) => [source, since - zero])),
      latest: said.map((s) => ({ ...s, value: shifted(s.value, -zero) })),
      holders: Object.fromEntries(this.holders),
      lost: Object.fromEntries([...this.lost].map(([field, by]) => [field, [...by]])),
    };
  }

  /** Knows what it knew at a moment that now counts as `zero`, of the sources that it has. */
  recall({ live, latest, holders, lost }: ArbiterMemory, zero: number): void {
    const known = ([, source]: [string, string]) => this.parties.has(source);
    for (const [source, party] of this.parties)
      Object.assign(party, { live: own(live, source) !== undefined, since: (own(live, source) ?? 0) + zero });
    this.latest.clear();
    for (const change of latest)
      if (this.parties.has(change.origin))
        this.note(change.origin, { ...change, value: shifted(change.value, zero) });
    this.holders.clear();
    for (const [field, source] of Object.entries(holders).filter(known)) this.holders.set(field, source);
    this.lost.clear();
    for (const [field, by] of Object.entries(lost)) this.lost.set(field, new Set(by));
  }

  private note(source: string, change: Said): void {
    const said = this.latest.get(change.key) ?? new Map<string, Said>();
    said.set(source, change);
    this.latest.set(change.key, said);
  }

  /** Gives a field to who should hold it now; gives that source's newest word when the holder changed. */
  private settle(field: string, now: number, stopped: boolean, given: string | null): Said[] {
    const best = this.best(field);
    const holder = this.holders.get(field);
    if (!best || best.source === holder) return [];
    if (
      holder !== undefined &&
      this.parties.get(holder)?.live &&
      !this.mayTakeBack(field, best.source, now, stopped, given)
    )
      return [];
    // Who is taken over from while it is silent comes back by its policy.
    if (holder !== undefined && this.parties.has(holder) && !this.parties.get(holder)!.live)
      this.lost.set(field, (this.lost.get(field) ?? new Set()).add(holder));
    this.holders.set(field, best.source);
    this.lost.get(field)?.delete(best.source);
    return [this.latest.get(field)!.get(best.source)!];
  }

  private mayTakeBack(
    field: string,
    source: string,
    now: number,
    stopped: boolean,
    given: string | null,
  ): boolean {
    if (!this.lost.get(field)?.has(source) || given === source) return true;
    const { policy, since } = this.parties.get(source)!;
    if (policy === 'by-hand' || now - since < SETTLED || (policy === 'stoppage' && !stopped)) return false;
    const said = this.latest.get(field)!;
    const held = said.get(this.holders.get(field)!);
    return !held || !this.jumps(held, said.get(source)!, now);
  }
}
