import { existsSync, readFileSync } from 'node:fs';
import { spawnSync } from 'node:child_process';
import { describe, expect, it } from 'vitest';
import { plan } from './test.mjs';

const home = new URL('../', import.meta.url);
const text = (path: string) => readFileSync(new URL(path, home), 'utf8');

describe('what is written about the repository', () => {
  const named = [...text('CONTRIBUTING.md').matchAll(/`((?:src|tests|docs|bench|scripts)\/[\w.[\]/-]+)`/g)];
  it('names files in every worked example', () => expect(named.length).toBeGreaterThan(30));
  it.each([...new Set(named.map((m) => m[1]!))])('%s is there', (path) =>
    expect(existsSync(new URL(path, home))).toBe(true),
  );
  it.each(['README.md', 'CONTRIBUTING.md', 'CHANGELOG.md', 'SECURITY.md', 'docs/install.md'])(
    '%s links to what is there',
    (page) => {
      for (const [, to] of text(page).matchAll(/\]\((?!http|#)([^)#]+)/g))
        expect([to, existsSync(new URL(to!, new URL(page, home)))]).toEqual([to, true]);
    },
  );
  it('offers no command that package.json does not have', () => {
    const { scripts } = JSON.parse(text('package.json')) as { scripts: Record<string, string> };
    for (const page of ['README.md', 'CONTRIBUTING.md', 'docs/install.md'])
      for (const [, name] of text(page).matchAll(/`npm run ([\w-]+)/g)) expect(scripts).toHaveProperty(name!);
  });
  it('the shipped script for a screen is the one of the guide', () => {
    const script = text('docs/venue/screen.sh');
    expect(text('docs/install.md')).toContain(script.trim());
    expect(spawnSync('sh', ['-n'], { input: script }).status).toBe(0);
  });
});

describe('npm test --', () => {
  it.each([
    [[], ['run'], ['test']],
    [['src/core/value'], ['run', '--passWithNoTests', 'src/core/value'], null],
    [['tests/live.spec.ts'], null, ['test', '--pass-with-no-tests', 'tests/live.spec.ts']],
    [['lanes'], ['run', '--passWithNoTests', 'lanes'], ['test', '--pass-with-no-tests', 'lanes']],
    [
      ['--changed=main'],
      ['run', '--changed=main', '--passWithNoTests'],
      ['test', '--only-changed=main', '--pass-with-no-tests'],
    ],
  ])('%j', (asked, unit, browser) => expect(plan(asked)).toEqual({ unit, browser }));
  it('refuses what it does not know', () => expect(() => plan(['--fast'])).toThrow('knows no --fast'));
});
