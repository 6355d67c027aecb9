import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, it } from 'vitest';
import { makeFolder } from './folder.mjs';

const base = mkdtempSync(join(tmpdir(), 'foothill-folder-'));
afterAll(() => rmSync(base, { recursive: true }));

it('a folder is made with those above it, and one that is there stays', () => {
  const deep = join(base, 'a', 'b', 'c');
  makeFolder(deep);
  makeFolder(deep);
  expect(existsSync(deep)).toBe(true);
});

it.each([
  ['in a file system that has none', '/proc/foothill/x', /ENOENT|EACCES|EPERM/],
  ['under a file', join(base, 'file', 'x'), /ENOTDIR/],
  ['where a file is', join(base, 'file'), /ENOTDIR/],
])('a folder that cannot be is refused at once: %s', (_, path, code) => {
  writeFileSync(join(base, 'file'), '');
  let thrown: { code?: string } = {};
  try {
    makeFolder(path);
  } catch (error) {
    thrown = error as typeof thrown;
  }
  expect(thrown.code).toMatch(code);
});
