import { byWord, Each, One } from '../document/check.ts';
import { readDocument } from '../document/upgrade.ts';
import { Colour, Count, Is, Key, Name, OneOf, Text, Whole, YesNo } from '../document/rules.ts';
import type { Parsed } from '../document/problems.ts';
import { LETTERS, type Background, type Output } from './show.ts';
import { MOST_PLACE } from './order.ts';
import { FARTHEST, MOST_LEAD, MOST_SIDE } from './zones.ts';

class Zone {
  @Key() key!: string;
  @Name() name!: string;
  @Whole(-FARTHEST, FARTHEST) x!: number;
  @Whole(-FARTHEST, FARTHEST) y!: number;
  @Whole(1, FARTHEST) width!: number;
  @Whole(1, FARTHEST) height!: number;
  @OneOf('', ...LETTERS) letter = '';
}

class Plain {
  @OneOf('transparent', 'camera') kind!: 'transparent' | 'camera';
}
class OfColour {
  @Is('colour') kind!: 'colour';
  @Colour() colour!: string;
}
class OfMedia {
  @Is('media') kind!: 'media';
  @Text(1, 300) path!: string;
}
const BACKGROUNDS = byWord<Background>('kind', {
  transparent: Plain,
  camera: Plain,
  colour: OfColour,
  media: OfMedia,
});

class OutputDoc implements Output {
  @Is(5) schema!: 5;
  @Key() key!: string;
  @Name() name!: string;
  @Whole(0, MOST_PLACE) place!: number;
  @Whole(1, MOST_SIDE) width!: number;
  @Whole(1, MOST_SIDE) height!: number;
  @Whole(0, MOST_LEAD) lead!: number;
  @YesNo() venue!: boolean;
  @One(() => BACKGROUNDS) background!: Background;
  @Count(1, 1000, 'an output needs at least one zone') @Each(() => Zone) zones!: Zone[];
}

/** Version 2 has a background, version 3 a lead, version 4 says whether it is a board in the venue, version 5 where it stands. */
const STEPS = [
  (doc: object) => ({ ...doc, background: { kind: 'transparent' } }),
  (doc: object) => ({ ...doc, lead: 0 }),
  (doc: object) => ({ ...doc, venue: false }),
  (doc: object) => ({ ...doc, place: 0 }),
];

/** Reads an output; refuses one with two zones of one key. */
export function parseOutput(input: unknown): Parsed<Output> {
  return readDocument<Output>(OutputDoc, STEPS, input, ({ zones }) => {
    const keys = new Set(zones.map((z) => z.key));
    return keys.size === zones.length ? [] : ['zones: two zones have the same key'];
  });
}
