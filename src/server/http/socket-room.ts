import type { Duplex } from 'node:stream';
import { isLoopback } from '../config.ts';

/** As many sockets stand at a time from this machine, from all others together, and from one other machine. */
export const MOST = { local: 500, others: 1000, one: 200 };

/** Room for sockets: what other machines take is never taken from the desks of this one, nor all of it by one of them. */
export class SocketRoom {
  private local = 0;
  private others = 0;
  private readonly byAddress = new Map<string, number>();

  constructor(private readonly most = MOST) {}

  /** Takes room for a socket from an address until it is closed; false where there is none left. */
  take(address: string, socket: Pick<Duplex, 'once'>): boolean {
    const here = isLoopback(address);
    const own = this.byAddress.get(address) ?? 0;
    if (here ? this.local >= this.most.local : this.others >= this.most.others || own >= this.most.one)
      return false;
    this.count(address, here, 1);
    socket.once('close', () => this.count(address, here, -1));
    return true;
  }

  private count(address: string, here: boolean, by: number): void {
    if (here) {
      this.local += by;
      return;
    }
    this.others += by;
    const own = (this.byAddress.get(address) ?? 0) + by;
    if (own) this.byAddress.set(address, own);
    else this.byAddress.delete(address);
  }
}
