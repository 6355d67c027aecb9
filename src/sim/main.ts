import { createReadStream, existsSync, mkdirSync } from 'node:fs';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { dirname, extname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Controller, type Command } from './controller.ts';
import { SerialLine } from './serial-line.ts';
import { Services } from './services.ts';
import { SportsHost } from './sports-host.ts';
import { Statistics } from './statistics.ts';

const HOST = '127.0.0.1';
const port = Number(process.env['FOOTHILL_SIM_PORT'] || 4320);
const seed = Number(process.env['FOOTHILL_SIM_SEED'] || 7);
const pages = join(dirname(fileURLToPath(import.meta.url)), 'console');
const TYPES: Record<string, string> = {
  '.html': 'text/html; charset=utf-8',
  '.js': 'text/javascript',
  '.css': 'text/css',
  '.woff2': 'font/woff2',
};

// A log that cannot be written, on a disk that is full say, is no reason to end.
for (const stream of [process.stdout, process.stderr]) stream.on('error', () => {});

// Made when the demo starts it; a simulator that runs alone only serves what it would write.
const files = process.env['FOOTHILL_DATA'] ? join(process.env['FOOTHILL_DATA'], 'inbox') : null;
if (files) mkdirSync(files, { recursive: true });
const statistics = new Statistics(files && join(files, 'statistics.xml'));
const services = new Services(statistics);
const sports = new SportsHost();
const serialPath = process.env['FOOTHILL_SIM_SERIAL'];
const serial = serialPath ? new SerialLine(serialPath) : null;
const controller = new Controller(port + 2, (state) => statistics.watch(state), serial);

function send(response: ServerResponse, status: number, body: unknown): void {
  response.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(body));
}

async function readBody(request: IncomingMessage): Promise<unknown> {
  let text = '';
  for await (const chunk of request) {
    text += String(chunk);
    if (text.length > 10_000) throw new Error('too long');
  }
  return JSON.parse(text);
}

async function command(request: IncomingMessage, response: ServerResponse): Promise<void> {
  const { origin, host } = request.headers;
  if (origin !== undefined && origin !== `http://${host}`)
    return send(response, 403, { problem: 'Refused: another site.' });
  try {
    const problem = controller.command((await readBody(request)) as Command);
    send(response, problem ? 409 : 200, { problem, ...controller.view() });
  } catch {
    send(response, 400, { problem: 'That is not a command.' });
  }
}

async function sportsCommand(request: IncomingMessage, response: ServerResponse): Promise<void> {
  const { origin, host } = request.headers;
  if (origin !== undefined && origin !== `http://${host}`)
    return send(response, 403, { problem: 'Refused: another site.' });
  try {
    const problem = sports.command(await readBody(request));
    send(response, problem ? 409 : 200, { problem });
  } catch {
    send(response, 400, { problem: 'That is not a command.' });
  }
}

/** The console follows the controller by server-sent events, ten a second. */
function follow(request: IncomingMessage, response: ServerResponse): void {
  response.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-cache' });
  const push = () => response.write(`data: ${JSON.stringify(controller.view())}\n\n`);
  push();
  const timer = setInterval(push, 100);
  request.on('close', () => clearInterval(timer));
}

const server = createServer((request, response) => {
  const path = new URL(request.url ?? '/', 'http://localhost').pathname;
  if (request.method === 'POST' && path === '/do') return void command(request, response);
  if (path === '/sports.json') return send(response, 200, sports.view());
  if (path === '/sports' && request.method === 'POST') return void sportsCommand(request, response);
  if (path === '/sports' || path.startsWith('/sports/')) {
    const page = sports.page(path.slice('/sports/'.length) || null, port + 10);
    if (!page) return send(response, 404, { problem: 'There is no such sport.' });
    return void response.writeHead(200, { 'content-type': 'text/html; charset=utf-8' }).end(page);
  }
  if (path === '/events') return follow(request, response);
  if (path === '/state') return send(response, 200, controller.view());
  const file = join(pages, path === '/' ? 'index.html' : path);
  const type = TYPES[extname(file)];
  if (!type || !file.startsWith(pages) || !existsSync(file))
    return send(response, 404, { problem: 'There is no such page.' });
  response.writeHead(200, { 'content-type': type });
  createReadStream(file).pipe(response);
});

function stop(): void {
  controller.close();
  services.close();
  sports.close();
  server.close();
  server.closeAllConnections();
  process.exit(0);
}
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
if (process.send) process.on('disconnect', stop);

try {
  await controller.line.listen(port, HOST);
  await controller.otherLine.listen(port + 3, HOST);
  await services.listen(port + 4, HOST);
  await controller.jsonLine.listen(port + 5, HOST);
  await sports.listen(port + 10, HOST);
  await new Promise<void>((done, failed) => {
    server.once('error', failed);
    server.listen(port + 1, HOST, done);
  });
} catch (error) {
  console.error(
    `The simulated controller needs ports ${port}, ${port + 1}, ${port + 3} to ${port + 5} and ${port + 10} to ${port + 15}: ${(error as Error).message}. Set FOOTHILL_SIM_PORT.`,
  );
  process.exit(1);
}
if (process.env['FOOTHILL_SIM_AUTOPILOT'] === '1')
  controller.command({ kind: 'autopilot', on: true, seed, speed: 1 });
process.send?.({ ready: true });
