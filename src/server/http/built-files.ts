import { readdirSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { join } from 'node:path';
import { lookup } from 'mrmime';
import { FOR_DOCUMENTS } from './policy.ts';

/** Where files stand whose names change with what is in them. */
const PLACE = '/_astro/';

interface BuiltFile {
  headers: Record<string, string | number>;
  body: Buffer;
}

/**
 * Answers for the scripts, styles and fonts of our pages from memory, each read once: a page asks for some sixty, and to open,
 * read and close each anew is half of what a page costs the server. Gives false for all else, ranges and other methods among it.
 */
export function builtFiles(folder: string) {
  const names = new Set(readdirSync(join(folder, PLACE)));
  const read = new Map<string, Promise<BuiltFile>>();
  const readOnce = (name: string, packed: boolean): Promise<BuiltFile> => {
    const path = packed ? `${name}.br` : name;
    const known = read.get(path);
    if (known) return known;
    const file = readFile(join(folder, PLACE, path)).then((body) => ({
      body,
      // A page is made of many: on a slow line each byte that all of them say counts. They never change.
      headers: {
        'cache-control': 'public, max-age=31536000, immutable',
        'content-type': lookup(name) ?? 'application/octet-stream',
        'content-length': body.length,
        ...(packed ? { 'content-encoding': 'br' } : {}),
        ...(names.has(`${name}.br`) ? { vary: 'Accept-Encoding' } : {}),
      },
    }));
    read.set(path, file);
    // What could not be read once may be there the next time.
    file.catch(() => read.delete(path));
    return file;
  };
  return (request: IncomingMessage, response: ServerResponse, path: string, failed: () => void): boolean => {
    const name = path.startsWith(PLACE) ? path.slice(PLACE.length) : '';
    const { method, headers } = request;
    if (!names.has(name) || headers.range || (method !== 'GET' && method !== 'HEAD')) return false;
    const packed = names.has(`${name}.br`) && /\bbr\b/.test(String(headers['accept-encoding']));
    readOnce(name, packed).then((file) => {
      // A policy is for what a browser opens by itself or runs beside a page.
      if (!/worker/.test(name)) for (const header of FOR_DOCUMENTS) response.removeHeader(header);
      response.writeHead(200, file.headers).end(method === 'HEAD' ? undefined : file.body);
    }, failed);
    return true;
  };
}
