import type { ActionBody } from '../actions/actions.ts';
import type { Derived } from '../derive/derived.ts';
import type { Documents } from '../documents/kinds.ts';
import type { SourceBundle } from '../source/source.ts';
import type { DeskTable, OpenPage, SourceState } from '../wire/wire.ts';
import type { Lane } from './show.ts';

/** How bad it is: seen wrong now, wrong or impossible when it is taken, or worth a look. The worst first. */
export const SEVERITIES = ['now', 'taken', 'look'] as const;
export type Severity = (typeof SEVERITIES)[number];

/** One step to what mends something: a place to go to, or an action. */
export type Fix = { label: string } & ({ href: string } | { act: ActionBody });

/** Something that would embarrass. */
export interface Finding {
  /** Names it among all others, whatever it says. */
  key: string;
  severity: Severity;
  /** What it is about. */
  subject: string;
  /** What is wrong, in a sentence. */
  text: string;
  fix: Fix;
}

/** What is looked at. */
export interface PreflightScope {
  documents: {
    [K in 'item' | 'template' | 'output' | 'trigger' | 'look' | 'rundown']: readonly Documents[K][];
  };
  derived: readonly { doc: Derived }[];
  /** What is wrong with a derivation, by its key. */
  problems: Readonly<Record<string, string>>;
  lanes: readonly Lane[];
  sources: readonly SourceState[];
  bundles: readonly SourceBundle[];
  tables: readonly DeskTable[];
  pages: readonly OpenPage[];
  gone: readonly OpenPage[];
  cards: readonly string[];
  rehearsal: object | null;
  unread: readonly { kind: string; name: string }[];
  database: { ok: boolean };
  /** What is left of the disk that all is kept on, in bytes; null while that is not known. */
  disk: number | null;
  /** What a stage said of an item in a zone, by `fitKey`: texts that are cut or too small. */
  fits: ReadonlyMap<string, readonly string[]>;
}
