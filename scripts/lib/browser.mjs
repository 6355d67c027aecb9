import { join } from 'node:path';
import { home } from './settings.mjs';

/** How Debian's Chromium is started here: without a display's help, and without asking anything of the network. */
export const chromiumOptions = {
  executablePath: join(home, 'scripts/lib/chromium.sh'),
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    '--no-first-run',
  ],
};
