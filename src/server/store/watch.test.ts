import { pino } from 'pino';
import { describe, expect, it } from 'vitest';
import type { Doubt } from './watch.ts';
import { Watch } from './watch.ts';

/** A watch over a database that answers or not, as each look is told; and what it said. */
function watching() {
  const said: (boolean | string)[] = [];
  let answers = true;
  const watch = new Watch({
    ask: () => (answers ? Promise.resolve() : Promise.reject(new Error('late'))),
    settle: ({ action }) => Promise.resolve(void said.push(action.id)),
    log: pino({ enabled: false }),
    onUp: (up) => said.push(up),
  });
  const look = async (...all: boolean[]) => {
    for (answers of all) await watch.look();
  };
  return { watch, said, look };
}
const doubt = { action: { id: 'a' }, undo: { edits: [] }, settled: Promise.resolve() } as unknown as Doubt;

describe('the watch over the database', () => {
  it.each<[string, boolean[], (boolean | string)[]]>([
    ['one late answer alarms nobody', [true, false, true, false, true], []],
    ['two in a row do, once', [false, false, false], [false]],
    ['it is there again with the first answer', [false, false, true, true], [false, true]],
    ['and then one late answer is one again', [false, false, true, false], [false, true]],
  ])('%s', async (_, looks, expected) => {
    const { said, look } = watching();
    await look(...looks);
    expect(said).toEqual(expected);
  });

  it('says at once that a commit got no answer, and settles it before it says that all is well', async () => {
    const { watch, said, look } = watching();
    watch.lost(doubt);
    expect(watch.ok).toBe(false);
    await look(false, true);
    expect(said).toEqual([false, 'a', true]);
    expect(watch.ok).toBe(true);
  });
});
