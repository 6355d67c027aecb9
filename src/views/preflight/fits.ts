import { useEffect, useState } from 'react';
import { fitKey } from '../../core/show/findings.ts';
import { layoutFor } from '../../core/show/layout.ts';
import { Resolver } from '../../core/resolve/resolver.ts';
import { facesOf } from '../../core/text/families.ts';
import { misfits } from '../../core/text/fit.ts';
import { fontsReady, Stage } from '../../stage/stage.ts';
import type { Desk, Prepared } from '../shared/desk.ts';
import { layoutsUsed } from '../shared/layouts-used.ts';
import { showAlone } from '../shared/own-stage.ts';

/** What a stage says of every item in each of its zones, drawn unseen, a few in each frame; null until all are drawn. */
export function useFits(desk: Desk, snapshot: Prepared): ReadonlyMap<string, readonly string[]> | null {
  const { item: items, template: templates, output: outputs } = snapshot.documents;
  const [fits, setFits] = useState<ReadonlyMap<string, readonly string[]> | null>(null);
  useEffect(() => {
    let gone = false;
    const root = document.createElement('div');
    Object.assign(root.style, { position: 'fixed', left: '-20000px', top: '0', visibility: 'hidden' });
    document.body.append(root);
    let stage: Stage | null = null;
    const all = async () => {
      await fontsReady(facesOf(layoutsUsed(snapshot)));
      if (gone) return;
      stage = new Stage(root, desk.link.serverNow);
      const resolver = new Resolver(desk, desk.picture);
      const found = new Map<string, readonly string[]>();
      for (const item of items) {
        const template = templates.find((t) => t.key === item.template);
        for (const place of template ? item.zones : []) {
          const output = outputs.find((o) => o.key === place.output);
          const zone = output?.zones.find((z) => z.key === place.zone);
          if (!output || !zone) continue;
          const shown = {
            name: item.key,
            layout: layoutFor(template!, zone),
            inputs: item.inputs,
            size: zone,
          };
          showAlone(stage, resolver, shown);
          found.set(fitKey(item.key, place), misfits(stage.fits(), output.height));
          // The page goes on meanwhile.
          await new Promise((next) => requestAnimationFrame(next));
          if (gone) return;
        }
      }
      setFits(found);
    };
    void all();
    return () => {
      gone = true;
      stage?.destroy();
      root.remove();
    };
    // Items and what they are drawn by; the board's values change all the time and are looked at by the other checks.
    // oxlint-disable-next-line react/exhaustive-deps
  }, [desk, items, templates, outputs]);
  return fits;
}
