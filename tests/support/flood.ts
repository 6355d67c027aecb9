import { createServer, type AddressInfo, type Socket } from 'node:net';
import { sleep, type World } from './world.ts';

/** One frame of a flooding device: two digits between a start and an end. */
export const frameOf = (n: number) => `\x02${String(n % 100).padStart(2, '0')}\x03`;

/** A device that feeds the home shots, and may say far more than anybody reads. */
export class Flood {
  private readonly server = createServer((socket) => {
    this.socket = socket;
    socket.on('error', () => {});
    socket.on('close', () => (this.socket = this.socket === socket ? null : this.socket));
  });
  private socket: Socket | null = null;

  /** Connects it to a Foothill; `longest` is how long a frame may be by its map. */
  async join(world: World, longest = 16): Promise<void> {
    await new Promise<void>((done) => this.server.listen(0, '127.0.0.1', done));
    const key = 'flood';
    const source = {
      schema: 1,
      key,
      name: 'Flood',
      transport: { kind: 'tcp', host: '127.0.0.1', port: (this.server.address() as AddressInfo).port },
      frameMap: key,
      limits: { late: 1000, lost: 2000 },
    };
    const map = {
      schema: 1,
      key,
      name: 'Flood',
      framing: { kind: 'delimited', start: [2], end: [3], maxLength: longest },
      check: { kind: 'none' },
      readings: [{ name: 'shots', kind: 'integer', offset: 1, length: 2 }],
    };
    const patch = { schema: 1, key, source: key, links: [{ reading: 'shots', field: 'home.shots' }] };
    const bundle = { schema: 1, source, map, document: null, patch };
    const answer = await world.act({ kind: 'source', bundle });
    if (!answer.ok) throw new Error(answer.reason);
    while (!this.socket) await sleep(20);
  }

  /** Says it, where somebody listens. */
  say(bytes: string | Uint8Array): void {
    this.socket?.write(bytes);
  }

  /** Says 10,000 frames a second, each by itself as a device would, for so many ms; gives how many. */
  async pour(ms: number, andThen: string | Uint8Array = ''): Promise<number> {
    let sent = 0;
    for (const until = Date.now() + ms; Date.now() < until;) {
      for (let i = 0; i < 200; i++) this.say(frameOf(sent++ % 90));
      if (andThen.length) this.say(andThen);
      await sleep(20);
    }
    return sent;
  }

  close(): void {
    this.socket?.destroy();
    this.server.close();
  }
}
