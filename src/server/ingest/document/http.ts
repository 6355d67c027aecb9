import { lookup as resolveName, type LookupAddress } from 'node:dns';
import { request as requestHttp, type IncomingMessage } from 'node:http';
import { request as requestHttps } from 'node:https';
import { createBrotliDecompress, createGunzip, createInflate } from 'node:zlib';
import { isIP, type LookupFunction } from 'node:net';
import type { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { DocumentTransport } from '../../../core/source/source.ts';
import { refuseAddress, type HostPolicy } from './hosts.ts';
import { DocumentProblem } from './parse.ts';
import type { Fetched, Fetcher } from './document-source.ts';

const MOST_REDIRECTS = 5;
/** So long after its time is over a look may take to say why, in ms. */
const ENDING = 500;
type Http = Extract<DocumentTransport, { kind: 'http' }>;

/** Resolves a name, and refuses what the policy does not allow: the address that is checked is the one connected to. */
function guardedLookup(policy: HostPolicy): LookupFunction {
  return (name, options, callback) => {
    resolveName(name, { ...options, all: true }, (error, found: LookupAddress[]) => {
      if (error) return callback(new DocumentProblem(`The name ${name} is not known`), '', 0);
      const refused = found.map((f) => refuseAddress(f.address, policy)).find((r) => r !== null);
      const [first] = found;
      if (refused || !first) return callback(new DocumentProblem(refused ?? `${name} has no address`), '', 0);
      if (options.all) callback(null, found);
      else callback(null, first.address, first.family);
    });
  };
}

/** Asks an address, at most five redirects along; conditional, so that what did not change is not sent again. */
export function httpFetcher(transport: Http, policy: HostPolicy): Fetcher {
  let tags: Record<string, string> = {};
  let asking = new AbortController();
  const follow = async (signal: AbortSignal): Promise<Fetched | null> => {
    let url = new URL(transport.url);
    for (let hops = 0; ; hops++) {
      if (hops > MOST_REDIRECTS) throw new DocumentProblem('It redirects in a circle, or too often');
      const response = await ask(url, transport, policy, tags, signal);
      const status = response.statusCode ?? 0;
      const { location } = response.headers;
      if ([301, 302, 303, 307, 308].includes(status) && location) {
        response.destroy();
        const next = URL.canParse(location, url) ? new URL(location, url) : null;
        if (!next || !/^https?:$/.test(next.protocol))
          throw new DocumentProblem('It redirects to what is no address of the web');
        url = next;
        continue;
      }
      if (status === 304) {
        response.destroy();
        return null;
      }
      if (status !== 200) {
        response.destroy();
        throw new DocumentProblem(`${url.host} answered ${status} ${response.statusMessage ?? ''}`.trim());
      }
      const bytes = await bodyOf(response, transport.limit, signal);
      const { etag, 'last-modified': modified } = response.headers;
      tags = {
        ...(etag ? { 'if-none-match': etag } : {}),
        ...(modified ? { 'if-modified-since': modified } : {}),
      };
      return { bytes, type: response.headers['content-type'] ?? '' };
    }
  };
  return {
    forget: () => (tags = {}),
    abandon: () => asking.abort(),
    async fetch(): Promise<Fetched | null> {
      const mine = new AbortController();
      asking = mine;
      // A timer of our own, which lives as long as it must: signals made of signals may be collected before they fire,
      // and then a body that drips would never be given up.
      let timer: NodeJS.Timeout | undefined;
      // Whatever a server does, and whatever is forgotten here for it, the look ends in its time.
      const over = new Promise<never>((_, failed) => {
        timer = setTimeout(() => {
          mine.abort();
          setTimeout(() => failed(unanswered(new URL(transport.url), transport.timeout)), ENDING).unref();
        }, transport.timeout);
      });
      try {
        return await Promise.race([follow(mine.signal), over]);
      } finally {
        clearTimeout(timer);
      }
    },
  };
}

function ask(
  url: URL,
  { url: first, header, timeout }: Http,
  policy: HostPolicy,
  tags: Record<string, string>,
  signal: AbortSignal,
): Promise<IncomingMessage> {
  const host = url.hostname.replace(/^\[|\]$/g, '');
  const refused = isIP(host) ? refuseAddress(host, policy) : null;
  if (refused) throw new DocumentProblem(refused);
  const request = url.protocol === 'https:' ? requestHttps : requestHttp;
  const headers: Record<string, string> = {
    accept:
      'application/xml, application/json, text/csv, application/rss+xml, application/atom+xml, */*;q=0.5',
    'accept-encoding': 'gzip, deflate, br',
    'user-agent': 'Foothill',
    ...tags,
  };
  // The header may be a secret: it goes to the host it was given for, and nowhere that this one points to.
  if (header?.value && url.origin === new URL(first).origin)
    headers[header.name.toLowerCase()] = header.value;
  return new Promise((done, failed) => {
    const sent = request(url, { headers, signal, lookup: guardedLookup(policy) }, done);
    sent.on('error', (error: NodeJS.ErrnoException) => failed(problemOf(error, url, timeout)));
    // An answer that goes over to another protocol has no document, and says neither that it came nor that it failed.
    sent.on('upgrade', (answer, socket) => {
      socket.destroy();
      failed(
        new DocumentProblem(`${url.host} answered ${answer.statusCode} and left HTTP: it is no web address`),
      );
    });
    sent.on('close', () => failed(new DocumentProblem(`${url.host} broke off before it answered`)));
    sent.end();
  });
}

const unanswered = (url: URL, timeout: number) =>
  new DocumentProblem(`${url.host} did not answer within ${timeout / 1000} s`);

function problemOf(error: NodeJS.ErrnoException, url: URL, timeout: number): Error {
  if (error instanceof DocumentProblem) return error;
  if (error.name === 'AbortError' || error.name === 'TimeoutError') return unanswered(url, timeout);
  if (error.code === 'HPE_HEADER_OVERFLOW')
    return new DocumentProblem(`${url.host} answered with a header without an end`);
  if (error.code?.startsWith('HPE_'))
    return new DocumentProblem(`${url.host} answered with what is no HTTP (${error.code})`);
  return new DocumentProblem(
    error.code === 'ECONNREFUSED'
      ? `Nothing answers at ${url.host}`
      : `${url.host} cannot be reached (${error.code ?? error.message})`,
  );
}

const UNPACK = new Map<string, () => Transform>([
  ['gzip', createGunzip],
  ['x-gzip', createGunzip],
  ['deflate', createInflate],
  ['br', createBrotliDecompress],
]);

/** How the body is packed: a way to unpack it, or null where it is not. */
function unpacking(response: IncomingMessage): Transform | null {
  const packed = (response.headers['content-encoding'] ?? '').trim().toLowerCase();
  if (packed === '' || packed === 'identity') return null;
  const unpack = UNPACK.get(packed);
  if (unpack) return unpack();
  throw new DocumentProblem(
    `The document is packed in a way that is not known here ("${packed.slice(0, 40)}")`,
  );
}

/** The body, unpacked, up to the limit: neither what is sent nor what it unpacks to grows beyond it. */
async function bodyOf(response: IncomingMessage, limit: number, signal: AbortSignal): Promise<Uint8Array> {
  const tooLong = () =>
    new DocumentProblem(`The document is longer than the limit of ${(limit / 1e6).toFixed(1)} MB`);
  const parts: Buffer[] = [];
  let length = 0;
  let long = false;
  const gather = async (body: AsyncIterable<Buffer>) => {
    for await (const part of body) {
      length += part.length;
      long = length > limit;
      if (long) throw tooLong();
      parts.push(part);
    }
  };
  try {
    if (Number(response.headers['content-length']) > limit) throw tooLong();
    const unpack = unpacking(response);
    // An error of any part ends all of them, and so does the signal.
    if (unpack) await pipeline(response, unpack, gather, { signal });
    else await pipeline(response, gather, { signal });
  } catch (error) {
    response.destroy();
    // What ends the pipeline may come to us as its end and not as its reason.
    if (long) throw tooLong();
    if (error instanceof DocumentProblem) throw error;
    throw new DocumentProblem(
      signal.aborted ? 'The document did not come to its end in time' : 'The document broke off on its way',
    );
  }
  if (!response.complete) throw new DocumentProblem('The document broke off on its way');
  return Buffer.concat(parts);
}
