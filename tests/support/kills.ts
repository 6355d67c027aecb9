import type { AirSnapshot, DeskSnapshot } from '../../src/core/wire/wire.ts';
import { snapshot } from './snapshot.ts';
import { sleep, type World } from './world.ts';

type Kind = 'edit' | 'pin' | 'take';
const ITEMS = ['goalkeeper', 'captain', 'welcome'];
const itemOf = (text: string) => ITEMS[Number(text) % ITEMS.length]!;
const ACTIONS: Record<Kind, (text: string) => Record<string, unknown>> = {
  edit: (line) => ({ kind: 'edit', item: 'blank', inputs: { line } }),
  pin: (text) => ({ kind: 'pin', field: 'home.shots', text: String(Number(text) % 100) }),
  take: (text) => ({ kind: 'take', item: itemOf(text) }),
};
const KINDS = Object.keys(ACTIONS) as Kind[];

/**
 * Kills the engine so often, each time in the midst of work, and starts it again. Gives what does not hold afterwards, each a
 * sentence: what was acknowledged is there, and on air as it was.
 */
export async function killInTheMidst(world: World, rounds: number, random = Math.random): Promise<string[]> {
  const wrong: string[] = [];
  const check = (holds: boolean, sentence: string) => void (holds || wrong.push(sentence));
  // One writer for each thing, so that the newest acknowledged and the one under way are known for each.
  const acked: Record<Kind, string> = { edit: '', pin: '', take: '' };
  const tried: Record<Kind, string[]> = { edit: [], pin: [], take: [] };
  let running = true;
  let count = 0;
  const keep = async (kind: Kind) => {
    while (running) {
      const text = String(++count);
      tried[kind].push(text);
      const answer = await world.act(ACTIONS[kind](text)).catch(() => null);
      if (answer?.ok) {
        acked[kind] = text;
        tried[kind] = [];
      } else await sleep(20);
    }
  };
  let writers = KINDS.map(keep);
  await world.act({ kind: 'pin', field: 'away.score', text: '42' });
  for (let round = 1; round <= rounds; round++) {
    // At whatever moment, but in the midst of work, however fast the machine is.
    const had = world.acknowledged.length;
    while (world.acknowledged.length - had <= 3) await sleep(20);
    await sleep(random() * 300);
    await world.killEngine();
    const before = structuredClone(tried);
    await world.startEngine();
    running = false;
    await Promise.all(writers);
    const desk = await snapshot<DeskSnapshot>(world, 'desk');
    const air = await snapshot<AirSnapshot>(world, 'air:broadcast');
    const field = (key: string) => desk.fields.find((f) => f.key === key)?.pin?.value;
    const lane = desk.lanes.find((l) => l.zone === 'lower')!;
    const onAir = air.items.find((i) => i.zone === 'lower');
    const is: Record<Kind, unknown> = {
      edit: desk.documents.item.find((i) => i.key === 'blank')?.inputs['line'],
      pin: field('home.shots'),
      take: lane.onAir?.item,
    };
    const read: Record<Kind, (text: string) => unknown> = {
      edit: (text) => text,
      pin: (text) => Number(text) % 100,
      take: itemOf,
    };
    for (const kind of KINDS) {
      if (kind === 'take' && !acked.take) continue;
      // The newest acknowledged one holds, or one sent after it whose answer the kill took away.
      const may = [acked[kind], ...tried[kind], ...before[kind]].map(read[kind]);
      check(
        may.includes(is[kind]),
        `After kill ${round} the ${kind} is ${String(is[kind])}, not ${may.join(' or ')}.`,
      );
    }
    check(
      field('away.score') === 42,
      `After kill ${round} the pin of the away score is ${String(field('away.score'))}.`,
    );
    check(
      onAir?.item === lane.onAir?.item,
      `After kill ${round} the air page has ${onAir?.item}, the lane ${lane.onAir?.item}.`,
    );
    check(
      !onAir || onAir.states['name']?.text === lane.onAir?.inputs['name'],
      `After kill ${round} the name on air is ${onAir?.states['name']?.text}.`,
    );
    check(
      air.items.some((i) => i.zone === 'top'),
      `After kill ${round} the scoreboard is not on air.`,
    );
    running = true;
    writers = KINDS.map(keep);
  }
  running = false;
  await Promise.all(writers);
  const logged = new Set(await world.loggedActions());
  for (const id of world.acknowledged)
    check(logged.has(id), `The action ${id} was acknowledged and is lost.`);
  return wrong;
}
