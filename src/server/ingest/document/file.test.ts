import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { FILES, fileFetcher } from './file.ts';

let closing: (() => unknown)[] = [];
afterEach(async () => {
  for (const close of closing.reverse()) await close();
  closing = [];
});

describe('files', () => {
  it('gives a file when it changed, and says what is wrong with one that cannot be had', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'foothill-file-'));
    closing.push(() => rmSync(folder, { recursive: true }));
    const path = join(folder, 'stats.xml');
    const fetcher = fileFetcher({ path, limit: 50 }, [folder]);
    await expect(fetcher.fetch()).rejects.toThrow(/There is no file/);
    writeFileSync(path, '<a/>');
    expect(Buffer.from((await fetcher.fetch())!.bytes).toString()).toBe('<a/>');
    expect(await fetcher.fetch()).toBeNull();
    fetcher.forget();
    expect(await fetcher.fetch()).not.toBeNull();
    writeFileSync(path, 'x'.repeat(51));
    await expect(fetcher.fetch()).rejects.toThrow(/the limit is/);
    mkdirSync(join(folder, 'inner'));
    for (const [name, why] of [
      ['inner', /is not a file/],
      ['pipe', /is not a file/],
      ['out', /is not in/],
      ['../elsewhere.xml', /is not in|no file/],
    ] as const) {
      if (name === 'pipe') execFileSync('mkfifo', [join(folder, name)]);
      if (name === 'out') symlinkSync('/etc/hostname', join(folder, name));
      await expect(
        fileFetcher({ path: join(folder, name), limit: 50 }, [folder]).fetch(),
        name,
      ).rejects.toThrow(why);
    }
    await expect(fileFetcher({ path: '/dev/zero', limit: 50 }, [folder, '/dev']).fetch()).rejects.toThrow(
      /is not a file/,
    );
    await expect(fileFetcher({ path: '/etc/passwd', limit: 50 }, [folder]).fetch()).rejects.toThrow(
      /is not in/,
    );
  });

  it('gives up what never answers, and no other source waits for it', async () => {
    vi.useFakeTimers();
    const asked = vi.spyOn(FILES, 'realpath').mockImplementation(() => new Promise<never>(() => {}));
    const silent = Array.from({ length: 9 }, (_, i) =>
      fileFetcher({ path: `/share/${i}`, limit: 50 }, ['/share']),
    );
    const first = silent.map((f) => f.fetch().catch((e: Error) => e.message));
    await vi.advanceTimersByTimeAsync(6000);
    const said = await Promise.all(first);
    expect(said.filter((t) => /does not answer/.test(String(t)))).toHaveLength(8);
    expect(said[8]).toMatch(/no more are asked for/);
    await expect(silent[0]!.fetch()).rejects.toThrow(/does not answer/);
    expect(asked).toHaveBeenCalledTimes(8);
    asked.mockRestore();
    vi.useRealTimers();
  });
});
