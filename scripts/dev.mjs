// The demo, rebuilt as one saves: pages and views come fresh from Vite, the engine and the simulators are bundled anew and start
// again over the same data. What a page shows goes on when they are back. Ctrl-C ends everything.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { ensureNpm } from './lib/packages.mjs';
import { runningPid } from './lib/processes.mjs';
import { fail, say } from './lib/say.mjs';
import { home, portTaken, readSettings } from './lib/settings.mjs';

const { data, port, host } = readSettings();
/** The engine stands behind the pages' server, on the second port after the database's. */
const enginePort = port + 6;
const engine = `http://127.0.0.1:${enginePort}`;

ensureNpm();
if (await portTaken(port, host))
  fail(`port ${port} is in use by another program. Stop it, or set FOOTHILL_PORT to a free port.`);

const demo = spawn(process.execPath, [join(home, 'scripts/start.mjs'), '--demo'], {
  cwd: home,
  env: { ...process.env, FOOTHILL_HOST: '127.0.0.1', FOOTHILL_PORT: String(enginePort) },
  stdio: ['ignore', 'pipe', 'inherit'],
});
demo.once('exit', (code) => process.exit(code ?? 1));
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => demo.kill('SIGTERM'));
await new Promise((ready) => {
  let text = '';
  demo.stdout.on('data', (part) => {
    text += part;
    if (/^ready /m.test(text)) ready();
    else process.stdout.write(part);
  });
});

/** Starts a program anew: whoever keeps it running does so as soon as it ends. */
const again = (name) => {
  const pid = runningPid(join(data, 'run', `${name}.pid`), join(home, 'dist'));
  if (pid) process.kill(pid, 'SIGTERM');
};
const { context } = await import('esbuild');
const { programs } = await import('./build.mjs');
for (const [i, name] of ['engine', 'simulators'].entries()) {
  let first = true;
  const restart = {
    name: 'restart',
    setup: (it) =>
      it.onEnd(({ errors }) => {
        if (!first && errors.length === 0) {
          say(`the ${name} changed`);
          again(name);
        }
        first = false;
      }),
  };
  const watched = await context({ ...programs[i], plugins: [...(programs[i].plugins ?? []), restart] });
  await watched.watch();
}

// Nothing is asked of the network.
process.env.ASTRO_DISABLE_UPDATE_CHECK = 'true';
process.env.ASTRO_TELEMETRY_DISABLED = '1';
const { dev } = await import('astro');
const pages = await dev({
  root: home,
  logLevel: 'warn',
  server: { port, host },
  integrations: [
    {
      name: 'engine-of-the-demo',
      hooks: {
        'astro:config:setup': ({ addMiddleware }) =>
          addMiddleware({ order: 'pre', entrypoint: new URL('./dev-pages.mjs', import.meta.url) }),
      },
    },
  ],
  vite: {
    define: { 'process.env.FOOTHILL_ENGINE': JSON.stringify(engine) },
    server: {
      strictPort: true,
      // What the engine answers; a page of Vite's is one of the engine's own to it.
      proxy: {
        '^/(api|state|socket|healthz|media/.+|tapes/.+)(/|\\?|$)': {
          target: engine,
          changeOrigin: true,
          ws: true,
          headers: { origin: engine },
        },
      },
    },
  },
});
say(`pages and views as they are saved: http://127.0.0.1:${pages.address.port}/live`);
