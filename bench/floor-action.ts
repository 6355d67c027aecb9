// The floor of an action: a bare server that reads a body, commits the same statements by the bare driver, tells one socket, answers.
import { createServer } from 'node:http';
import { WebSocketServer } from 'ws';
import { floorCommits, type FloorAction } from './floor-commit.ts';

const [port, dbPort, password, database] = process.argv.slice(2) as [string, string, string, string];
const { commit } = await floorCommits({ port: Number(dbPort), password, database });

const server = createServer((request, response) => {
  response.setHeader('content-type', 'application/json');
  if (request.method === 'GET') return response.end('{"ok":true}');
  const parts: Buffer[] = [];
  request.on('data', (part: Buffer) => parts.push(part));
  request.on('end', () => {
    const action = JSON.parse(Buffer.concat(parts).toString()) as FloorAction;
    void commit(action).then(() => {
      const told = JSON.stringify({ t: 'delta', field: action.field, text: action.text });
      for (const socket of sockets.clients) socket.send(told);
      response.end('{"ok":true}');
    });
  });
});
const sockets = new WebSocketServer({ server });
server.listen(Number(port), '127.0.0.1', () => process.send?.({ ready: true }));
