// The floor: the barest program that does the same job. TCP in, socket out, one text node. To who asks for it (`?bytes=`) it sends a
// first text of that length, as a snapshot; it answers pings; and its parent may have it send a text of some length to all.
import { createServer } from 'node:http';
import { connect } from 'node:net';
import { WebSocketServer, type WebSocket } from 'ws';

const [httpPort, tcpPort] = process.argv.slice(2).map(Number) as [number, number?];
const page = `<!doctype html><p id="text">-</p><script>
new WebSocket('ws://' + location.host).onmessage = (e) => { document.getElementById('text').firstChild.data = e.data; };
</script>`;
const server = createServer((_, response) => response.setHeader('content-type', 'text/html').end(page));
const sockets = new Set<WebSocket>();
const texts = new Map<string, string>();
/** A message of a kind and of so many bytes: made once, as Foothill does. */
const textOf = (t: string, bytes: number) => {
  const name = `${t} ${bytes}`;
  const text = texts.get(name) ?? `{"t":"${t}","body":"${'x'.repeat(Math.max(0, bytes - 25))}"}`;
  texts.set(name, text);
  return text;
};
new WebSocketServer({ server }).on('connection', (socket, { url }) => {
  sockets.add(socket);
  socket.on('close', () => sockets.delete(socket));
  socket.on('message', () => socket.send('{"t":"pong"}'));
  const bytes = Number(new URL(url ?? '/', 'http://x').searchParams.get('bytes'));
  if (bytes) socket.send(textOf('snapshot', bytes));
});
process.on('message', ({ bytes }: { bytes: number }) => {
  for (const socket of sockets) socket.send(textOf('delta', bytes));
});
let last = '';
if (tcpPort)
  connect(tcpPort, '127.0.0.1')
    .setNoDelay(true)
    .on('data', (bytes) => {
      const score = bytes.toString('latin1', 13, 15).trim();
      if (score === last) return;
      last = score;
      for (const socket of sockets) socket.send(score);
    });
server.listen(httpPort, '127.0.0.1', () => process.send?.({ ready: true }));
