import { OneOf, Text, Whole } from '../document/rules.ts';
import { SAVED, type SavedKind, DOCUMENT_KINDS } from '../documents/kinds.ts';
import { parseBundle } from '../source/bundle.ts';
import { action, refuse } from './action.ts';
import { edit } from './change.ts';
import { ActionRequest } from './request.ts';
import { bundleEdits } from './saving.ts';
import { refuseInRehearsal, refuseOthers } from './source.ts';

class RestoreVersionRequest extends ActionRequest {
  @OneOf('restore-version') kind!: 'restore-version';
  @OneOf(...SAVED, 'source') what!: SavedKind | 'source';
  @Text(1, 80) key!: string;
  @Whole(1, 1e9) revision!: number;
}

/** Makes a document what one of its versions was, as a new version; one that was deleted comes back. */
export const restoreVersion = action({
  request: RestoreVersionRequest,
  role: 'prepare',
  prepare: ({ versions }, { what, key, revision }) => versions.fetch(what, key, revision),
  decide: (now, { what, key, revision }) => {
    const doc = now.versions.base(what, key, revision) ?? refuse(`There is no version ${revision} of it.`);
    if (what === 'source') {
      refuseInRehearsal(now);
      const read = parseBundle(doc);
      if (!read.ok) return refuse(`This version cannot be used: ${read.problems.join('; ')}.`);
      const known = now.sources.bundle(key) ?? null;
      const bundle = now.secrets.fill(read.value);
      refuseOthers(now, bundle, known);
      return { change: { edits: bundleEdits(known, bundle) } };
    }
    const read = DOCUMENT_KINDS[what].parse(doc);
    if (!read.ok) return refuse(`This version cannot be used: ${read.problems.join('; ')}.`);
    const current = now.world.documents[what].get(key) ?? null;
    return { change: { edits: [edit(what, key, current, read.value)] } };
  },
  sentence: (_, { what, key, revision }) =>
    `Restored version ${revision} of the ${DOCUMENT_KINDS[what].word} ${key}`,
});
