import { createServer, type Server } from 'node:net';

/** Holds a port of loopback for as long as this process lives, without keeping it alive by that; null where it is not free. */
const hold = (port: number) =>
  new Promise<Server | null>((done) => {
    const server = createServer().unref();
    server.once('error', () => done(null));
    server.listen(port, '127.0.0.1', () => done(server));
  });

async function isFree(port: number): Promise<boolean> {
  const server = await hold(port);
  if (server) await new Promise((closed) => server.close(closed));
  return server !== null;
}

/**
 * Neighbouring free ports, as many as the simulators want; gives the first. They lie below those that the system gives to
 * whoever connects, which anybody may have at the next moment. The last port of a run is held by who was given it: no other
 * process, and no later world of this one, is given the same.
 */
export async function freeRun(): Promise<number> {
  for (;;) {
    const first = 10_000 + 20 * Math.floor(Math.random() * 1100);
    if (!(await hold(first + 19))) continue;
    const free = await Promise.all(
      [0, 1, 2, 3, 4, 5, 10, 11, 12, 13, 14, 15, 16, 17].map((more) => isFree(first + more)),
    );
    if (free.every(Boolean)) return first;
  }
}

/** A port of loopback that nobody else is given. */
export const freePort = freeRun;
