import type { Documents, SavedKind } from '../../core/documents/kinds.ts';
import type { Answer, Desk } from './desk.ts';

/** Saves a document over the revision of it that this page knows. */
export const saveDocument = <K extends SavedKind>(desk: Desk, what: K, body: Documents[K]): Promise<Answer> =>
  desk.act({ kind: 'put-document', what, body, revision: desk.revisionOf(what, body.key) });
