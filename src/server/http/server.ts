import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import sirv from 'sirv';
import { WebSocketServer } from 'ws';
import type { Config } from '../config.ts';
import type { Engine } from '../live/engine.ts';
import { refuseRemote, refuseRequest } from './guard.ts';

type AstroHandler = (
  request: IncomingMessage,
  response: ServerResponse,
  next: (error?: unknown) => void,
  locals: App.Locals,
) => Promise<void> | void;

const READS = new Set(['GET', 'HEAD', 'OPTIONS']);

function answer(response: ServerResponse, status: number, reason: string): void {
  response
    .writeHead(status, { 'content-type': 'application/json' })
    .end(JSON.stringify({ ok: false, reason }));
}

/** Our HTTP server: guards writes, serves built files, hands pages to Astro and sockets to the hub. */
export async function createFoothillServer(config: Config, engine: Engine): Promise<Server> {
  const astro = join(config.home, 'dist/astro');
  const { handler } = (await import(pathToFileURL(join(astro, 'server/entry.mjs')).href)) as {
    handler: AstroHandler;
  };
  const files = sirv(join(astro, 'client'), {
    etag: true,
    setHeaders: (response, path) => {
      if (path.startsWith('/_astro/'))
        response.setHeader('cache-control', 'public, max-age=31536000, immutable');
    },
  });
  const server = createServer((request, response) => {
    if (!READS.has(request.method ?? '')) {
      const refused = refuseRequest(request, config.host) ?? refuseRemote(request);
      if (refused) return answer(response, 403, refused);
    }
    files(request, response, () => {
      void handler(
        request,
        response,
        (error) =>
          answer(
            response,
            error ? 500 : 404,
            error ? 'The page could not be made.' : 'There is no such page.',
          ),
        { engine },
      );
    });
  });
  const sockets = new WebSocketServer({ noServer: true, maxPayload: 64 * 1024 });
  server.on('upgrade', (request, socket, head) => {
    const url = new URL(request.url ?? '/', 'http://localhost');
    const stream = url.searchParams.get('stream') ?? '';
    const status =
      url.pathname !== '/socket' || !engine.hub.has(stream)
        ? 404
        : refuseRequest(request, config.host)
          ? 403
          : 0;
    if (status) return socket.end(`HTTP/1.1 ${status} Refused\r\nConnection: close\r\n\r\n`);
    sockets.handleUpgrade(request, socket, head, (client) => engine.hub.join(stream, client));
  });
  return server;
}
