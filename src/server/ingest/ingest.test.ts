import { spawn } from 'node:child_process';
import { createSocket } from 'node:dgram';
import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { connect } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pino } from 'pino';
import { machineTime } from '../scheduler.ts';
import { afterEach, describe, expect, it } from 'vitest';
import lacrosse from '../../../data/demo/frame-map/lacrosse-console.json' with { type: 'json' };
import { parseFrameMap } from '../../core/decode/frame-map.ts';
import { parseSource } from '../../core/source/source-doc.ts';
import type { Transport } from '../../core/source/source.ts';
import { SerialLine } from '../../sim/serial-line.ts';
import { encodeFrame } from '../../sim/frame.ts';
import { newGame } from '../../sim/game.ts';
import { freePort } from '../../../tests/support/ports.ts';
import { ByteSource } from './byte-source.ts';

let closing: (() => unknown)[] = [];
afterEach(async () => {
  for (const close of closing.reverse()) await close();
  closing = [];
});

function listenTo(transport: object, mapped = true) {
  const map = parseFrameMap(lacrosse);
  const doc = parseSource({
    schema: 1,
    key: 's',
    name: 'S',
    transport,
    frameMap: mapped ? 'lacrosse-console' : null,
    limits: { late: 200, lost: 400 },
  });
  if (!map.ok || !doc.ok) throw new Error('bad documents');
  const scores: unknown[] = [];
  const source = new ByteSource(
    { schema: 1, source: doc.value, map: mapped ? map.value : null, document: null, patch: null },
    {
      read: ({ readings }) => scores.push(readings.find((r) => r.name === 'home score')?.value),
      received: () => {},
      now: Date.now,
      scheduler: machineTime,
      atOneTime: (work) => work(),
      log: pino({ level: 'silent' }),
    },
  );
  source.start();
  closing.push(() => source.stop());
  return { source, scores };
}

const frame = (score: number) => {
  const s = newGame();
  s.home.score = score;
  return encodeFrame(s);
};

describe('ByteSource', () => {
  it('hears a device that calls over TCP, and a new call takes the place of the old', async () => {
    const port = await freePort();
    const { source, scores } = listenTo({ kind: 'tcp', mode: 'listen', host: '127.0.0.1', port });
    const call = async () => {
      const socket = connect(port, '127.0.0.1');
      socket.on('error', () => {});
      await new Promise((done) => socket.once('connect', done));
      closing.push(() => socket.destroy());
      return socket;
    };
    const first = await call();
    first.write(frame(1));
    await expect.poll(() => scores).toEqual([1]);
    const second = await call();
    await expect.poll(() => first.destroyed || first.readableEnded).toBe(true);
    second.write(frame(2));
    await expect.poll(() => scores).toEqual([1, 2]);
    expect(source.state()).toMatchObject({ connected: true, address: `TCP at our 127.0.0.1:${port}` });
  });

  it('hears datagrams over UDP', async () => {
    const port = await freePort();
    const { source, scores } = listenTo({ kind: 'udp', host: '127.0.0.1', port });
    await expect.poll(() => source.state().connected).toBe(true);
    const socket = createSocket('udp4');
    closing.push(() => socket.close());
    socket.send(frame(5), port, '127.0.0.1');
    await expect.poll(() => scores).toEqual([5]);
  });

  it('hears a serial port, and comes back when the port does', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'foothill-pty-'));
    const [ours, theirs] = [join(folder, 'ours'), join(folder, 'theirs')];
    const pair = () => {
      const socat = spawn('socat', [`pty,raw,echo=0,link=${ours}`, `pty,raw,echo=0,link=${theirs}`]);
      closing.push(() => socat.kill());
      return socat;
    };
    const first = pair();
    await expect.poll(() => existsSync(theirs) && existsSync(ours)).toBe(true);
    // The simulated controller's own port: it opens again by itself, as ours does.
    const device = new SerialLine(theirs);
    closing.push(() => device.close());
    const seen = (score: number) =>
      expect
        .poll(() => {
          device.send(frame(score));
          return scores.at(-1);
        })
        .toBe(score);
    const transport: Transport = {
      kind: 'serial',
      path: ours,
      baud: 9600,
      dataBits: 8,
      parity: 'none',
      stopBits: 1,
    };
    const { source, scores } = listenTo(transport);
    await expect.poll(() => source.state().connected).toBe(true);
    await seen(7);
    first.kill();
    await expect.poll(() => source.state().connected).toBe(false);
    expect(source.state().trouble?.text).toContain(ours);
    pair();
    await expect.poll(() => source.state().connected).toBe(true);
    await seen(8);
    rmSync(folder, { recursive: true, force: true });
  });

  it.each<[object, string]>([
    [
      { kind: 'serial', path: '/dev/no-such-port', baud: 9600 },
      'The port /dev/no-such-port cannot be opened',
    ],
    [{ kind: 'tcp', host: '127.0.0.1', port: 1 }, 'No connection to 127.0.0.1:1'],
    [{ kind: 'udp', host: '192.0.2.1', port: 4000 }, 'Nothing can be received at 192.0.2.1:4000'],
    [{ kind: 'tcp', mode: 'listen', host: '192.0.2.1', port: 4000 }, 'Nothing can call at 192.0.2.1:4000'],
  ])('says what is wrong with a line that cannot be had: %o', async (transport, why) => {
    const { source } = listenTo(transport);
    await expect.poll(() => source.state().trouble?.text).toContain(why);
    expect(source.state().connected).toBe(false);
  });

  it('counts bytes that nothing reads yet as a word, and keeps the newest to look at', async () => {
    const port = await freePort();
    const { source } = listenTo({ kind: 'udp', host: '127.0.0.1', port }, false);
    await expect.poll(() => source.state().connected).toBe(true);
    const socket = createSocket('udp4');
    closing.push(() => socket.close());
    for (let i = 0; i < 300; i++) socket.send(frame(i % 90), port, '127.0.0.1');
    await expect.poll(() => source.tail.length).toBe(8192);
    source.look(performance.timeOrigin + performance.now());
    expect(source.health).toBe('live');
  });
});
