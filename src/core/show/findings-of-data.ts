import { difference } from '../colour/contrast.ts';
import { needs } from '../derive/derivations.ts';
import type { Documents } from '../documents/kinds.ts';
import type { SourceBundle } from '../source/source.ts';
import { counted } from '../text/words.ts';
import { namesIn } from '../value/value.ts';
import type { Finding, PreflightScope } from './finding.ts';
import type { BoardView } from './preflight.ts';

/** Two sides whose colours differ by less, in Oklab, are taken for one another from the stands. */
const HARDLY_DIFFERENT = 0.1;

/** What of a night is worked out, and what it is worked out from. */
export type OfData = Pick<PreflightScope, 'bundles' | 'tables' | 'derived' | 'problems'> & {
  documents: Pick<PreflightScope['documents'], 'trigger' | 'rundown'>;
};

/** Derived values that fail or read what is not there. */
export const ofDerived = ({ derived, problems }: OfData): Finding[] =>
  derived.flatMap(({ doc: { key, name } }): Finding[] => {
    const problem = problems[key];
    if (!problem) return [];
    const text = /[.!?]$/.test(problem) ? problem : `${problem}.`;
    const fix = { label: 'Data', href: `/data?derived=${encodeURIComponent(key)}` };
    return [{ key: `derived ${key}`, severity: 'taken', subject: name, text, fix }];
  });

/** Triggers that wait for what never happens: nothing that they read is said by a source. */
export function ofTriggers(night: OfData, board: BoardView): Finding[] {
  const said = saidBySources(night.bundles);
  return night.documents.trigger.flatMap((trigger): Finding[] => {
    const why = trigger.on ? whyNever(trigger, night, said, board) : null;
    const fix = { label: 'Live', href: '/live' };
    return why
      ? [{ key: `never ${trigger.key}`, severity: 'taken', subject: trigger.name, text: why, fix }]
      : [];
  });
}

/** The fields and tables that sources in use feed. */
const saidBySources = (bundles: readonly SourceBundle[]): Set<string> =>
  new Set(
    bundles
      .filter((b) => b.source.enabled)
      .flatMap((b) => [
        ...(b.patch?.links.map((l) => l.field) ?? []),
        ...(b.document?.tables.map((t) => t.key) ?? []),
      ]),
  );

function whyNever(
  { when }: Documents['trigger'],
  { derived, tables }: OfData,
  said: ReadonlySet<string>,
  board: BoardView,
): string | null {
  const names = namesIn(when);
  if (names.fields.size + names.tables.size === 0)
    return 'It waits for a value that never changes, so it never takes its item.';
  const missing = [...names.fields].find((key) => !board.def(key));
  if (missing !== undefined) return `It waits for the field "${missing}", which is not there.`;
  const docs = new Map(derived.map(({ doc }) => [doc.key, doc]));
  const known = new Set(tables.map((t) => t.key));
  const seen = new Set<string>();
  /** Whether a source says it, or something that it is worked out from. */
  const speaks = (key: string): boolean => {
    if (seen.has(key)) return false;
    seen.add(key);
    // A clock that runs is a word of the clock.
    if (said.has(key) || said.has(key.replace(/\.running$/, ''))) return true;
    const doc = docs.get(key);
    // What goes round changes by itself.
    if (doc?.what === 'pick' && doc.how.by === 'rotation') return known.has(doc.table);
    return doc !== undefined && [...needs(doc)].some(speaks);
  };
  if ([...names.fields, ...names.tables].some(speaks)) return null;
  const [first] = names.fields;
  const label = first === undefined ? [...names.tables][0]! : (board.def(first)?.label ?? first);
  return `It waits for ${label}, which no source says; what is typed by hand sets nothing off.`;
}

const SIDES = ['home', 'away'] as const;

/** Two sides that cannot be told apart: by their marks, or by their colours. */
export function ofSides(board: BoardView): Finding[] {
  const both = (part: string) =>
    SIDES.map((side) => String(board.stateOf(`${side}.${part}`)?.value ?? '')) as [string, string];
  const one = (key: string, text: string): Finding => ({
    ...{ key: `sides ${key}`, severity: 'look', subject: 'The two sides', text },
    fix: { label: 'Game', href: '/game' },
  });
  const [mark, other] = both('mark');
  const apart = difference(...both('colour'));
  return [
    ...(mark !== '' && mark === other ? [one('marks', 'They have the same mark.')] : []),
    ...(apart !== null && apart < HARDLY_DIFFERENT
      ? [one('colours', `Their colours are ${apart === 0 ? 'the same' : 'hardly different'}.`)]
      : []),
  ];
}

/** Groups of the rundown in which nothing stands: something may be missing. */
export const ofGroups = ({ documents }: OfData): Finding[] =>
  documents.rundown.flatMap(({ groups }) =>
    groups
      .filter((g) => g.items.length === 0)
      .map(({ key, name }): Finding => ({
        ...{ key: `group ${key}`, severity: 'look', subject: name, text: 'No item is in this group.' },
        fix: { label: 'Rundown', href: '/rundown' },
      })),
  );

/** Findings that say the same of several things, as one line. */
export interface Gathered {
  first: Finding;
  /** Those that say the same, the first among them. */
  all: Finding[];
  subject: string;
}

/** As many lines that say the same are one with a number. */
const GATHERED_FROM = 3;

/** Gathers what says the same: where it is said of three things or more they are one line, in the place of the first. */
export function gathered(found: readonly Finding[]): Gathered[] {
  const alike = new Map<string, Finding[]>();
  for (const f of found) {
    const key = `${f.severity} ${f.text}`;
    alike.set(key, [...(alike.get(key) ?? []), f]);
  }
  return [...alike.values()].flatMap((all) =>
    all.length < GATHERED_FROM
      ? all.map((f) => ({ first: f, all: [f], subject: f.subject }))
      : [{ first: all[0]!, all, subject: `${all[0]!.subject} and ${counted(all.length - 1, 'other')}` }],
  );
}
