import type { World } from '../../core/actions/world.ts';
import type { Resolver } from '../../core/resolve/resolver.ts';
import { layoutOf } from '../../core/show/layout.ts';
import { laneKey, type Lane, type Show } from '../../core/show/show.ts';
import type { AirItem, AirSnapshot } from '../../core/wire/wire.ts';

/** What stands in each zone of every output, as its pages get it. */
export class OnAir {
  /** What is mounted under each lane's key, and when it was taken: a lane that only changed its next is not taken anew. */
  private readonly mounted = new Map<string, { takenAt: number; item: Omit<AirItem, 'states'> }>();

  constructor(
    private readonly show: Show,
    private readonly world: World,
    private readonly resolver: Resolver,
    /** The fonts of the library, by hash. */
    private readonly fonts: () => string[],
  ) {}

  /** Follows what a lane has on air; gives what an air page needs when that is new there. */
  mount(lane: Lane): AirItem | null {
    const key = laneKey(lane);
    const { onAir } = lane;
    if (!onAir) {
      this.resolver.unmount(key);
      this.mounted.delete(key);
      return null;
    }
    if (this.mounted.get(key)?.takenAt === onAir.takenAt) return null;
    this.mounted.delete(key);
    const item = this.item(lane);
    if (!item) return null;
    this.mounted.set(key, { takenAt: onAir.takenAt, item });
    return { ...item, states: this.resolver.mount(key, item.layout, onAir.inputs) };
  }

  /** What an air page needs where a lane has one of these templates on air, which are others now; null where not. */
  renew(lane: Lane, templates: ReadonlySet<string>): AirItem | null {
    const item = lane.onAir && this.show.items.get(lane.onAir.item);
    if (!item || !templates.has(item.template)) return null;
    this.mounted.delete(laneKey(lane));
    return this.mount(lane);
  }

  /** What stands on an output now. Nothing is worked out for it: whoever joins gets what is known. */
  snapshot(output: string): AirSnapshot {
    const { key, width, height, zones } = this.world.documents.output.get(output)!;
    const items = zones.flatMap((zone): AirItem[] => {
      const mount = laneKey({ output, zone: zone.key });
      const standing = this.mounted.get(mount);
      return standing ? [{ ...standing.item, states: this.resolver.states(mount) }] : [];
    });
    return { output: { key, width, height }, items, fonts: this.fonts() };
  }

  private item(lane: Lane): Omit<AirItem, 'states'> | null {
    const { output, zone, onAir } = lane;
    const item = onAir && this.show.items.get(onAir.item);
    const template = item && this.world.documents.template.get(item.template);
    const place = this.world.documents.output.get(output)?.zones.find((z) => z.key === zone);
    if (!onAir || !item || !template || !place) return null;
    const { x, y, width, height } = place;
    return {
      mount: laneKey(lane),
      zone,
      box: { x, y, width, height },
      item: item.id,
      template: template.key,
      layout: layoutOf(template, onAir.layout, place),
    };
  }
}
