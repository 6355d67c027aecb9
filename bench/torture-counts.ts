import { sleep, type World } from '../tests/support/world.ts';

/** What was done to it. */
export interface Counts {
  kills: number;
  actions: number;
  acknowledged: number;
  /** How often the database was away. */
  away: number;
  /** How often the database's disk was full, and how often the database died of that and was started again. */
  full: number;
  revived: number;
  /** Frames of a flooding line. */
  flooded: number;
  thrown: number;
  /** Answers that were failures of its own. */
  broken: string[];
  /** The longest start after a kill, in ms. */
  slowest: number;
}

/** What does not hold at the end, each a sentence: it answers, and what was acknowledged is there. */
export async function expectAll(world: World, { acknowledged }: Counts): Promise<string[]> {
  const wrong: string[] = [];
  let well = false;
  for (let tries = 0; tries < 100 && !well; tries++) {
    well = (await fetch(`${world.url}/healthz`).catch(() => null))?.status === 200;
    if (!well) await sleep(100);
  }
  if (!well) wrong.push('It does not answer any more.');
  const logged = new Set(await world.loggedActions());
  for (const id of world.acknowledged)
    if (!logged.has(id)) wrong.push(`The action ${id} was acknowledged and is lost.`);
  if (acknowledged === 0) wrong.push('Nothing was acknowledged at all.');
  return wrong;
}
