import { readFileSync, renameSync, writeFileSync } from 'node:fs';
import { Each, readAs } from '../../core/document/check.ts';
import { Count, Text, Whole } from '../../core/document/rules.ts';
import { machineTime } from '../scheduler.ts';
import type { Hub } from './hub.ts';
import { NAMED_FOR } from './open-pages.ts';

class Kept {
  @Text(1, 80) output!: string;
  @Text(1, 20) as!: string;
  @Text(1, 60) from!: string;
}

class KeptPages {
  /** When it was written, server ms. */
  @Whole(0, Number.MAX_SAFE_INTEGER) at!: number;
  @Count(0, 1000) @Each(() => Kept) pages!: Kept[];
}

/** How often what is open is looked at, ms, and how often it is written where it is the same. */
const LOOK_EVERY = 5000;
const WRITE_EVERY = 60_000;

/**
 * Keeps which pages of outputs are open in a file, so that one that does not come back after a restart, of this program or of
 * the whole venue, is missed. What was written too long ago, or cannot be read, is of another night. Gives what ends it.
 */
export function keepPages(hub: Hub, file: string, scheduler = machineTime): () => void {
  let written = { text: '', at: 0 };
  const start = scheduler.now();
  try {
    const kept = readAs(KeptPages, JSON.parse(readFileSync(file, 'utf8')));
    if (kept.ok && start - kept.value.at < NAMED_FOR) hub.expect(kept.value.pages);
  } catch {
    // There is none yet.
  }
  const write = () => {
    const at = Math.round(scheduler.now());
    const pages = hub.wanted(at).map(({ output, as, from }) => ({ output, as, from }));
    const text = JSON.stringify(pages);
    if (text === written.text && at - written.at < WRITE_EVERY) return;
    try {
      // Whole or not at all, whenever the power goes.
      writeFileSync(`${file}.new`, JSON.stringify({ at, pages }));
      renameSync(`${file}.new`, file);
      written = { text, at };
    } catch {
      // On a full disk it is tried again; nobody waits for it.
    }
  };
  const timer = scheduler.setInterval(write, LOOK_EVERY);
  return () => {
    scheduler.clear(timer);
    write();
  };
}
