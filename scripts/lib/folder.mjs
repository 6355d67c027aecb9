import { mkdirSync, statSync } from 'node:fs';
import { dirname, resolve } from 'node:path';

/**
 * Makes a folder with those above it, where they are not there. One after another: by itself Node tries without an end where the
 * file system says that what was just found is not there, as /proc does. Throws what the file system says.
 * @param {string} path
 */
export function makeFolder(path) {
  const missing = [];
  for (let at = resolve(path); ; at = dirname(at)) {
    const found = statSync(at, { throwIfNoEntry: false });
    if (found?.isDirectory()) break;
    if (found || dirname(at) === at) {
      throw Object.assign(new Error(`${at} is no folder`), { code: 'ENOTDIR', syscall: 'mkdir', path: at });
    }
    missing.unshift(at);
  }
  for (const at of missing) {
    try {
      mkdirSync(at);
    } catch (error) {
      // Another program may have made it meanwhile.
      if (error.code !== 'EEXIST') throw error;
    }
  }
}
