import { defineConfig } from 'astro/config';
import node from '@astrojs/node';
import react from '@astrojs/react';

// Pages are served by our own HTTP server (src/server/main.ts), which also holds the sockets; Astro is
// a middleware in it. Origin checks are made there too, for every write and every socket alike.
export default defineConfig({
  output: 'server',
  adapter: node({ mode: 'middleware' }),
  integrations: [react()],
  outDir: './dist/astro',
  security: { checkOrigin: false },
  devToolbar: { enabled: false },
  vite: { build: { assetsInlineLimit: 0 } },
});
