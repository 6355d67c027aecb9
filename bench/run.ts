import { action } from './action.ts';
import { conformance } from './conformance.ts';
import { changing, decoding, scriptSize } from './core.ts';
import { boardAgainstSignals, largeDocument, leaders, untouched } from './data.ts';
import { joining } from './joining.ts';
import { key } from './key.ts';
import { killed } from './kill.ts';
import { latency } from './latency.ts';
import { layoutChanged } from './layout.ts';
import { motion } from './motion.ts';
import { nasty } from './nasty.ts';
import { slowLine } from './slow.ts';
import { soak } from './soak.ts';
import { holds, table, type Figure } from './stats.ts';
import { tapes } from './tape.ts';
import { together } from './together.ts';
import { venue } from './venue.ts';
import { workshop } from './workshop.ts';

const MEASURES: Record<string, () => Figure[] | Promise<Figure[]>> = {
  action,
  latency,
  decoding,
  changing,
  boardAgainstSignals,
  leaders,
  largeDocument,
  tapes,
  scriptSize,
  conformance,
  nasty,
  joining,
  untouched,
  layoutChanged,
  killed,
  slowLine,
  workshop,
  together,
  key,
  venue,
  motion,
  soak,
};

/** Takes every measure, or those named; prints a table and JSON; gives 1 when a bound does not hold. */
export async function run(only: readonly string[] = []): Promise<number> {
  const figures: Figure[] = [];
  for (const [name, measure] of Object.entries(MEASURES))
    if (only.length === 0 || only.includes(name)) figures.push(...(await measure()));
  console.log(table(figures));
  console.log(JSON.stringify(figures, null, 1));
  return figures.every(holds) ? 0 : 1;
}
