import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { passwordIn } from './database.mjs';

const folder = mkdtempSync(join(tmpdir(), 'foothill-password-'));
const file = join(folder, 'db-password');
afterAll(() => rmSync(folder, { recursive: true }));

describe('the password of the database', () => {
  it('is made once, for whoever owns it alone', () => {
    const made = passwordIn(file);
    expect(made.length).toBeGreaterThan(20);
    expect(passwordIn(file)).toBe(made);
    expect(readFileSync(file, 'utf8')).toBe(made);
    expect(statSync(file).mode & 0o777).toBe(0o600);
  });

  it.each(['', ' \n', 'short', "a'; DROP USER 'x'; --aaaaaaaaaaa", 'x'.repeat(101)])('is not %j', (odd) => {
    writeFileSync(file, odd);
    expect(() => passwordIn(file)).toThrow(/holds no password .* Delete it and start again/);
  });
});
