import { describe, expect, it } from 'vitest';
import type { MediaEntry } from '../../core/media/media.ts';
import { folderRenamed, intoFolder, movedTo, tidyFolder } from './folders.ts';

const at = (path: string) => ({ path, hash: path.padEnd(64, '0') }) as MediaEntry;
const said = (changes: readonly { path: string; entry: MediaEntry | null }[]) =>
  changes.map((c) => `${c.entry ? '+' : '-'}${c.path}`);

describe('moving pictures', () => {
  const all = ['marks/a.svg', 'marks/away/b.svg', 'marksmen/c.svg', 'd.svg'].map(at);
  it.each([
    [
      'into a folder, by name',
      intoFolder(all.slice(0, 2), 'x/y'),
      ['-marks/a.svg', '-marks/away/b.svg', '+x/y/a.svg', '+x/y/b.svg'],
    ],
    ['out of all folders', intoFolder([all[0]!], ''), ['-marks/a.svg', '+a.svg']],
    ['where they are already', intoFolder([all[0]!], 'marks'), []],
    [
      'with a folder that is renamed, and those in it',
      folderRenamed(all, 'marks', 'signs'),
      ['-marks/a.svg', '-marks/away/b.svg', '+signs/a.svg', '+signs/away/b.svg'],
    ],
    ['where only the writing changes', movedTo([all[0]!], () => 'Marks/A.svg'), ['+Marks/A.svg']],
  ])('%s', (_name, changes, wanted) => expect(said(changes)).toEqual(wanted));
  it.each([
    [' /head shots//Herons/ ', 'head shots/Herons'],
    ['///', ''],
  ])('a folder typed as %j is %j', (typed, name) => expect(tidyFolder(typed)).toBe(name));
});
