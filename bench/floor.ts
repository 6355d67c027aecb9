// The floor: the barest program that does the same job. TCP in, socket out, one text node.
import { createServer } from 'node:http';
import { connect } from 'node:net';
import { WebSocketServer, type WebSocket } from 'ws';

const [tcpPort, httpPort] = process.argv.slice(2).map(Number) as [number, number];
const page = `<!doctype html><p id="text">-</p><script>
new WebSocket('ws://' + location.host).onmessage = (e) => { document.getElementById('text').firstChild.data = e.data; };
</script>`;
const server = createServer((_, response) => response.setHeader('content-type', 'text/html').end(page));
const sockets = new Set<WebSocket>();
new WebSocketServer({ server }).on('connection', (socket) => {
  sockets.add(socket);
  socket.on('close', () => sockets.delete(socket));
});
let last = '';
connect(tcpPort, '127.0.0.1')
  .setNoDelay(true)
  .on('data', (bytes) => {
    const score = bytes.toString('latin1', 13, 15).trim();
    if (score === last) return;
    last = score;
    for (const socket of sockets) socket.send(score);
  });
server.listen(httpPort, '127.0.0.1', () => process.send?.({ ready: true }));
