// Joins many streams at once, as a process of its own: what it has to read holds nobody else up. Prints, in ms, how long it
// took until all had their snapshot, then waits for its end.
import { WebSocket } from 'ws';

const { port, streams } = JSON.parse(process.argv[2]);
const from = performance.now();
await Promise.all(
  streams.map(
    (stream) =>
      new Promise((done, failed) => {
        const socket = new WebSocket(`ws://127.0.0.1:${port}/socket?stream=${stream}`);
        socket.once('message', done);
        socket.once('error', failed);
      }),
  ),
);
console.log(performance.now() - from);
