import { createServer, type Server, type Socket } from 'node:net';

/** What may be wrong with the line. Each holds until it is switched off. */
export interface Faults {
  garble: boolean;
  drop: boolean;
  freeze: boolean;
  disconnect: boolean;
}

/** The controller's TCP line: whoever connects gets every frame, as the line's faults let it through. */
export class Line {
  readonly faults: Faults = { garble: false, drop: false, freeze: false, disconnect: false };
  sent = 0;
  private readonly sockets = new Set<Socket>();
  private readonly server: Server;

  constructor() {
    this.server = createServer((socket) => {
      if (this.faults.disconnect) {
        socket.destroy();
        return;
      }
      socket.setNoDelay(true);
      this.sockets.add(socket);
      socket.on('close', () => this.sockets.delete(socket));
      socket.on('error', () => socket.destroy());
    });
  }

  get listeners(): number {
    return this.sockets.size;
  }

  listen(port: number, host: string): Promise<void> {
    return new Promise((done, failed) => {
      this.server.once('error', failed);
      this.server.listen(port, host, done);
    });
  }

  set(fault: keyof Faults, on: boolean): void {
    this.faults[fault] = on;
    if (fault === 'disconnect' && on) for (const socket of this.sockets) socket.destroy();
  }

  send(frame: Uint8Array): void {
    const { garble, drop, freeze } = this.faults;
    if (freeze) return;
    let bytes = frame;
    // Most frames suffer, some come through, as on a bad cable.
    if (garble && Math.random() < 0.8) {
      bytes = Uint8Array.from(bytes);
      for (let n = 1 + Math.floor(Math.random() * 6); n > 0; n--) {
        bytes[Math.floor(Math.random() * bytes.length)] = Math.floor(Math.random() * 256);
      }
    }
    if (drop && Math.random() < 0.8) {
      const from = Math.floor(Math.random() * bytes.length);
      const to = from + 1 + Math.floor(Math.random() * 8);
      bytes = Uint8Array.from([...bytes.slice(0, from), ...bytes.slice(to)]);
    }
    this.sent++;
    for (const socket of this.sockets) if (socket.writableLength < 64 * 1024) socket.write(bytes);
  }

  close(): void {
    this.server.close();
    for (const socket of this.sockets) socket.destroy();
  }
}
