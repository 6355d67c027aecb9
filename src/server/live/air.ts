import type { LayerDelta } from '../../core/resolve/resolver.ts';
import { emptyLane, laneKey, type Lane, type WhyQuiet } from '../../core/show/show.ts';
import type { AirOp, DeskOp } from '../../core/wire/wire.ts';
import { lanesInOrder } from '../../core/show/order.ts';
import { airStream, type Hub } from './hub.ts';
import { OnAir, type MountedItem } from './on-air.ts';

interface Parts extends MountedItem {
  hub: Hub;
}

/** All that goes out: a lane for each zone of each output, and a stream for the pages of each output, told of its own alone. */
export class Air {
  private readonly onAir: OnAir;

  constructor(private readonly parts: Parts) {
    this.onAir = new OnAir(parts);
    for (const key of parts.world.documents.output.keys()) this.open(key);
    this.order();
  }

  /** Puts the lanes in the order in which their zones stand: whoever goes through them goes by it. */
  private order(): void {
    const { show, world } = this.parts;
    const order = lanesInOrder([...world.documents.output.values()], [...show.lanes.values()]);
    show.lanes.clear();
    for (const lane of order) show.lanes.set(laneKey(lane), lane);
  }

  /** Opens the stream of an output, and a lane with nothing in it for each zone that has none; gives those lanes. */
  private open(output: string): Lane[] {
    const { hub, show, world } = this.parts;
    hub.open(airStream(output), () => this.onAir.snapshot(output));
    return world.documents.output.get(output)!.zones.flatMap((zone) => {
      const lane: Lane = emptyLane({ output, zone: zone.key });
      if (show.lanes.has(laneKey(lane))) return [];
      show.lanes.set(laneKey(lane), lane);
      return [lane];
    });
  }

  /** Stands up what the lanes have on air, when a show begins. */
  begin(): void {
    for (const lane of this.parts.show.lanes.values()) this.onAir.mount(lane);
  }

  /** Puts on the air pages what a lane has on air now. */
  putLane(lane: Lane): void {
    this.parts.show.lanes.set(laneKey(lane), lane);
    const item = this.onAir.mount(lane);
    if (item) this.tell(lane.output, { op: 'take', item });
    else if (!lane.onAir) this.tell(lane.output, { op: 'clear', mount: laneKey(lane) });
  }

  /** Stands anew in its new form what is on air of templates that are others now. */
  renew(templates: ReadonlySet<string>): void {
    for (const lane of this.parts.show.lanes.values()) {
      const item = this.onAir.renew(lane, templates);
      if (item) this.tell(lane.output, { op: 'take', item });
    }
  }

  /**
   * Follows outputs that are others now: zones that came have lanes, those of zones that went are gone, and what is on air
   * moves with its zone, on all pages in one step. Gives what the desks are to be told of it.
   */
  follow(outputs: Iterable<string>): DeskOp[] {
    const { hub, show, world } = this.parts;
    const ops: DeskOp[] = [];
    for (const key of outputs) {
      const output = world.documents.output.get(key);
      for (const [at, lane] of show.lanes) {
        if (lane.output !== key || output?.zones.some((z) => z.key === lane.zone)) continue;
        this.onAir.mount({ ...lane, onAir: null });
        show.lanes.delete(at);
        ops.push({ op: 'document-gone', kind: 'lane', key: at });
      }
      if (!output) {
        hub.shut(airStream(key));
        if (show.cards.delete(key)) ops.push(this.cardOp());
        continue;
      }
      for (const doc of this.open(key)) ops.push({ op: 'document', kind: 'lane', key: laneKey(doc), doc });
      for (const lane of show.lanes.values()) if (lane.output === key) this.onAir.place(lane);
      hub.refresh(airStream(key));
    }
    this.order();
    return ops;
  }

  /** Puts the test card over an output, or takes it away. Gives what the desks are to be told of it. */
  setCard({ output, on }: { output: string; on: boolean }): DeskOp {
    const { show, hub } = this.parts;
    if (on) show.cards.add(output);
    else show.cards.delete(output);
    hub.refresh(airStream(output));
    return this.cardOp();
  }

  /** Says whether boards in the venue move. Gives what the desks are to be told of it. */
  setQuiet(why: WhyQuiet | null): DeskOp {
    const { show, world } = this.parts;
    show.quiet = why;
    for (const { key, venue } of world.documents.output.values())
      if (venue) this.tell(key, { op: 'quiet', quiet: why !== null });
    return { op: 'quiet', quiet: why };
  }

  private cardOp = (): DeskOp => ({ op: 'cards', cards: [...this.parts.show.cards] });

  /** Draws anew the backgrounds that are of the library, which is another now. */
  repaint(): void {
    for (const { key, background } of this.parts.world.documents.output.values())
      if (background.kind === 'media') this.parts.hub.refresh(airStream(key));
  }

  /** Tells each output's pages of the layers that are theirs. */
  tellLayers(deltas: readonly LayerDelta[]): void {
    const own = new Map<string, LayerDelta[]>();
    for (const delta of deltas) {
      const output = delta.mount.slice(0, delta.mount.indexOf('/'));
      const theirs = own.get(output);
      if (theirs) theirs.push(delta);
      else own.set(output, [delta]);
    }
    for (const [output, theirs] of own) this.tell(output, { op: 'layers', deltas: theirs });
  }

  /** Tells the pages of all outputs. */
  tellAll(op: AirOp): void {
    this.parts.world.documents.output.forEach((_, key) => this.tell(key, op));
  }

  private gathered: Map<string, AirOp[]> | null = null;

  /** Tells the pages of all that is done as one: no picture shows a part of it; at a moment to come, server ms, where one is given. */
  atOnce(at: number | undefined, work: () => void): void {
    const gathered = (this.gathered = new Map<string, AirOp[]>());
    try {
      work();
    } finally {
      this.gathered = null;
      for (const [output, ops] of gathered) this.parts.hub.publish(airStream(output), ops, at);
    }
  }

  private tell(output: string, op: AirOp): void {
    if (this.gathered) {
      this.gathered.set(output, [...(this.gathered.get(output) ?? []), op]);
      return;
    }
    this.parts.hub.publish(airStream(output), [op]);
  }
}
