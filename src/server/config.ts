import ipaddr from 'ipaddr.js';
import { delimiter, join, resolve } from 'node:path';
import { readHostPolicy } from './ingest/document/hosts.ts';

import type { Reach } from './ingest/open-source.ts';

export interface Config {
  host: string;
  port: number;
  data: string;
  db: { host: string; port: number; name: string; user: string; password: string };
  simPort: number;
  demo: boolean;
  /** The demo's serial port, where there is a pair of them. */
  serial: string | null;
  /** What sources may reach. */
  reach: Reach;
  /** The sites whose pages may read the read-outs, as origins; null for any. */
  readers: readonly string[] | null;
  /** The folder that the project stands in: data files and the built pages are found from it. */
  home: string;
}

function port(env: NodeJS.ProcessEnv, name: string, otherwise: number): number {
  const text = env[name];
  if (text === undefined || text === '') return otherwise;
  const n = Number(text);
  if (!Number.isInteger(n) || n < 1 || n > 65535)
    throw new Error(`${name} is "${text}"; it must be a port from 1 to 65535.`);
  return n;
}

/** The origins of a list, `http://overlay.example:8080, …`; null for `any`. Throws with a sentence for what is none. */
function readReaders(text = 'any'): string[] | null {
  const parts = text
    .split(',')
    .map((part) => part.trim())
    .filter((part) => part !== '');
  if (parts.length === 1 && parts[0] === 'any') return null;
  return parts.map((part) => {
    const url = URL.canParse(part) ? new URL(part) : null;
    if (!url || !/^https?:$/.test(url.protocol) || url.origin !== part.replace(/\/$/, '').toLowerCase())
      throw new Error(
        `FOOTHILL_READERS has "${part}"; each must be "any" alone or a site such as http://overlay.example:8080.`,
      );
    return url.origin;
  });
}

/** Reads the FOOTHILL_* variables. Throws with a sentence when one of them makes no sense. */
export function readConfig(env: NodeJS.ProcessEnv, home: string): Config {
  const data = resolve(home, env['FOOTHILL_DATA'] || '.foothill');
  return {
    host: env['FOOTHILL_HOST'] || '127.0.0.1',
    port: port(env, 'FOOTHILL_PORT', 4310),
    data,
    db: {
      host: '127.0.0.1',
      port: port(env, 'FOOTHILL_DB_PORT', 4311),
      name: env['FOOTHILL_DB_NAME'] || 'foothill',
      user: 'foothill',
      password: env['FOOTHILL_DB_PASSWORD'] ?? '',
    },
    simPort: port(env, 'FOOTHILL_SIM_PORT', 4320),
    reach: {
      hosts: readHostPolicy(env['FOOTHILL_FEED_HOSTS']),
      folders: (env['FOOTHILL_FILES'] || join(data, 'inbox')).split(delimiter).map((f) => resolve(home, f)),
    },
    readers: readReaders(env['FOOTHILL_READERS']),
    demo: env['FOOTHILL_DEMO'] === '1',
    serial: env['FOOTHILL_SERIAL'] || null,
    home,
  };
}

/** True for an IP address that only this machine can reach; a name is none, whatever it looks like. */
export function isLoopback(address: string): boolean {
  return ipaddr.isValid(address) && ipaddr.process(address).range() === 'loopback';
}
