import type { IncomingMessage } from 'node:http';
import { networkInterfaces } from 'node:os';
import ipaddr from 'ipaddr.js';
import { isLoopback } from '../config.ts';

/** Why a request is refused: its status and one sentence. */
export interface Refused {
  status: number;
  reason: string;
  /** What may be asked by (RFC 9110, 15.5.6), where that was wrong. */
  allow?: string;
}

type Asked = Pick<IncomingMessage, 'headers' | 'socket' | 'method'>;

const READS = new Set(['GET', 'HEAD', 'OPTIONS']);
/** All that is asked here by any page or program; what else there is (TRACE, PROPFIND) nobody needs. */
const METHODS = new Set([...READS, 'POST', 'DELETE']);
/** Pages that their renderer would serve by itself and that are none of ours. */
const NOT_SERVED = new Set(['/_image']);

/** The read-outs, meant for overlays of one's own too. */
const READOUTS = /^\/state\//;

/**
 * What another machine may read as long as nobody can sign in: air pages, what they are made of, and the read-outs.
 * The desks' pages, their stream and the sources' bytes are for this machine.
 */
const FOR_ALL = [
  /^\/air\/[^/]+$/,
  /^\/media\/by-hash\/[0-9a-f]+$/,
  /^\/media\/stand-in\//,
  /^\/_astro\//,
  READOUTS,
];
const FOR_ALL_TOO = new Set(['/healthz', '/icon.svg']);

/** The address that a request asks for; null for what is none, such as `//` or `http://[`. */
export function addressAsked(url: string | undefined): URL | null {
  if (!url?.startsWith('/') || url.startsWith('//')) return null;
  return URL.canParse(url, 'http://localhost') ? new URL(url, 'http://localhost') : null;
}

const bare = (name: string) => name.replace(/^\[|\]$/g, '').toLowerCase();
/** An address as it is compared: IPv4 in an IPv6 coat is IPv4. */
const plain = (name: string) => (ipaddr.isValid(name) ? ipaddr.process(name).toString() : name);

/** The names that this server goes by: loopback, and what it listens on. */
function goesBy(name: string, host: string): boolean {
  if (name === 'localhost') return true;
  if (ipaddr.isValid(name) && isLoopback(name)) return true;
  if (plain(name) === plain(bare(host))) return !ipaddr.isValid(host) || !isEverywhere(host);
  if (!isEverywhere(host)) return false;
  // It listens on all addresses of this machine, so it goes by each of them.
  return Object.values(networkInterfaces()).some((all) =>
    all?.some((one) => plain(one.address) === plain(name)),
  );
}

const isEverywhere = (host: string) => ['0.0.0.0', '::'].includes(bare(host));

/**
 * What of a read-out is told to a page of another site that asks for it (Fetch, CORS): headers that let it read it; a refusal where
 * only some sites may; null for all other addresses.
 */
export function readersOf(
  { headers: { origin, host } }: Pick<Asked, 'headers'>,
  pathname: string,
  readers: readonly string[] | null,
): { headers: Record<string, string> } | Refused | null {
  if (!READOUTS.test(pathname)) return null;
  if (readers === null) return { headers: { 'access-control-allow-origin': '*' } };
  const headers = { vary: 'origin' };
  if (origin === undefined || origin === `http://${host}` || origin === `https://${host}`) return { headers };
  if (readers.includes(origin)) return { headers: { ...headers, 'access-control-allow-origin': origin } };
  return { status: 403, reason: `Pages of ${origin} may not read this; FOOTHILL_READERS says which may.` };
}

/** Why a request for an address may not go on: it must name this server, come from a page of ours where it acts, and from this machine. */
export function refuseRequest(
  request: Asked,
  address: URL | null,
  host: string,
  socket = false,
): Refused | null {
  const { origin, host: asked, 'sec-fetch-site': site } = request.headers;
  if (!address) return { status: 400, reason: 'This address cannot be read.' };
  const { pathname } = address;
  if (!METHODS.has(request.method ?? '')) {
    const allow = [...METHODS].join(', ');
    return { status: 405, allow, reason: `${request.method} is not answered here; ask by ${allow}.` };
  }
  if (NOT_SERVED.has(pathname)) return { status: 404, reason: 'There is no such page.' };
  const name = bare((asked ?? '').replace(/:\d+$/, ''));
  // A name that somebody else pointed here must not read either.
  if (!goesBy(name, host)) return { status: 421, reason: `This server does not go by the name "${name}".` };
  const acts = socket || !READS.has(request.method ?? '');
  const foreign =
    (origin !== undefined && origin !== `http://${asked}` && origin !== `https://${asked}`) ||
    site === 'cross-site' ||
    site === 'same-site';
  if (acts && foreign)
    return { status: 403, reason: 'This came from a page of another site, so it was refused.' };
  if (isLoopback(request.socket.remoteAddress ?? '')) return null;
  if (socket)
    return address.searchParams.get('stream')?.startsWith('air:')
      ? null
      : { status: 403, reason: 'Desks work only on the machine that Foothill runs on.' };
  if (acts)
    return {
      status: 403,
      reason: 'Changes can be made only on the machine that Foothill runs on; from here you can look.',
    };
  return FOR_ALL_TOO.has(pathname) || FOR_ALL.some((path) => path.test(pathname))
    ? null
    : {
        status: 403,
        reason:
          'From another machine there are the air pages (/air/…) and the read-outs (/state/…); desks work only on the machine that Foothill runs on.',
      };
}
