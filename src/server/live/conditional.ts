import type { Readout } from './readouts.ts';

const OPEN = { 'access-control-allow-origin': '*', 'cache-control': 'no-cache' };

/**
 * A read-out as an HTTP answer: open to be read from anywhere, 304 when the asker has it already. In a rehearsal a
 * header names the tape.
 */
export function respond(
  request: Request,
  readout: Readout | null,
  rehearsal: string | null = null,
): Response {
  if (!readout) return new Response('There is no such read-out.\n', { status: 404, headers: OPEN });
  const sign: Record<string, string> =
    rehearsal === null ? {} : { 'foothill-rehearsal': encodeURIComponent(rehearsal) };
  const headers = { ...OPEN, ...sign, 'content-type': `${readout.type}; charset=utf-8`, etag: readout.etag };
  const known = (request.headers.get('if-none-match') ?? '')
    .split(',')
    .map((t) => t.trim().replace(/^W\//, ''));
  if (known.includes(readout.etag) || known.includes('*'))
    return new Response(null, { status: 304, headers });
  return new Response(readout.body, { headers });
}
