import { Each } from '../document/check.ts';
import { readDocument } from '../document/upgrade.ts';
import { Count, Is, Key, Name, Whole } from '../document/rules.ts';
import type { Parsed } from '../document/problems.ts';
import type { Output } from './show.ts';

class Zone {
  @Key() key!: string;
  @Name() name!: string;
  @Whole(-20_000, 20_000) x!: number;
  @Whole(-20_000, 20_000) y!: number;
  @Whole(1, 20_000) width!: number;
  @Whole(1, 20_000) height!: number;
}
class OutputDoc implements Output {
  @Is(1) schema!: 1;
  @Key() key!: string;
  @Name() name!: string;
  @Whole(1, 20_000) width!: number;
  @Whole(1, 20_000) height!: number;
  @Count(1, 1000, 'an output needs at least one zone') @Each(() => Zone) zones!: Zone[];
}

/** Reads an output; refuses one with two zones of one key. */
export function parseOutput(input: unknown): Parsed<Output> {
  return readDocument<Output>(OutputDoc, [], input, ({ zones }) => {
    const keys = new Set(zones.map((z) => z.key));
    return keys.size === zones.length ? [] : ['zones: two zones have the same key'];
  });
}
