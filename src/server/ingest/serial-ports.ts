import { readdir } from 'node:fs/promises';

/** A serial port that is there: its path, and what it says of itself where it does. */
export interface Port {
  path: string;
  about: string;
}

/** The serial ports that are there now; none where that cannot be found out. */
export async function serialPorts(): Promise<Port[]> {
  const { SerialPort } = await import('serialport');
  const listed = await SerialPort.list().catch(() => []);
  const known = listed.map(({ path, manufacturer, serialNumber }) => ({
    path,
    about: [manufacturer, serialNumber].filter(Boolean).join(' '),
  }));
  // Names that stay the same whichever socket a cable is in.
  const named = await readdir('/dev/serial/by-id').catch(() => []);
  const demo = process.env['FOOTHILL_SERIAL'];
  return [
    ...(demo ? [{ path: demo, about: 'the demo console' }] : []),
    ...named.map((name) => ({ path: `/dev/serial/by-id/${name}`, about: 'by its name' })),
    ...known.filter((p) => !/^\/dev\/ttyS\d+$/.test(p.path) || p.about !== ''),
  ];
}
