// The floor of an action: a bare server that reads a body, commits the same statements by the bare driver, tells one socket, answers.
import { createServer } from 'node:http';
import mariadb from 'mariadb';
import { WebSocketServer } from 'ws';

const [port, dbPort, password, database] = process.argv.slice(2) as [string, string, string, string];
const connection = await mariadb.createConnection({
  host: '127.0.0.1',
  port: Number(dbPort),
  user: 'foothill',
  password,
  database,
});
await connection.query('CREATE TABLE IF NOT EXISTS floor_actions LIKE actions');
await connection.query('CREATE TABLE IF NOT EXISTS floor_pins LIKE pins');
const insert =
  'INSERT INTO floor_actions (id, kind, at, desk, who, view, text, body, past, undone, continuedBy) VALUES (?,?,?,?,?,?,?,?,?,?,?)';
const upsert =
  'INSERT INTO floor_pins (field, value, at) VALUES (?,?,?) ON DUPLICATE KEY UPDATE value = VALUES(value), at = VALUES(at)';

async function commit(action: { id: string; field: string; text: string }): Promise<void> {
  const at = Date.now();
  const body = JSON.stringify({ field: action.field, text: action.text });
  const past = JSON.stringify({ undo: { edits: [] }, back: null });
  await Promise.all([
    connection.beginTransaction(),
    connection.query(insert, [action.id, 'pin', at, '', '', '', 'Pinned', body, past, false, '']),
    connection.query(upsert, [action.field, action.text, at]),
    connection.commit(),
  ]);
}

const server = createServer((request, response) => {
  response.setHeader('content-type', 'application/json');
  if (request.method === 'GET') return response.end('{"ok":true}');
  const parts: Buffer[] = [];
  request.on('data', (part: Buffer) => parts.push(part));
  request.on('end', () => {
    const action = JSON.parse(Buffer.concat(parts).toString()) as Parameters<typeof commit>[0];
    void commit(action).then(() => {
      const told = JSON.stringify({ t: 'delta', field: action.field, text: action.text });
      for (const socket of sockets.clients) socket.send(told);
      response.end('{"ok":true}');
    });
  });
});
const sockets = new WebSocketServer({ server });
server.listen(Number(port), '127.0.0.1', () => process.send?.({ ready: true }));
