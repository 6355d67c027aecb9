import { isRecord } from '../board/own.ts';
import type { DerivedDoc } from '../derive/derived.ts';
import { Maybe, Must, OneOf, Text, Whole } from '../document/rules.ts';
import {
  DOCUMENT_KINDS,
  nameOfDocument,
  SAVED,
  type Documents,
  type KindDef,
  type SavedKind,
} from '../documents/kinds.ts';
import { action, refuse } from './action.ts';
import { renumbered, type Game } from '../show/game.ts';
import { edit, type Edit } from './change.ts';
import { ActionRequest } from './request.ts';
import { reconciled, refuseOver } from './saving.ts';
import type { Situation } from './situation.ts';

class PutDocumentRequest extends ActionRequest {
  @OneOf('put-document') kind!: 'put-document';
  @OneOf(...SAVED) what!: SavedKind;
  @Must('object', isRecord, 'must be an object') body!: { key: string };
  /** The revision that it was made from; 0 for a new one. Without it, what stands is replaced. */
  @Maybe() @Whole(0, 1e9) revision?: number;
  /** What this version is called, to be found again among all that were saved. */
  @Maybe() @Text(1, 80) called?: string;
}

/** Saves a document of a kind that is saved one by one. */
export const putDocument = action({
  request: PutDocumentRequest,
  role: 'prepare',
  // A template is saved after each pause of whoever draws: that is one entry until something else is done.
  entry: ({ what, body, called }) => (what === 'template' && !called ? `template ${body.key}` : null),
  prepare: ({ versions }, { what, body, revision }) => versions.fetch(what, body.key, revision),
  decide: (now, request) => {
    const { what, revision } = request;
    const mine = readBody(what, request.body);
    const { key } = mine;
    refuseOver(now.world, what, key);
    const theirs = now.world.documents[what].get(key) ?? null;
    const both = reconciled<object>(now, { kind: what, key, revision }, mine, theirs);
    const body = both === mine ? mine : readBody(what, both);
    const { needs } = DOCUMENT_KINDS[what] as KindDef<object>;
    for (const need of needs(body))
      if (!now.world.documents[need.kind].has(need.key))
        refuse(`There is no ${DOCUMENT_KINDS[need.kind].word} "${need.key}".`);
    if (what === 'derived') refuseDerived(now, body as DerivedDoc);
    const edits = [edit(what, key, theirs, body)];
    if (what === 'game' && theirs && now.world.game?.key === key)
      edits.push(...followed(now, renumbered(theirs as Game, body as Game)));
    return { change: { edits } };
  },
  sentence: (_, { what, body, called }) => {
    const name = nameOfDocument(what, body as never);
    return called ? `Named ${name} “${called}”` : `Saved ${name}`;
  },
});

/** Picks of a player by number name the number that the player has since. */
function followed({ world }: Situation, numbers: ReturnType<typeof renumbered>): Edit[] {
  return [...world.documents.derived.values()].flatMap((doc) => {
    const { derived } = doc;
    if (derived.what !== 'pick' || derived.how.by !== 'key') return [];
    const is = numbers.get(derived.table)?.get(derived.how.is);
    const next = { ...doc, derived: { ...derived, how: { ...derived.how, is } } };
    return is === undefined ? [] : [edit('derived', doc.key, doc, next as DerivedDoc)];
  });
}

function readBody(what: SavedKind, input: object): Documents[SavedKind] {
  const parsed = DOCUMENT_KINDS[what].parse(input);
  return parsed.ok ? parsed.value : refuse(`This cannot be saved: ${parsed.problems.join('; ')}.`);
}

function refuseDerived({ world, derivations }: Situation, { derived }: DerivedDoc): void {
  const { key } = derived;
  const taken = world.profile.fields.some((f) => f.key === key)
    ? 'field'
    : !derivations.get(key) && world.takenTables().includes(key)
      ? 'table'
      : null;
  if (taken) refuse(`The board has a ${taken} "${key}" already; give it another key.`);
  const refused = derivations.refuse(derived);
  if (refused) refuse(refused);
}
