import { once } from 'node:events';
import { createServer, type AddressInfo, type Socket } from 'node:net';
import { pino } from 'pino';
import { expect, it } from 'vitest';
import { readConfig } from '../config.ts';
import { Store } from './store.ts';

it('asks a database that does not answer at the start again, and says at once what else is wrong', async () => {
  const asked: Socket[] = [];
  const server = createServer((socket) => {
    socket.on('error', () => {});
    asked.push(socket);
    // The first gets no word; the second an answer, which is none.
    if (asked.length > 1) socket.end('HTTP/1.1 400 Bad Request\r\n\r\n');
  });
  server.listen(0, '127.0.0.1');
  await once(server, 'listening');
  const { port } = server.address() as AddressInfo;
  const config = readConfig({ FOOTHILL_DB_PORT: String(port) }, '/x');
  await expect(Store.open(config, pino({ enabled: false }))).rejects.toThrow(/packet|socket|connection/i);
  expect(asked).toHaveLength(2);
  asked.forEach((socket) => socket.destroy());
  server.close();
});
