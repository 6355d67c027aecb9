import type { World } from '../../core/actions/world.ts';
import type { Resolver } from '../../core/resolve/resolver.ts';
import { mediaUrl } from '../../core/media/media.ts';
import { layoutOf } from '../../core/show/layout.ts';
import {
  laneKey,
  type Background,
  type Lane,
  type Output,
  type Show,
  type Zone,
} from '../../core/show/show.ts';
import { coversAll } from '../../core/show/zones.ts';
import type { AirItem, AirSnapshot, Card, Painted } from '../../core/wire/wire.ts';
import type { Library } from '../media/library.ts';

/** What stands in for a camera's picture. */
const STAND_IN = '/media/stand-in/arena.svg';

/** What stands on air is made of. */
export interface MountedItem {
  show: Show;
  world: World;
  resolver: Resolver;
  library: Library;
}

/** What stands in each zone of every output, as its pages get it. */
export class OnAir {
  /** What is mounted under each lane's key, and when it was taken: a lane that only changed its next is not taken anew. */
  private readonly mounted = new Map<string, { takenAt: number; item: Omit<AirItem, 'states'> }>();

  constructor(private readonly parts: MountedItem) {}

  /** Follows what a lane has on air; gives what an air page needs when that is new there. */
  mount(lane: Lane): AirItem | null {
    const key = laneKey(lane);
    const { onAir } = lane;
    if (!onAir) {
      this.parts.resolver.unmount(key);
      this.mounted.delete(key);
      return null;
    }
    if (this.mounted.get(key)?.takenAt === onAir.takenAt) return null;
    this.mounted.delete(key);
    const item = this.item(lane);
    if (!item) return null;
    this.mounted.set(key, { takenAt: onAir.takenAt, item });
    return { ...item, states: this.parts.resolver.mount(key, item.layout, onAir.inputs) };
  }

  /** What an air page needs where a lane has one of these templates on air, which are others now; null where not. */
  renew(lane: Lane, templates: ReadonlySet<string>): AirItem | null {
    const item = lane.onAir && this.parts.show.items.get(lane.onAir.item);
    if (!item || !templates.has(item.template)) return null;
    this.mounted.delete(laneKey(lane));
    return this.mount(lane);
  }

  /** Follows where the zone of a lane is now: what is on air there stands in it, as it stood. */
  place(lane: Lane): void {
    const there = this.mounted.get(laneKey(lane));
    const item = there && this.item(lane);
    if (item) this.mounted.set(laneKey(lane), { takenAt: there.takenAt, item });
  }

  /** What stands on an output now. Nothing is worked out for it: whoever joins gets what is known. */
  snapshot(output: string): AirSnapshot {
    const now = this.parts.world.documents.output.get(output)!;
    const { key, width, height, background, zones } = now;
    const items = zones.flatMap((zone): AirItem[] => {
      const mount = laneKey({ output, zone: zone.key });
      const mounted = this.mounted.get(mount);
      return mounted ? [{ ...mounted.item, states: this.parts.resolver.states(mount) }] : [];
    });
    return {
      card: this.parts.show.cards.has(key) ? cardOf(now) : null,
      output: { key, width, height, background: this.painted(background) },
      items,
      fonts: this.parts.library.fonts(),
      quiet: now.venue && this.parts.show.quiet !== null,
    };
  }

  /** A background as a page draws it; what the library has no more is not there. */
  private painted(background: Background): Painted {
    if (background.kind === 'colour') return { colour: background.colour };
    if (background.kind === 'camera') return { address: STAND_IN };
    const entry = background.kind === 'media' && this.parts.library.index.find(background.path);
    return entry ? { address: mediaUrl(entry), clip: entry.type.startsWith('video/') } : {};
  }

  private item(lane: Lane): Omit<AirItem, 'states'> | null {
    const { output, zone, onAir } = lane;
    const item = onAir && this.parts.show.items.get(onAir.item);
    const template = item && this.parts.world.documents.template.get(item.template);
    const zones = this.parts.world.documents.output.get(output)?.zones ?? [];
    const level = zones.findIndex((z) => z.key === zone);
    const place = zones[level];
    if (!onAir || !item || !template || !place) return null;
    const { x, y, width, height } = place;
    return {
      mount: laneKey(lane),
      zone,
      box: { x, y, width, height },
      level,
      item: item.key,
      template: template.key,
      since: onAir.takenAt,
      layout: layoutOf(template, onAir.layout, place),
    };
  }
}

/** What the test card of an output shows. */
function cardOf({ name, width, height, zones }: Output): Card {
  const all = (zone: Zone) => zones.length > 1 && coversAll({ width, height }, zone);
  return { output: { name, width, height }, zones: zones.map((z) => ({ ...z, all: all(z) })) };
}
