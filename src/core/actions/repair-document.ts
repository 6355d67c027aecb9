import { isRecord } from '../board/own.ts';
import { Maybe, Must, OneOf, OrNull, Text } from '../document/rules.ts';
import { DOCUMENT_KINDS, type DocumentKind } from '../documents/kinds.ts';
import { action, refuse } from './action.ts';
import { edit } from './change.ts';
import { ActionRequest } from './request.ts';
import { nameOfPlace } from './world.ts';

class RepairDocumentRequest extends ActionRequest {
  @OneOf('repair-document') kind!: 'repair-document';
  @OneOf(...Object.keys(DOCUMENT_KINDS)) what!: DocumentKind;
  @Text(1, 80) key!: string;
  /** What is to stand in place of what could not be read; nothing deletes it. */
  @Maybe() @OrNull() @Must('object', isRecord, 'must be an object') body?: object | null;
}

/** Puts a document in the place of one that could not be read, or deletes that. */
export const repairDocument = action({
  request: RepairDocumentRequest,
  role: 'prepare',
  decide: ({ world }, { what, key, body }) => {
    const { word } = DOCUMENT_KINDS[what];
    const there =
      world.unread.get(nameOfPlace(what, key)) ??
      refuse(`There is no ${word} "${key}" that could not be read; look again.`);
    const read = body ? DOCUMENT_KINDS[what].parse(body) : null;
    if (read && !read.ok) refuse(`This is not mended yet: ${read.problems.join('; ')}.`);
    if (read && read.value.key !== key)
      refuse(`This is the ${word} "${read.value.key}"; what is to be mended has the key "${key}".`);
    return {
      change: { edits: [{ ...edit(what, key, null, read?.value ?? null), wasText: there.text }] },
      // What cannot be read is nothing to go back to.
      back: null,
    };
  },
  sentence: ({ world }, { what, key, body }) => {
    const name = world.unread.get(nameOfPlace(what, key))?.name ?? key;
    return `${body ? 'Mended' : 'Deleted'} the ${DOCUMENT_KINDS[what].word} ${name}, which could not be read`;
  },
});
