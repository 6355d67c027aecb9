import { defineConfig } from 'astro/config';
import node from '@astrojs/node';
import react from '@astrojs/react';
import optimizeLocales from '@react-aria/optimize-locales-plugin';
import { DIRECTIVES } from './src/server/http/policy.ts';

const BASE =
  /\/(interactions|utils|focus|i18n|live-announcer|label|visually-hidden|ssr|flags|form)\/|\/@?internationalized\/|ariaHideOutside/;
const LISTS = /\/(listbox|selection|collections?|list)\/|\/(ListBox|Collection|CollectionBuilder)\.m?js/;

/** Which file a part goes into, for some; all others go where the bundler finds best. */
function fileOf(id: string): string | undefined {
  if (/\/src\/(ui|views\/shared)\/.*\.module\.css/.test(id)) return 'desk';
  if (/node_modules\/(react|react-dom|scheduler|use-sync-external-store)\//.test(id)) return 'react';
  if (!/node_modules\/(react-aria|react-stately|react-aria-components|@internationalized)\//.test(id)) return;
  if (BASE.test(id)) return 'aria';
  if (LISTS.test(id)) return 'lists';
  return undefined;
}

/**
 * The adapter follows each request through all promises, only to name its address beside a rejection that nobody handled. In this
 * Node that slows down every promise of the whole engine for good, so it is left out.
 */
const withoutAsyncHooks = {
  name: 'without-async-hooks',
  enforce: 'pre' as const,
  transform: (code: string, id: string) =>
    /@astrojs\/node\/dist\/serve-app\.js/.test(id)
      ? code.replace(
          /import \{ AsyncLocalStorage \} from ["']node:async_hooks["'];/,
          'class AsyncLocalStorage { run(_store, work, ...args) { return work(...args); } getStore() {} }',
        )
      : undefined,
};

// Pages are served by our own HTTP server (src/server/http), which also holds the sockets; Astro is
// a middleware in it. Origin checks are made there too, for every write and every socket alike.
export default defineConfig({
  output: 'server',
  adapter: node({ mode: 'middleware' }),
  integrations: [react()],
  outDir: './dist/astro',
  security: { checkOrigin: false },
  devToolbar: { enabled: false },
  experimental: { csp: { directives: [...DIRECTIVES] } },
  // Foothill speaks English; the words of other languages that come with the headless components stay out.
  vite: {
    build: {
      assetsInlineLimit: 0,
      reportCompressedSize: false,
      // A slow line pays for each file: what all desks look like is one, what all of react-aria stands on, and its lists.
      rollupOptions: { output: { manualChunks: fileOf } },
    },
    plugins: [withoutAsyncHooks, optimizeLocales.vite({ locales: ['en-US'] }) as never],
  },
});
