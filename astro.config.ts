import { defineConfig } from 'astro/config';
import node from '@astrojs/node';
import react from '@astrojs/react';
import optimizeLocales from '@react-aria/optimize-locales-plugin';
import { DIRECTIVES } from './src/server/http/policy.ts';

// Pages are served by our own HTTP server (src/server/main.ts), which also holds the sockets; Astro is
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
    build: { assetsInlineLimit: 0 },
    plugins: [optimizeLocales.vite({ locales: ['en-US'] }) as never],
  },
});
