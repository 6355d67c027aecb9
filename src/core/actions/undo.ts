import { DOCUMENT_KINDS, isDocumentKind } from '../documents/kinds.ts';
import { merged, same } from '../document/merge.ts';
import { isRecord } from '../board/own.ts';
import { Maybe, OneOf, Text } from '../document/rules.ts';
import type { SourceDoc } from '../source/source-doc.ts';
import { withoutHeader } from '../source/source.ts';
import { action, refuse } from './action.ts';
import { edit, type Edit, type Pin, type StoredKind } from './change.ts';
import { ActionRequest, byOf } from './request.ts';
import type { Situation } from './situation.ts';

class UndoRequest extends ActionRequest {
  @OneOf('undo') kind!: 'undo';
  /** The action that is taken back, by its id; without it the newest. */
  @Maybe() @Text(1, 64) of?: string;
}

/** Takes an action back that the same person did at the same view, the newest or another, where what it touched stands as it left it. */
export const undo = action({
  request: UndoRequest,
  role: 'operate',
  decide: (now, request, at) => {
    const past =
      now.past.undoable(byOf(request), request.of) ??
      refuse(request.of === undefined ? 'There is nothing to undo.' : 'That was taken back already.');
    if (past.back) return { change: now.decide(past.back, at).change, back: null };
    const edits = past.undo.edits.flatMap((e) => restored(now, e, past.text) ?? []);
    return { change: { ...past.undo, edits }, back: null };
  },
  sentence: ({ past }, request) => `Undid: ${past.undoable(byOf(request), request.of)?.text ?? ''}`,
});

/** What stands now under a kind and a key; null for nothing. */
export function currentDocument(now: Situation, kind: StoredKind, key: string): object | null {
  const { show, board, world, library, deck } = now;
  switch (kind) {
    case 'lane':
      return show.lanes.get(key) ?? null;
    case 'pin':
      return board.state(key)?.pin ?? null;
    case 'media':
      return library.index.at(key) ?? null;
    case 'tape':
      return deck.tapes.find((t) => t.key === key) ?? null;
    case 'setting':
      return { schema: 1, game: world.game?.key ?? null };
    default:
      return world.documents[kind].get(key) ?? null;
  }
}

/**
 * What of it makes a difference here: not a header's value, which is in no record, nor since when a pin holds what it holds.
 */
function bare(kind: StoredKind, doc: object | null): object | null {
  if (doc && kind === 'source') return withoutHeader(doc as SourceDoc);
  return doc && kind === 'pin' ? { value: (doc as Pin).value } : doc;
}

/**
 * The edit that restores what was, whatever else changed in the same document since. Throws a Refusal where what it would
 * restore has been changed by others.
 */
function restored(now: Situation, { kind, key, was, is }: Edit, text: string): Edit | null {
  const current = currentDocument(now, kind, key);
  const then = bare(kind, current);
  if (same(then, bare(kind, was))) return edit(kind, key, current as never, filled(now, kind, is) as never);
  // What was taken or cleared since stays as it is.
  if (kind === 'lane') return null;
  const since = () => refuse(`It cannot be taken back: what "${text}" changed was changed again since.`);
  if (!isRecord(was) || !isRecord(is) || !isRecord(then) || kind === 'pin') return since();
  const both = merged(bare(kind, was), bare(kind, is), then);
  if (both.clashes.length) return since();
  if (isDocumentKind(kind)) {
    const read = DOCUMENT_KINDS[kind].parse(both.doc);
    if (!read.ok) return since();
    return edit(kind, key, current as never, filled(now, kind, read.value) as never);
  }
  return edit(kind, key, current as never, both.doc as never);
}

const filled = ({ secrets }: Situation, kind: StoredKind, doc: object | null): object | null =>
  kind === 'source' && doc ? secrets.fillSource(doc as SourceDoc) : doc;
