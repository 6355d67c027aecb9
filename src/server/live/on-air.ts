import type { Resolver } from '../../core/resolve/resolver.ts';
import type { Lane, Show } from '../../core/show/show.ts';
import type { AirItem, AirSnapshot } from '../../core/wire/wire.ts';
import type { World } from '../../core/actions/world.ts';

/** What stands in each zone of the output, as its pages get it. */
export class OnAir {
  /** When what is mounted in each zone was taken: a lane that only changed its next is not taken anew. */
  private readonly mounted = new Map<string, number>();

  constructor(
    private readonly show: Show,
    private readonly world: World,
    private readonly resolver: Resolver,
  ) {}

  /** Follows what a lane has on air; gives what an air page needs when that is new there. */
  mount(lane: Lane): AirItem | null {
    const { zone, onAir } = lane;
    if (!onAir) {
      this.resolver.unmount(zone);
      this.mounted.delete(zone);
      return null;
    }
    if (this.mounted.get(zone) === onAir.takenAt) return null;
    this.mounted.set(zone, onAir.takenAt);
    return this.item(lane);
  }

  snapshot(): AirSnapshot {
    const { key, width, height } = this.world.output;
    const items = [...this.show.lanes.values()].map((lane) => this.item(lane));
    return { output: { key, width, height }, items: items.filter((i) => i !== null) };
  }

  private item({ zone, onAir }: Lane): AirItem | null {
    const item = onAir && this.show.items.get(onAir.item);
    const template = item && this.world.documents.template.get(item.template);
    const box = this.world.output.zones.find((z) => z.key === zone);
    if (!onAir || !item || !template || !box) return null;
    const layout = template.layouts[0]!;
    const states = this.resolver.mount(zone, layout, onAir.inputs);
    const { x, y, width, height } = box;
    return {
      mount: zone,
      zone,
      box: { x, y, width, height },
      item: item.id,
      template: template.key,
      layout,
      states,
    };
  }
}
