import type { IncomingMessage } from 'node:http';
import { isIP } from 'node:net';
import { isLoopback } from '../config.ts';

/**
 * Why a request that would write, or a socket, is refused: a sentence; or null where it may go on.
 * A page may act only on the server that it came from, under a name that this server goes by, and for as long
 * as nobody can sign in, only from this machine.
 */
export function refuseRequest(
  request: Pick<IncomingMessage, 'headers' | 'socket'>,
  host: string,
): string | null {
  const { origin, host: asked, 'sec-fetch-site': site } = request.headers;
  if (origin !== undefined && origin !== `http://${asked}` && origin !== `https://${asked}`) {
    return 'This came from a page of another site, so it was refused.';
  }
  if (site === 'cross-site' || site === 'same-site')
    return 'This came from a page of another site, so it was refused.';
  const name = (asked ?? '').replace(/:\d+$/, '').replace(/^\[|\]$/g, '');
  // An address is what it says; a name may be somebody else's that was pointed here.
  if (!isIP(name) && !isLoopback(name) && name !== host)
    return `This server does not go by the name "${name}".`;
  return null;
}

/** Why a write is refused that comes from another machine, or null where it comes from this one. */
export function refuseRemote(request: Pick<IncomingMessage, 'socket'>): string | null {
  return isLoopback(request.socket.remoteAddress ?? '')
    ? null
    : 'Changes can be made only on the machine that Foothill runs on; from here you can look.';
}
