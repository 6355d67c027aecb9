import { stat } from 'node:fs/promises';
import { createSocket } from 'node:dgram';
import { connect, createServer, type Socket } from 'node:net';
import { SerialPort } from 'serialport';
import { addressOf, type ByteTransport } from '../../core/source/source.ts';

/** What a line tells of itself. After `down` it is over; whoever opened it may open a new one. */
export interface LineEvents {
  up(): void;
  bytes(bytes: Uint8Array): void;
  down(reason: string | null): void;
}

/** An open line; `close` ends it without a word. */
export interface OpenLine {
  close(): void;
}

/** Opens the line that a transport describes; a connection that is silent for so many ms (0: however long) is ended. Never throws: what goes wrong comes as `down`, with a reason. */
export function openLine(transport: ByteTransport, silentAfter: number, events: LineEvents): OpenLine {
  let over = false;
  const down = (reason: string | null) => {
    if (over) return;
    over = true;
    events.down(reason);
  };
  const guarded: LineEvents = {
    up: () => !over && events.up(),
    bytes: (bytes) => !over && events.bytes(bytes),
    down,
  };
  const close = OPEN[transport.kind](transport as never, silentAfter, guarded);
  return {
    close: () => {
      over = true;
      close();
    },
  };
}

type Opener<K extends ByteTransport['kind']> = (
  t: Extract<ByteTransport, { kind: K }>,
  silentAfter: number,
  events: LineEvents,
) => () => void;

const tcp: Opener<'tcp'> = (t, silentAfter, events) => {
  const follow = (socket: Socket) => {
    socket.setNoDelay(true);
    socket.setKeepAlive(true, 10_000);
    socket.setTimeout(silentAfter, () => socket.destroy(new Error('no data came any more')));
    socket.on('data', events.bytes);
  };
  let reason: string | null = null;
  if (t.mode === 'connect') {
    const socket = connect({ host: t.host, port: t.port });
    follow(socket);
    socket.on('connect', events.up);
    socket.on('error', (error) => (reason = `No connection to ${addressOf(t)}: ${error.message}`));
    socket.on('close', () => events.down(reason));
    return () => socket.destroy();
  }
  let caller: Socket | null = null;
  const server = createServer((socket) => {
    // The newest caller is the device; one that hangs from before must not shut it out.
    caller?.destroy();
    caller = socket;
    follow(socket);
    socket.on('error', () => socket.destroy());
    events.up();
  });
  server.on('error', (error) => events.down(`Nothing can call at ${t.host}:${t.port}: ${error.message}`));
  server.listen(t.port, t.host);
  return () => {
    caller?.destroy();
    server.close();
  };
};

const udp: Opener<'udp'> = (t, _silentAfter, events) => {
  const socket = createSocket({ type: t.host.includes(':') ? 'udp6' : 'udp4', reuseAddr: true });
  socket.on('listening', events.up);
  socket.on('message', events.bytes);
  let closed = false;
  const close = () => {
    if (!closed) socket.close();
    closed = true;
  };
  socket.on('error', (error) => {
    close();
    events.down(`Nothing can be received at ${t.host}:${t.port}: ${error.message}`);
  });
  socket.bind(t.port, t.host);
  return close;
};

/** How often is looked whether a serial port is still the one that was opened, in ms. */
const PORT_LOOK = 500;

/** Which device a path leads to; null where there is none. */
const deviceAt = (path: string) =>
  stat(path).then(
    ({ dev, ino, rdev }) => `${dev} ${ino} ${rdev}`,
    () => null,
  );

const serial: Opener<'serial'> = (t, _silentAfter, events) => {
  const { path, baud, dataBits, parity, stopBits } = t;
  const port = new SerialPort({ path, baudRate: baud, dataBits, parity, stopBits, autoOpen: false });
  let closing = false;
  let look: NodeJS.Timeout | undefined;
  const end = () => {
    closing = true;
    clearInterval(look);
    if (port.isOpen) port.close();
  };
  port.on('data', events.bytes);
  port.on('error', (error) => events.down(`The port ${path} failed: ${error.message}`));
  port.on('close', () => events.down(`The port ${path} was closed`));
  port.open((error) => {
    if (error) return events.down(`The port ${path} cannot be opened: ${error.message}`);
    if (closing) return port.close();
    events.up();
    // A port that is pulled out does not always say so: what stands at its path tells.
    void deviceAt(path).then((opened) => {
      if (closing) return;
      look = setInterval(() => {
        void deviceAt(path).then((now) => {
          if (now === opened || closing) return;
          end();
          events.down(`The port ${path} is gone`);
        });
      }, PORT_LOOK);
    });
  });
  return end;
};

const OPEN = { tcp, udp, serial };
