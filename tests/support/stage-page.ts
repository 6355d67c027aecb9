import type { Page } from '@playwright/test';
import { build } from 'esbuild';
import type { Stage } from '../../src/stage/stage.ts';
import type { AirItem } from '../../src/core/wire/wire.ts';

declare global {
  interface Window {
    /** The stage of a page that holds nothing else. */
    stage: Stage;
  }
}

/** A page that holds the stage alone, without a server, with one item on it. */
export async function openStage(page: Page, item: AirItem): Promise<void> {
  const { outputFiles } = await build({
    entryPoints: ['src/stage/stage.ts'],
    bundle: true,
    write: false,
    format: 'iife',
    globalName: 'foothill',
  });
  await page.setContent('<div id="stage"></div>');
  await page.addScriptTag({ content: outputFiles[0]!.text });
  await page.evaluate((first) => {
    const { Stage: Made } = (window as unknown as { foothill: { Stage: typeof Stage } }).foothill;
    window.stage = new Made(document.getElementById('stage')!, Date.now);
    window.stage.show({
      output: { key: 'o', name: 'o', width: 1920, height: 1080, background: {} },
      items: [first],
    } as never);
  }, item);
}
