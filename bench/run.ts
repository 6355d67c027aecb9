import { conformance } from './conformance.ts';
import { changing, decoding, scriptSize } from './core.ts';
import { boardAgainstSignals, largeDocument, leaders } from './data.ts';
import { latency } from './latency.ts';
import { nasty } from './nasty.ts';
import { holds, table } from './stats.ts';
import { tapes } from './tape.ts';

/** Takes every measure; prints a table and JSON; gives 1 when a bound does not hold. */
export async function run(): Promise<number> {
  const figures = [
    ...(await latency()),
    ...decoding(),
    ...changing(),
    ...boardAgainstSignals(),
    ...leaders(),
    ...(await largeDocument()),
    ...(await tapes()),
    ...scriptSize(),
    ...(await conformance()),
    ...(await nasty()),
  ];
  console.log(table(figures));
  console.log(JSON.stringify(figures, null, 1));
  return figures.every(holds) ? 0 : 1;
}
