import { Each } from '../document/check.ts';
import { readDocument } from '../document/upgrade.ts';
import { Count, Is, isText, Key, ListOf, Maybe, Must, Name, OneOf, Whole } from '../document/rules.ts';
import type { Parsed } from '../document/problems.ts';
import { sharedIds } from '../decode/reading-id.ts';
import { parsePlace } from './place.ts';

const IsPlace = () =>
  Must(
    'place',
    (v) => typeof v === 'string' && v.length <= 400 && parsePlace(v) !== null,
    "is not a place such as /stats/team[@side='home']/@score",
  );

const TYPES = ['text', 'number', 'clock', 'flag'] as const;
/** What a plain value is read as. `text` keeps its form: `.317` and `007` stay as they are written. */
export type DocType = (typeof TYPES)[number];

/** A value of the document under a name: a reading, or a column of a table. */
export class DocReading {
  /** What links know it by, though it be renamed; its name where nothing is said. */
  @Maybe() @Name() id?: string;
  @Name() name!: string;
  @IsPlace() place!: string;
  @OneOf(...TYPES) as!: DocType;
}

export class DocTable {
  /** Its key on the board. */
  @Key() key!: string;
  @Name() name!: string;
  /** The place of its rows: an element that repeats. */
  @IsPlace() rows!: string;
  @Count(1, 100) @Each(() => DocReading) columns!: DocReading[];
  /** The columns that tell rows apart. */
  @Count(1, 4) @ListOf((v) => isText(v, 80), 'must be names of columns') keyed!: string[];
  /** What becomes of it when a document has no rows for it: its last rows stay, or it is empty. */
  @Maybe() @OneOf('keep', 'clear') whenEmpty?: 'keep' | 'clear';
  /** Rows beyond this many are left out. */
  @Whole(1, 5000) limit = 2000;
}

/** The description of a document: which places make which reading, which elements make the rows of which table. */
export class DocMap {
  @Is(1) schema!: 1;
  @Key() key!: string;
  /** In which row of a sheet the headings stand, counted from 1; 0 for none, found by itself where it is not said. */
  @Maybe() @Whole(0, 1000) heading?: number;
  /** How its numbers are written; with a point where nothing is said. */
  @Maybe() @OneOf('point', 'comma') numbers?: 'point' | 'comma';
  @Count(0, 400) @Each(() => DocReading) readings!: DocReading[];
  @Count(0, 40) @Each(() => DocTable) tables!: DocTable[];
}

function twice(names: readonly string[], what: string): string[] {
  return names.filter((n, i) => names.indexOf(n) !== i).map((n) => `${what}: "${n}" is there twice`);
}

/** Reads a document map; refuses names that are there twice and a key column that the table lacks. */
export function parseDocMap(input: unknown): Parsed<DocMap> {
  return readDocument(DocMap, [], input, (map) => [
    ...twice(
      map.readings.map((r) => r.name),
      'readings',
    ),
    ...sharedIds(map.readings),
    ...twice(
      map.tables.map((t) => t.key),
      'tables',
    ),
    ...map.tables.flatMap((t) => {
      const names = t.columns.map((c) => c.name);
      return [
        ...twice(names, `tables.${t.key}.columns`),
        ...t.keyed
          .filter((k) => !names.includes(k))
          .map((k) => `tables.${t.key}: the key "${k}" is not one of its columns`),
      ];
    }),
  ]);
}
