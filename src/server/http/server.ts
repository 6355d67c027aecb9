import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { join } from 'node:path';
import type { Duplex } from 'node:stream';
import { pathToFileURL } from 'node:url';
import compression from 'compression';
import sirv from 'sirv';
import { WebSocketServer } from 'ws';
import type { Config } from '../config.ts';
import type { Engine } from '../live/engine.ts';
import { placeOf, readAs } from '../live/open-pages.ts';
import { builtFiles } from './built-files.ts';
import { SocketRoom } from './socket-room.ts';
import { SpacedQueue } from './spaced-queue.ts';
import { answerDirectly, answerOnSocket, UNANSWERED } from './endpoints.ts';
import { addressAsked, readersOf, refuseRequest } from './guard.ts';
import { HEADERS } from './policy.ts';
import { sendReply, type Reply } from './reply.ts';

type AstroHandler = (
  request: IncomingMessage,
  response: ServerResponse,
  next: (error?: unknown) => void,
  locals: App.Locals,
) => Promise<void> | void;
type Middleware = (request: IncomingMessage, response: ServerResponse, next: () => void) => void;

/** The longest message that a page may send, in bytes: it only asks. */
const LONGEST_MESSAGE = 8 * 1024;
/** Messages shorter than this go out as they are, in bytes: packing them costs more than it saves. */
const PACKED_FROM = 2048;

function answer(response: ServerResponse, status: number, reason: string): void {
  response
    .writeHead(status, { 'content-type': 'application/json' })
    .end(JSON.stringify({ ok: false, reason }));
}

/** The built pages. Reading them takes a while, so the start asks for them before it waits for anything else. */
export const pagesOf = ({ home }: Config) =>
  import(pathToFileURL(join(home, 'dist/astro/server/entry.mjs')).href) as Promise<{ handler: AstroHandler }>;

/** Our HTTP server: guards every request, serves built files, hands pages to Astro and sockets to the hub. */
export async function createFoothillServer(config: Config, engine: Engine): Promise<Server> {
  const { handler } = await pagesOf(config);
  const folder = join(config.home, 'dist/astro/client');
  const built = builtFiles(folder);
  const files = sirv(folder, { brotli: true, etag: true });
  const packed = compression() as unknown as Middleware;
  const page = async (request: IncomingMessage, response: ServerResponse): Promise<void> => {
    const failed = (error?: unknown) => {
      if (response.headersSent) response.destroy();
      else if (error) answer(response, 500, 'The page could not be made.');
      else answer(response, 404, 'There is no such page.');
    };
    try {
      await handler(request, response, failed, { engine });
    } catch (error) {
      engine.logError(error, `an answer to ${request.method} ${request.url} failed`);
      failed(error);
    }
  };
  const direct = async (
    request: IncomingMessage,
    response: ServerResponse,
    reply: () => Reply | Promise<Reply>,
  ): Promise<void> => {
    try {
      const made = await reply();
      // Whoever sends more than is taken must be able to send it all, or never reads why: it is let go unread.
      if (!request.readableEnded) request.resume();
      // Packing a short answer costs more than it saves.
      if ((made.body?.length ?? 0) < PACKED_FROM) sendReply(response, made);
      else packed(request, response, () => sendReply(response, made));
    } catch (error) {
      engine.logError(error, `an answer to ${request.method} ${request.url} failed`);
      if (response.headersSent) response.destroy();
      else answer(response, 500, UNANSWERED);
    }
  };
  const server = createServer((request, response) => {
    for (const [name, value] of Object.entries(HEADERS)) response.setHeader(name, value);
    const address = addressAsked(request.url);
    const refused = refuseRequest(request, address, config.host);
    if (refused?.allow) response.setHeader('allow', refused.allow);
    if (refused) return answer(response, refused.status, refused.reason);
    const readers = readersOf(request, address!.pathname, config.readers);
    if (readers && 'reason' in readers) return answer(response, readers.status, readers.reason);
    for (const [name, value] of Object.entries(readers?.headers ?? {})) response.setHeader(name, value);
    const reply = answerDirectly(request, address!.pathname, engine);
    if (reply) return void direct(request, response, reply);
    const unread = () => answer(response, 500, UNANSWERED);
    if (built(request, response, address!.pathname, unread)) return;
    packed(request, response, () => files(request, response, () => void page(request, response)));
  });
  const sockets = new WebSocketServer({
    noServer: true,
    maxPayload: LONGEST_MESSAGE,
    perMessageDeflate: {
      threshold: PACKED_FROM,
      serverNoContextTakeover: true,
      clientNoContextTakeover: true,
      concurrencyLimit: 4,
    },
  });
  const joins = new SpacedQueue();
  const room = new SocketRoom();
  server.on('upgrade', (request: IncomingMessage, socket: Duplex, head: Buffer) => {
    // Whoever hangs up in the middle of it is gone, and that is all.
    socket.on('error', () => socket.destroy());
    const asked = addressAsked(request.url);
    const stream = asked?.searchParams.get('stream') ?? '';
    const refused = refuseRequest(request, asked, config.host, true);
    const status = refused
      ? refused.status
      : asked?.pathname !== '/socket' || !engine.hub.has(stream)
        ? 404
        : room.take(request.socket.remoteAddress ?? '', socket)
          ? 0
          : 503;
    if (status) return socket.end(`HTTP/1.1 ${status} Refused\r\nConnection: close\r\n\r\n`);
    const joiner = {
      from: placeOf(request.socket.remoteAddress),
      as: readAs(asked?.searchParams.get('as') ?? null),
    };
    joins.do(() =>
      sockets.handleUpgrade(request, socket, head, (client) =>
        engine.hub.join(stream, client, joiner, (action) => answerOnSocket(action, engine)),
      ),
    );
  });
  return server;
}
