import { WebSocket } from 'ws';
import type { World } from './world.ts';

/** What somebody gets who joins a stream now. */
export function snapshot<T>(world: World, stream: string): Promise<T> {
  return new Promise((done, failed) => {
    const socket = new WebSocket(`${world.url.replace('http', 'ws')}/socket?stream=${stream}`);
    socket.once('message', (data) => {
      done((JSON.parse(String(data)) as { body: T }).body);
      socket.close();
    });
    socket.once('error', failed);
  });
}
