/**
 * How Debian's headless Chromium is started here: without asking anything of the network, with letters as wide as on a screen
 * (it has them on whole pixels otherwise). The headless shell is Chromium without its windows, which nobody sees here and which
 * take half of a page's processor.
 */
export const chromiumOptions = {
  executablePath: '/usr/bin/chromium-headless-shell',
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    '--no-first-run',
    '--font-render-hinting=none',
  ],
};
