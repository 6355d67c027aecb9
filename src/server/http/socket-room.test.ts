import { EventEmitter } from 'node:events';
import type { Duplex } from 'node:stream';
import { expect, it } from 'vitest';
import { SocketRoom } from './socket-room.ts';

it('sockets of other machines leave room for this one’s, and one machine leaves room for the others', () => {
  const room = new SocketRoom({ local: 2, others: 5, one: 3 });
  const open: Duplex[] = [];
  const take = (address: string) => {
    const socket = new EventEmitter() as Duplex;
    const taken = room.take(address, socket);
    if (taken) open.push(socket);
    return taken;
  };
  const many = (address: string, times: number) =>
    Array.from({ length: times }, () => take(address)).filter(Boolean).length;
  expect(many('10.0.0.5', 10)).toBe(3);
  expect(many('10.0.0.6', 10)).toBe(2);
  expect(many('10.0.0.7', 10)).toBe(0);
  expect(many('127.0.0.1', 10) + many('::1', 1)).toBe(2);
  // Each that is closed leaves its room.
  for (const socket of open.splice(0)) socket.emit('close');
  expect(many('10.0.0.7', 10)).toBe(3);
  expect(many('::ffff:127.0.0.1', 10)).toBe(2);
});
