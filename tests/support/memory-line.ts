import type { LineEvents, openLine } from '../../src/server/ingest/transport.ts';

/** The port of the controller that the tests' engine listens to. */
export const CONTROLLER = 4001;

/** Devices' lines in memory: what a test says on one is there at once, and nothing of the network is asked. */
export class MemoryLine {
  /** The ports whose lines were opened, in order. */
  readonly opened: number[] = [];
  private readonly followers = new Map<LineEvents, number>();

  readonly open: typeof openLine = (transport, _silentAfter, events) => {
    const port = 'port' in transport ? transport.port : 0;
    this.opened.push(port);
    this.followers.set(events, port);
    events.up();
    return { close: () => void this.followers.delete(events) };
  };

  private at = (port: number) => [...this.followers].flatMap(([events, of]) => (of === port ? [events] : []));

  say(bytes: Uint8Array, port = CONTROLLER): void {
    for (const events of this.at(port)) events.bytes(bytes);
  }

  /** The device ends it, or it breaks. */
  hangUp(reason: string | null = null, port = CONTROLLER): void {
    for (const events of this.at(port)) {
      this.followers.delete(events);
      events.down(reason);
    }
  }
}
