import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { home } from './settings.mjs';
import { fail, say } from './say.mjs';

/** Debian packages: the program that shows one is there, and why Foothill wants it. */
const DEBIAN = {
  'mariadb-server': { programs: ['/usr/sbin/mariadbd', '/usr/bin/mariadb-install-db'], why: 'the database' },
  socat: { programs: ['/usr/bin/socat'], why: 'pairs of serial ports for the demo and the tests' },
  'chromium-headless-shell': {
    programs: ['/usr/bin/chromium-headless-shell'],
    why: 'the browser of the end-to-end tests',
  },
};

/**
 * Installs the named Debian packages that are missing, saying which and why. Without them it gives up; where they are
 * `optional` it gives whether they are there.
 */
export function ensureDebian(names, { optional = false } = {}) {
  const giveUp = (reason) => {
    if (!optional) fail(reason);
    say(`${reason} Foothill goes on without.`);
    return false;
  };
  const missing = names.filter((n) => !DEBIAN[n].programs.every((p) => existsSync(p)));
  if (missing.length === 0) return true;
  for (const name of missing) say(`installing the Debian package ${name}: ${DEBIAN[name].why}`);
  const root = process.getuid() === 0;
  if (!root && spawnSync('sudo', ['-n', 'true'], { stdio: 'ignore' }).status !== 0) {
    return giveUp(
      `the Debian package${missing.length > 1 ? 's' : ''} ${missing.join(', ')} must be installed first: sudo apt-get install ${missing.join(' ')}.`,
    );
  }
  const apt = (...args) =>
    spawnSync(root ? 'apt-get' : 'sudo', root ? args : ['apt-get', ...args], {
      encoding: 'utf8',
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    });
  // The package would start a server of its own; Foothill starts one with a data folder of its own instead.
  apt('update', '-q');
  const done = apt('install', '-y', '-q', '--no-install-recommends', ...missing);
  if (done.status !== 0 || !missing.every((n) => DEBIAN[n].programs.every((p) => existsSync(p)))) {
    const reason = `${done.stderr ?? ''}`.trim().split('\n').pop();
    return giveUp(
      `could not install ${missing.join(', ')} (${reason}). Install by hand: apt-get install ${missing.join(' ')}.`,
    );
  }
  return true;
}

/** Installs the npm packages when they are missing or the lock file changed. */
export function ensureNpm() {
  const lock = createHash('sha1')
    .update(readFileSync(join(home, 'package-lock.json')))
    .digest('hex');
  const stamp = join(home, 'node_modules/.foothill-lock');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  say('installing npm packages');
  const npm = (...args) =>
    spawnSync('npm', [...args, '--no-audit', '--no-fund', '--loglevel=error'], {
      cwd: home,
      encoding: 'utf8',
      env: { ...process.env, PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD: '1', NODE_ENV: 'development' },
    });
  let done = npm('ci');
  // A registry that lacks a package for some other platform makes `ci` refuse; what this one needs may be there.
  if (done.status !== 0) done = npm('install', '--no-save');
  if (done.status !== 0) {
    const reason = `${done.stderr}`.trim().split('\n')[0];
    fail(
      `npm packages could not be installed (${reason}). Check the connection to the registry and try again.`,
    );
  }
  writeFileSync(stamp, lock);
}
