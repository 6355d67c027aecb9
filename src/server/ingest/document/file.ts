import { open } from 'node:fs/promises';
import { DocumentProblem } from './parse.ts';
import type { Fetched, Fetcher } from './document-source.ts';

const megabytes = (n: number) => `${(n / 1e6).toFixed(1)} MB`;

/** Looks at a file that another program rewrites; gives it when it is another than at the last look. */
export function fileFetcher({ path, limit }: { path: string; limit: number }): Fetcher {
  let seen = '';
  return {
    forget: () => (seen = ''),
    async fetch(): Promise<Fetched | null> {
      const file = await open(path, 'r').catch((error: NodeJS.ErrnoException) => {
        throw new DocumentProblem(
          error.code === 'ENOENT'
            ? `There is no file ${path}`
            : error.code === 'EACCES'
              ? `The file ${path} may not be read`
              : `The file ${path} cannot be opened (${error.code})`,
        );
      });
      try {
        const stat = await file.stat();
        if (!stat.isFile()) throw new DocumentProblem(`${path} is not a file`);
        const stamp = `${stat.mtimeMs} ${stat.size} ${stat.ino}`;
        if (stamp === seen) return null;
        if (stat.size > limit)
          throw new DocumentProblem(`The file has ${megabytes(stat.size)}; the limit is ${megabytes(limit)}`);
        const bytes = await file.readFile();
        // Written while it was being read: what was read may be half of one and half of another.
        const after = await file.stat();
        if (`${after.mtimeMs} ${after.size} ${after.ino}` !== stamp)
          throw new DocumentProblem('The file is being written at this moment');
        seen = stamp;
        return { bytes, type: '' };
      } finally {
        await file.close();
      }
    },
  };
}
