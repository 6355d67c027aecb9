import type { Reply } from '../http/reply.ts';
import type { Readout } from './readouts.ts';

const OPEN = { 'cache-control': 'no-cache' };

/**
 * A read-out as an HTTP answer: 304 when the asker has it already. In a rehearsal a
 * header names the tape.
 */
export function readoutReply(
  tags: string | null | undefined,
  readout: Readout | null,
  rehearsal: string | null = null,
): Reply {
  if (!readout)
    return {
      status: 404,
      headers: { ...OPEN, 'content-type': 'text/plain; charset=utf-8' },
      body: 'There is no such read-out.\n',
    };
  const sign: Record<string, string> =
    rehearsal === null ? {} : { 'foothill-rehearsal': encodeURIComponent(rehearsal) };
  const headers = { ...OPEN, ...sign, 'content-type': `${readout.type}; charset=utf-8`, etag: readout.etag };
  const known = (tags ?? '').split(',').map((t) => t.trim().replace(/^W\//, ''));
  if (known.includes(readout.etag) || known.includes('*')) return { status: 304, headers, body: null };
  return { status: 200, headers, body: readout.body };
}
