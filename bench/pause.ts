import { WebSocket } from 'ws';
import { sleep } from '../tests/support/world.ts';

const ASK_EVERY = 4;

/** The longest that a server kept the ping of a page at this address waiting while `work` went on, in ms. */
export async function pauseOf(address: string, work: () => Promise<unknown>): Promise<number> {
  const socket = new WebSocket(address);
  await new Promise((done) => socket.once('open', done));
  let longest = 0;
  let over = false;
  const asking = (async () => {
    while (!over) {
      const at = performance.now();
      const answered = new Promise<void>((done) => {
        const hear = (data: Buffer) => {
          if (!String(data).startsWith('{"t":"pong"')) return;
          socket.off('message', hear);
          done();
        };
        socket.on('message', hear);
      });
      socket.send(JSON.stringify({ t: 'ping', at }));
      await answered;
      longest = Math.max(longest, performance.now() - at);
      // The server lets go of a page that asks more than fifty times a second.
      await sleep(ASK_EVERY + 18);
    }
  })();
  await work();
  await sleep(50);
  over = true;
  await asking;
  socket.terminate();
  return longest;
}
