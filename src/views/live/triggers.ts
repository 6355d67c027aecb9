import { QUIET, type Quiet } from '../../core/show/quiet.ts';
import type { Trigger } from '../../core/show/trigger.ts';
import type { Answer, Desk } from '../shared/desk.ts';

/** Saves a trigger. */
export const saveTrigger = (desk: Desk, body: Trigger): Promise<Answer> =>
  desk.act({
    kind: 'put-document',
    what: 'trigger',
    body,
    revision: desk.revisionOf('trigger', body.key),
  });

/** Saves when it is quiet. */
export const saveQuiet = (desk: Desk, body: Quiet): Promise<Answer> =>
  desk.act({ kind: 'put-document', what: 'quiet', body, revision: desk.revisionOf('quiet', QUIET) });
