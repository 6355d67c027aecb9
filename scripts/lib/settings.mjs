import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { connect } from 'node:net';
import { fail } from './say.mjs';

/** The project's folder. */
export const home = resolve(dirname(fileURLToPath(import.meta.url)), '../..');

function port(name, otherwise) {
  const text = process.env[name];
  if (!text) return otherwise;
  const n = Number(text);
  if (!Number.isInteger(n) || n < 1 || n > 65535)
    fail(`${name} is "${text}"; it must be a port from 1 to 65535.`);
  return n;
}

/** The FOOTHILL_* variables with their defaults, as the engine reads them too. */
export function readSettings() {
  return {
    host: process.env.FOOTHILL_HOST || '127.0.0.1',
    port: port('FOOTHILL_PORT', 4310),
    dbPort: port('FOOTHILL_DB_PORT', 4311),
    simPort: port('FOOTHILL_SIM_PORT', 4320),
    data: resolve(home, process.env.FOOTHILL_DATA || '.foothill'),
  };
}

/** True when something on this machine listens on the port. */
export function portTaken(port, host = '127.0.0.1') {
  return new Promise((done) => {
    const socket = connect({ port, host: host === '0.0.0.0' ? '127.0.0.1' : host });
    socket.on('connect', () => (socket.destroy(), done(true)));
    socket.on('error', () => done(false));
  });
}

export const engineFile = join(home, 'dist/engine/main.js');
export const simFile = join(home, 'dist/sim/main.js');
