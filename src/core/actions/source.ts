import { isRecord } from '../board/own.ts';
import { Maybe, Must, OneOf, Whole } from '../document/rules.ts';
import { parseBundle } from '../source/bundle.ts';
import { withoutSecret, type SourceBundle } from '../source/source.ts';
import { action, refuse } from './action.ts';
import { ActionRequest } from './request.ts';
import { bundleEdits, reconciled, refuseOverParts } from './saving.ts';
import type { Situation } from './situation.ts';

class SourceRequest extends ActionRequest {
  @OneOf('source') kind!: 'source';
  /** A source with its map and patch. */
  @Must('object', isRecord, 'must be an object') bundle!: SourceBundle;
  /** The revision that it was made from; 0 for a new one. Without it, what stands is replaced. */
  @Maybe() @Whole(0, 1e9) revision?: number;
}

/** The key of a source that is not read yet. */
const keyIn = (bundle: object) => String((bundle as Partial<SourceBundle>).source?.key ?? '');

/** Refuses while the rehearsal reads by the maps of its tape: what is saved would have no effect that is seen. */
export function refuseInRehearsal({ deck }: Pick<Situation, 'deck'>): void {
  if (deck.playing?.maps === 'tape')
    refuse('The rehearsal reads by the maps that are on the tape. End it before you change a source.');
}

/** Saves a source with its map and patch. */
export const source = action({
  request: SourceRequest,
  role: 'connect',
  prepare: ({ versions }, { bundle, revision }) => versions.fetch('source', keyIn(bundle), revision),
  decide: (now, request) => {
    refuseInRehearsal(now);
    refuseOverParts(now.world, keyIn(request.bundle));
    const mine = readBundle(request.bundle);
    const known = now.sources.bundle(mine.source.key) ?? null;
    const at = { kind: 'source', key: mine.source.key, revision: request.revision };
    const both = reconciled(now, at, mine, known && withoutSecret(known));
    const bundle = now.secrets.fill(both === mine ? mine : readBundle(both));
    refuseOthers(now, bundle, known);
    return { change: { edits: bundleEdits(known, bundle) } };
  },
  versionsByChange: () => true,
  sentence: (_, { bundle }) => `Saved the source ${bundle.source.name}`,
});

function readBundle(input: object): SourceBundle {
  const parsed = parseBundle(input);
  return parsed.ok ? parsed.value : refuse(`This source cannot be saved: ${parsed.problems.join('; ')}.`);
}

/** Refuses what feeds fields that are not there, or what belongs to another source already. */
export function refuseOthers(now: Situation, bundle: SourceBundle, known: SourceBundle | null): void {
  for (const { field } of bundle.patch?.links ?? []) {
    // What another sport has may be fed already; it holds when that sport is played.
    const elsewhere =
      known?.patch?.links.some((l) => l.field === field) ||
      [...now.world.documents.profile.values()].some((p) => p.fields.some((f) => f.key === field));
    if (!now.board.def(field) && !elsewhere) refuse(`The board has no field "${field}".`);
  }
  const others = now.sources.bundles().filter((b) => b.source.key !== bundle.source.key);
  const holder = bundle.map && others.find((b) => b.map?.key === bundle.map!.key);
  if (holder)
    refuse(
      `The frame map "${bundle.map!.key}" belongs to ${holder.source.name} already; give it another key.`,
    );
  for (const { key } of bundle.document?.tables ?? []) {
    const other = others.find((b) => b.document?.tables.some((t) => t.key === key));
    if (other) refuse(`The table "${key}" comes from ${other.source.name} already; give it another key.`);
  }
}
