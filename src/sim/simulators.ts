import { createReadStream, existsSync } from 'node:fs';
import { makeFolder } from '../../scripts/lib/folder.mjs';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { extname, join } from 'node:path';
import { Controller, type Command } from './controller.ts';
import { SerialLine } from './serial-line.ts';
import { Services } from './services.ts';
import { SportsHost } from './sports-host.ts';
import { Statistics } from './statistics.ts';

const HOST = '127.0.0.1';
const TYPES: Record<string, string> = {
  '.html': 'text/html; charset=utf-8',
  '.js': 'text/javascript',
  '.css': 'text/css',
  '.woff2': 'font/woff2',
};

export interface SimulatorOptions {
  /** The first of their ports. */
  port: number;
  /** The folder of the console's pages. */
  pages: string;
  /** The folder that the statistics program writes into; null: it only serves what it would write. */
  files: string | null;
  /** The serial port that the controller speaks on too. */
  serial: string | null;
  /** Plays a game by itself, by these numbers; null: it waits for its operator. */
  autopilot: number | null;
}

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

/** Does what a console asks for; a page of another site may ask for nothing. */
async function answerCommand(
  request: IncomingMessage,
  response: ServerResponse,
  work: (command: unknown) => { problem: string | null },
): Promise<void> {
  const { origin, host } = request.headers;
  if (origin !== undefined && origin !== `http://${host}`)
    return send(response, 403, { problem: 'Refused: another site.' });
  try {
    const answer = work(await readBody(request));
    send(response, answer.problem ? 409 : 200, answer);
  } catch {
    send(response, 400, { problem: 'That is not a command.' });
  }
}

/** The console follows the controller by server-sent events, ten a second. */
function follow(controller: Controller, request: IncomingMessage, response: ServerResponse): void {
  response.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-cache' });
  const push = () => response.write(`data: ${JSON.stringify(controller.view())}\n\n`);
  push();
  const timer = setInterval(push, 100);
  request.on('close', () => clearInterval(timer));
}

/**
 * Starts the simulated controller, services and sports, and the consoles that they are worked from; gives what ends them.
 * Rejects with a sentence where a port is in use.
 */
export async function startSimulators({
  port,
  pages,
  files,
  serial,
  autopilot,
}: SimulatorOptions): Promise<() => void> {
  if (files) makeFolder(files);
  const statistics = new Statistics(files && join(files, 'statistics.xml'));
  const services = new Services(statistics);
  const sports = new SportsHost();
  const line = serial ? new SerialLine(serial) : null;
  const controller = new Controller(port + 2, (state) => statistics.watch(state), line);
  const server = createServer((request, response) => {
    const path = new URL(request.url ?? '/', 'http://localhost').pathname;
    if (request.method === 'POST' && path === '/do')
      return void answerCommand(request, response, (command) => ({
        problem: controller.command(command as Command),
        ...controller.view(),
      }));
    if (path === '/sports.json') return send(response, 200, sports.view());
    if (path === '/sports' && request.method === 'POST')
      return void answerCommand(request, response, (command) => ({ problem: sports.command(command) }));
    if (path === '/sports' || path.startsWith('/sports/')) {
      const page = sports.page(path.slice('/sports/'.length) || null, port + 10);
      if (!page) return send(response, 404, { problem: 'There is no such sport.' });
      return void response.writeHead(200, { 'content-type': 'text/html; charset=utf-8' }).end(page);
    }
    if (path === '/events') return follow(controller, request, response);
    if (path === '/state') return send(response, 200, controller.view());
    const file = join(pages, path === '/' ? 'index.html' : path);
    const type = TYPES[extname(file)];
    if (!type || !file.startsWith(pages) || !existsSync(file))
      return send(response, 404, { problem: 'There is no such page.' });
    response.writeHead(200, { 'content-type': type });
    createReadStream(file).pipe(response);
  });
  const end = () => {
    controller.close();
    services.close();
    sports.close();
    server.close();
    server.closeAllConnections();
  };
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
    end();
    throw new Error(
      `The simulated controller needs ports ${port}, ${port + 1}, ${port + 3} to ${port + 5} and ${port + 10} to ${port + 15}: ${(error as Error).message}. Set FOOTHILL_SIM_PORT.`,
      { cause: error },
    );
  }
  if (autopilot !== null) controller.command({ kind: 'autopilot', on: true, seed: autopilot, speed: 1 });
  return end;
}
