import { fork } from 'node:child_process';
import { freePort } from '../tests/support/ports.ts';

/** The bare program (`floor.ts`) in a process of its own. */
export interface Bare {
  http: string;
  /** Where it is followed by one that gets so many bytes first; by one that gets none. */
  socket: (bytes?: number) => string;
  /** Sends so many bytes to all that follow. */
  broadcast: (bytes: number) => void;
  end: () => void;
}

/** Starts it; it reads a device at a TCP port where one is given. */
export async function bareProgram(tcpPort?: number): Promise<Bare> {
  const port = await freePort();
  const child = fork(new URL('./floor.js', import.meta.url), [port, tcpPort ?? []].flat().map(String));
  await new Promise((done) => child.once('message', done));
  return {
    http: `http://127.0.0.1:${port}/`,
    socket: (bytes) => `ws://127.0.0.1:${port}/${bytes ? `?stream&bytes=${bytes}` : ''}`,
    broadcast: (bytes) => void child.send({ bytes }),
    end: () => void child.kill(),
  };
}
