import { expect, test, worldForFile } from './support/test.ts';
import type { AirItem, AirSnapshot } from '../src/core/wire/wire.ts';
import { snapshot } from './support/snapshot.ts';
import { openStage } from './support/stage-page.ts';

const world = worldForFile({ sim: false });

test('the next take of a template is prepared, and looks as one that was not', async ({ page }) => {
  const items: AirItem[] = [];
  for (const key of ['captain', 'goalkeeper', 'welcome', 'card-7', 'card-30', 'captain']) {
    await world.act({ kind: 'take', item: key });
    const { items: onAir } = await snapshot<AirSnapshot>(world, 'air:broadcast');
    items.push(onAir.find((i) => i.item === key)!);
  }
  // A form of its own, as after the template was edited: what was prepared by the older one is of no use.
  const [first] = items as [AirItem];
  items.push({
    ...first,
    layout: { ...first.layout, layers: first.layout.layers.map((l) => ({ ...l, x: 40 })) },
  });
  await openStage(page, first);
  const [plain, prepared] = await page.evaluate(async (given) => {
    const { Stage } = (
      window as unknown as { foothill: { Stage: typeof import('../src/stage/stage.ts').Stage } }
    ).foothill;
    // What is written in which order, and the number of a shape that fades, is not seen.
    const saidOf = (e: Element) => {
      const attributes = [...e.attributes].map(({ name, value }) =>
        name === 'style' ? value.split(/; ?/).sort().join('; ') : `${name}=${value}`,
      );
      const text = e.children.length ? '' : e.textContent;
      return `${e.tagName} ${attributes.sort().join(' ')} ${text}`.replaceAll(/fade\d+/g, 'fade');
    };
    const drawn = async (prepares: boolean) => {
      const root = document.body.appendChild(document.createElement('div'));
      const stage = new Stage(root, () => 0, undefined, prepares);
      const pictures: string[] = [];
      for (const item of given) {
        stage.take(item, false);
        await stage.ready();
        pictures.push([...root.querySelectorAll('*')].map(saidOf).join('\n'));
        // Until nothing is left to do: what was asked for before comes first.
        await new Promise((done) => requestIdleCallback(done));
        stage.clear(item.mount, false);
      }
      const { spares } = stage as unknown as { spares: { ready: Map<string, object> } };
      return { pictures, spares: [...spares.ready.keys()] };
    };
    return [await drawn(false), await drawn(true)];
  }, items);
  expect(prepared!.spares).toContain(`${first.template}/${first.layout.key}`);
  expect(plain!.spares).toEqual([]);
  expect(new Set(plain!.pictures).size).toBe(6);
  expect(prepared!.pictures).toEqual(plain!.pictures);
});
