import type { Transaction } from 'sequelize';
import type { Change, Edit } from '../../core/actions/change.ts';
import type { Past } from '../../core/actions/past.ts';
import type { By } from '../../core/actions/request.ts';
import { inNewestForm, isDocumentKind } from '../../core/documents/kinds.ts';
import { ActionRow } from './models.ts';
import { insertStatement, updateStatement, type Statement } from './statements.ts';

/** An action as it is written down. */
export interface ActionRecord {
  id: string;
  kind: string;
  body: unknown;
  /** A hash of the request as it was asked: another one of the same id is another action. */
  asked: string;
  text: string;
  at: number;
  by: By;
  /** What takes it back; null where it never is. */
  past: Pick<Past, 'undo' | 'back'> | null;
  /** The action whose entry this one goes on with: it stands in its place. */
  follows?: string;
  /** An action that is taken back by this one, or done again: then with what takes that back. */
  marks?: { id: string; undone: boolean; past: ActionRecord['past'] };
  /** Actions that cannot be done again after this one. */
  gone: string[];
}

/** What was answered to an action that was done. */
export type Answered = Pick<ActionRecord, 'id' | 'asked' | 'text'>;

/** As long as the as-run log's text column. */
export const TEXT_LENGTH = 300;

/** What takes an action back, as an older Foothill may have written it: documents of older versions, and another name for a reset. */
function undoInNewestForm(written: Change & { become?: Change['reset'] }): Change {
  const { become, ...undo } = written;
  const now = <T extends object | null>(kind: string, doc: T): T =>
    doc && isDocumentKind(kind) ? inNewestForm(kind, doc) : doc;
  return {
    ...undo,
    ...(become === undefined ? {} : { reset: become }),
    edits: undo.edits.map((e) => ({ ...e, was: now(e.kind, e.was), is: now(e.kind, e.is) }) as Edit),
  };
}

/** An action that can be taken back, as it is written down. */
export function pastOf({ id, kind, body, text, desk, who, view, past, undone }: ActionRow): Past {
  const { undo: written, back } = JSON.parse(past!) as Pick<Past, 'undo' | 'back'>;
  const undo = undoInNewestForm(written);
  const asked = { kind, ...(JSON.parse(body) as object) };
  return { id, by: { desk, name: who, view }, text, asked, undo, back, undone };
}

/**
 * What writes an action down, and what it means for others. One that it goes on with stands no more, but its row stays: a request
 * for it that comes again is known by it.
 */
export function actionStatements(action: ActionRecord): Statement[] {
  const { id, kind, asked, at, by, follows, marks, gone } = action;
  const row = {
    id,
    kind,
    asked,
    at,
    desk: by.desk,
    who: by.name,
    view: by.view,
    text: action.text.slice(0, TEXT_LENGTH),
    body: JSON.stringify(action.body),
    past: action.past && JSON.stringify(action.past),
    undone: false,
    continuedBy: '',
  };
  const again = marks?.past ? { past: JSON.stringify(marks.past) } : {};
  return [
    insertStatement(ActionRow, row),
    ...(follows ? [updateStatement(ActionRow, { continuedBy: id }, { id: follows })] : []),
    ...(marks ? [updateStatement(ActionRow, { undone: marks.undone, ...again }, { id: marks.id })] : []),
    ...(gone.length ? [updateStatement(ActionRow, { past: null }, { id: gone })] : []),
  ];
}

/**
 * Takes an action out of the record, with what it meant for others; false where it is not in it. A row of its id that was
 * written at another time is of a request that came before it, and stays.
 */
export async function unwriteAction(
  { id, at, marks }: ActionRecord,
  transaction: Transaction,
): Promise<boolean> {
  if (!(await ActionRow.destroy({ where: { id, at }, transaction }))) return false;
  await ActionRow.update({ continuedBy: '' }, { where: { continuedBy: id }, transaction });
  if (marks) await ActionRow.update({ undone: !marks.undone }, { where: { id: marks.id }, transaction });
  return true;
}
