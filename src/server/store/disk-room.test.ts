import { expect, it } from 'vitest';
import { DiskRoom, LEAST } from './disk-room.ts';
import { DiskFull, whyNotWritten } from './trouble.ts';

it('nothing is written for which there is no room; who follows is told when that begins and ends', async () => {
  let free: number | null = LEAST + 1000;
  const room = new DiskRoom('/nowhere', () => Promise.resolve(free));
  const told: boolean[] = [];
  room.onFull = (full) => told.push(full);
  // Before the first look, and where it cannot be told, it is tried.
  expect(() => room.needs(1e9)).not.toThrow();
  await room.look();
  expect(() => room.needs(500)).not.toThrow();
  expect(() => room.needs(501)).toThrow(DiskFull);
  free = LEAST - 1;
  await room.look();
  await room.look();
  expect(() => room.needs()).toThrow(DiskFull);
  free = LEAST;
  await room.look();
  expect(() => room.needs()).not.toThrow();
  expect(told).toEqual([true, false]);
  free = null;
  await room.look();
  expect(room).toMatchObject({ left: null, full: false });
});

it('a full disk is named, however the database says it', () => {
  expect(whyNotWritten(new DiskFull())).toMatchObject({
    status: 507,
    reason: expect.stringMatching(/The disk is full/) as string,
  });
});
