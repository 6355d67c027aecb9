import { OneOf, Text } from '../document/rules.ts';
import { DOCUMENT_KINDS, neededBy, nameOfDocument, SAVED, type SavedKind } from '../documents/kinds.ts';
import { action, refuse } from './action.ts';
import { edit } from './change.ts';
import { ActionRequest } from './request.ts';

class RemoveDocumentRequest extends ActionRequest {
  @OneOf('remove-document') kind!: 'remove-document';
  @OneOf(...SAVED) what!: SavedKind;
  @Text(1, 80) key!: string;
}

/** Deletes a document of a kind that is saved one by one, where nothing needs it. */
export const removeDocument = action({
  request: RemoveDocumentRequest,
  role: 'prepare',
  decide: ({ world }, { what, key }) => {
    const { word } = DOCUMENT_KINDS[what];
    const was =
      world.documents[what].get(key) ?? refuse(`There is no ${word} "${key}"; it may have been deleted.`);
    if (what === 'game' && world.game?.key === key)
      refuse('This game is being played; choose another one first.');
    if (what === 'output' && world.documents.output.size === 1)
      refuse('This is the only output; there must be one.');
    const user = neededBy(world.documents, { kind: what, key });
    if (user) refuse(`It cannot be deleted: ${user} needs this ${word}.`);
    return { change: { edits: [edit(what, key, was, null)] } };
  },
  sentence: ({ world }, { what, key }) => {
    const doc = world.documents[what].get(key);
    return `Deleted ${doc ? nameOfDocument(what, doc as never) : key}`;
  },
});
