import type { Page, WebSocketRoute } from '@playwright/test';
import type { Layer, LayerProps } from '../../src/core/layers/kinds.ts';
import type { AirItem, AirOp } from '../../src/core/wire/wire.ts';

export const style = { font: 'Barlow Condensed', weight: 700, size: 60, anchorY: 'middle' } as const;
export const box = (x: number, y: number, width: number, height: number) => ({ x, y, width, height });
/** A text layer of this id and name. */
export const text = (name: string, more: object = {}): Layer => ({
  id: name,
  kind: 'text',
  name,
  ...box(0, 0, 200, 80),
  text: { field: 'x' },
  ...style,
  ...more,
});

/** An item with these layers, and what they say. */
export function item(
  layers: Layer[],
  states: Record<string, LayerProps>,
  more: Partial<AirItem> = {},
): AirItem {
  const layout = { key: 'l', width: 800, height: 200, layers };
  return {
    mount: 'z',
    zone: 'z',
    box: box(100, 100, 800, 200),
    level: 0,
    item: 'one',
    template: 't',
    layout,
    states,
    ...more,
  };
}

/** A server that says just what a test wants it to say. */
export class FakeServer {
  asked = 0;
  faults: unknown[] = [];
  sockets = 0;
  private socket!: WebSocketRoute;
  seq = 0;
  constructor(
    private readonly url: () => string,
    private items: AirItem[],
  ) {}

  async open(page: Page): Promise<void> {
    await page.routeWebSocket(/\/socket/, (socket) => {
      this.socket = socket;
      this.sockets++;
      this.snapshot();
      socket.onMessage((data) => {
        const message = JSON.parse(String(data)) as { t: string; at: number };
        if (message.t === 'ping') socket.send(JSON.stringify({ t: 'pong', at: message.at, now: message.at }));
        if (message.t === 'fault') this.faults.push((message as unknown as { fault: unknown }).fault);
        if (message.t === 'snapshot') {
          this.asked++;
          this.snapshot();
        }
      });
    });
    await page.goto(`${this.url()}/air/broadcast`);
  }
  snapshot(items = this.items): void {
    this.items = items;
    this.socket.send(
      JSON.stringify({
        t: 'snapshot',
        seq: this.seq,
        body: { output: { key: 'broadcast', width: 1920, height: 1080, background: {} }, items },
      }),
    );
  }
  ops(...ops: AirOp[]): void {
    this.seq++;
    this.socket.send(JSON.stringify({ t: 'delta', seq: this.seq, ops }));
  }
  set(layer: string, props: LayerProps): void {
    this.ops({ op: 'layers', deltas: [{ mount: 'z', layer, props }] });
  }
  async drop(): Promise<void> {
    await this.socket.close();
  }
}

/** A layer in the page, by its name. */
export const layer = (page: Page, name: string) => page.locator(`[data-layer="${name}"]`);
