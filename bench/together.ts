import { chromium, type Page } from '@playwright/test';
import { chromiumOptions } from '../scripts/lib/browser.mjs';
import { snapshot } from '../tests/support/snapshot.ts';
import { sleep, World } from '../tests/support/world.ts';
import { median, quantile, type Figure } from './stats.ts';

const TAKES = 100;
const LEAD = 150;

interface Desk {
  documents: { output: { key: string }[] };
  revisions: Record<string, number>;
}
type Watching = { seen: number[] };

/** Writes down, in the page, when an item came into the picture. */
const watch = (page: Page) =>
  page.evaluate(() => {
    const seen: number[] = ((window as unknown as Watching).seen = []);
    new MutationObserver((changes) => {
      for (const { addedNodes } of changes)
        for (const node of addedNodes)
          if ((node as Element).getAttribute?.('data-item') === 'captain')
            seen.push(performance.timeOrigin + performance.now());
    }).observe(document.getElementById('stage')!, { childList: true });
  });

/** How far apart two pages of one output, each in a browser of its own, show a take: without a lead, and with one. */
export async function together(): Promise<Figure[]> {
  const world = await World.start();
  const browsers = await Promise.all([chromium.launch(chromiumOptions), chromium.launch(chromiumOptions)]);
  try {
    const { documents, revisions } = await snapshot<Desk>(world, 'desk');
    const broadcast = documents.output.find((o) => o.key === 'broadcast')!;
    let revision = revisions['output/broadcast']!;
    const pages = await Promise.all(browsers.map((b) => b.newPage()));
    for (const page of pages) await page.goto(`${world.url}/air/broadcast`);
    // Their clocks are measured once a second.
    await sleep(8000);
    const apart = async (lead: number) => {
      const body = { ...broadcast, lead };
      await world.act({ kind: 'put-document', what: 'output', body, revision: revision++ });
      for (const page of pages) await watch(page);
      for (let i = 0; i < TAKES; i++) {
        await world.act({ kind: 'take', item: 'captain' });
        await sleep(lead + 60);
        await world.act({ kind: 'clear', output: 'broadcast', zone: 'lower' });
        await sleep(lead + 60);
      }
      const [a, b] = await Promise.all(
        pages.map((p) => p.evaluate(() => (window as unknown as Watching).seen)),
      );
      if (a!.length !== TAKES || b!.length !== TAKES) throw new Error('a take was not seen');
      return a!.map((at, i) => Math.abs(at - b![i]!));
    };
    const without = await apart(0);
    const withLead = await apart(LEAD);
    const figure = (name: string, all: number[]): Figure => ({
      name,
      value: median(all),
      p99: quantile(all, 0.99),
      unit: 'ms',
    });
    return [
      figure('Two pages apart at a take, no lead', without),
      figure(`Two pages apart at a take, lead ${LEAD} ms`, withLead),
      {
        name: 'Takes with a lead within one frame (17 ms) in both pages',
        value: (100 * withLead.filter((ms) => ms <= 17).length) / withLead.length,
        unit: '%',
        bound: { least: 99 },
      },
    ];
  } finally {
    for (const browser of browsers) await browser.close();
    await world.stop();
  }
}
