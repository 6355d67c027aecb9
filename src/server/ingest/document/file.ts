import { constants } from 'node:fs';
import { open, realpath, stat, type FileHandle } from 'node:fs/promises';
import { sep } from 'node:path';
import { DocumentProblem } from './parse.ts';
import type { Fetched, Fetcher } from './document-source.ts';

const megabytes = (n: number) => `${(n / 1e6).toFixed(1)} MB`;

/** How long a file may take to be had, in ms: a share on the network may never answer. */
const PATIENCE = 5000;
/** As many files may be waited for at a time: each that never answers holds a thread until it does. */
const MOST_HUNG = 8;
let hung = 0;

/** How the file system is asked: tests put another in. */
export const FILES = { open, realpath, stat };

/** Whether a path, its links followed, lies within one of the folders. */
async function within(path: string, folders: readonly string[]): Promise<boolean> {
  for (const folder of folders) {
    const real = await FILES.realpath(folder).catch(() => null);
    if (real !== null && path.startsWith(real.endsWith(sep) ? real : real + sep)) return true;
  }
  return false;
}

/** The file's bytes, at most `limit`; what grows beyond it while it is read is refused as well. */
async function readAtMost(file: FileHandle, limit: number): Promise<Uint8Array> {
  const parts: Buffer[] = [];
  let length = 0;
  for (;;) {
    const { bytesRead, buffer } = await file.read(Buffer.allocUnsafe(256 * 1024));
    if (bytesRead === 0) return Buffer.concat(parts, length);
    length += bytesRead;
    if (length > limit) throw new DocumentProblem(`The file is longer than the limit of ${megabytes(limit)}`);
    parts.push(buffer.subarray(0, bytesRead));
  }
}

/**
 * Looks at a file that another program rewrites; gives it when it is another than at the last look. Only regular files
 * within `folders` are read. One that does not answer holds up its own source and nothing else.
 */
export function fileFetcher(
  { path, limit }: { path: string; limit: number },
  folders: readonly string[],
): Fetcher {
  let seen = '';
  let waiting: Promise<unknown> | null = null;

  const explain = (error: NodeJS.ErrnoException): never => {
    if (error instanceof DocumentProblem) throw error;
    throw new DocumentProblem(
      error.code === 'ENOENT'
        ? `There is no file ${path}`
        : error.code === 'EACCES'
          ? `The file ${path} may not be read`
          : `The file ${path} cannot be opened (${error.code ?? error.message})`,
    );
  };

  const look = async (): Promise<Fetched | null> => {
    const real = await FILES.realpath(path);
    if (!(await within(real, folders)))
      throw new DocumentProblem(`${path} is not in ${folders.join(' or ')}, where files may be read from`);
    // A pipe or a device is not even opened: that alone may wait for ever, or do something.
    if (!(await FILES.stat(real)).isFile()) throw new DocumentProblem(`${path} is not a file`);
    const file = await FILES.open(real, constants.O_RDONLY | constants.O_NONBLOCK | constants.O_NOFOLLOW);
    try {
      const found = await file.stat();
      if (!found.isFile()) throw new DocumentProblem(`${path} is not a file`);
      const stamp = `${found.mtimeMs} ${found.size} ${found.ino}`;
      if (stamp === seen) return null;
      if (found.size > limit)
        throw new DocumentProblem(`The file has ${megabytes(found.size)}; the limit is ${megabytes(limit)}`);
      const bytes = await readAtMost(file, limit);
      // Written while it was being read: what was read may be half of one and half of another.
      const after = await file.stat();
      if (`${after.mtimeMs} ${after.size} ${after.ino}` !== stamp)
        throw new DocumentProblem('The file is being written at this moment');
      seen = stamp;
      return { bytes, type: '' };
    } finally {
      void file.close().catch(() => {});
    }
  };

  return {
    forget: () => (seen = ''),
    async fetch(): Promise<Fetched | null> {
      const silent = new DocumentProblem(`The file ${path} does not answer; a share may have hung`);
      if (waiting) throw silent;
      if (hung >= MOST_HUNG)
        throw new DocumentProblem(
          `${hung} files do not answer, so no more are asked for; a share may have hung`,
        );
      hung++;
      const mine = look();
      waiting = mine;
      const over = () => {
        hung--;
        waiting = null;
      };
      mine.then(over, over);
      let timer: NodeJS.Timeout | undefined;
      const patience = new Promise<never>((_, no) => (timer = setTimeout(() => no(silent), PATIENCE)));
      try {
        return await Promise.race([mine, patience]);
      } catch (error) {
        return explain(error as NodeJS.ErrnoException);
      } finally {
        clearTimeout(timer);
      }
    },
  };
}
