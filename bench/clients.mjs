// Follows many streams at once, as a process of its own: what it has to read holds nobody else up. Says, in ms, how long it took
// until all had their snapshot; when it is asked, when each client had each number that it was told: [number, ms since the epoch].
import { WebSocket } from 'ws';

const { urls } = JSON.parse(process.argv[2]);
const heard = [];
const from = performance.now();
const now = () => performance.timeOrigin + performance.now();
/** The number that a message brings: a bare text, or the newest of the layers. */
const NUMBER = /"text":(\d+)|^(\d+)$/;

await Promise.all(
  urls.map(
    (url) =>
      new Promise((done, failed) => {
        const socket = new WebSocket(url);
        socket.on('open', () => {
          if (!url.includes('stream')) return done();
          // As a page does: whoever says nothing is none, and let go.
          socket.send('{"t":"ping","at":0}');
        });
        socket.on('message', (data) => {
          const at = now();
          const text = String(data);
          if (text.startsWith('{"t":"snapshot"')) return done();
          const found = NUMBER.exec(text);
          if (found) heard.push([Number(found[1] ?? found[2]), at]);
        });
        socket.on('error', failed);
      }),
  ),
);
process.on('message', () => process.send({ heard: heard.splice(0) }));
process.send({ took: performance.now() - from });
