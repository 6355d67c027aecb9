import { isRecord } from '../board/own.ts';
import { readAs, type DocumentClass } from '../document/check.ts';
import type { ActionDef } from './action.ts';
import { arrangeMedia } from './arrange-media.ts';
import { back } from './back.ts';
import { chooseGame } from './choose-game.ts';
import { clear } from './clear.ts';
import { clearAll } from './clear-all.ts';
import { edit } from './edit.ts';
import { endItem } from './end-item.ts';
import { fire } from './fire.ts';
import { giveBack } from './give-back.ts';
import { hand } from './hand.ts';
import { laneAutomatic } from './lane-automatic.ts';
import { link } from './link.ts';
import { media } from './media.ts';
import { repairDocument } from './repair-document.ts';
import { moveOutput } from './move-output.ts';
import { next } from './next.ts';
import { pin } from './pin.ts';
import { putItem } from './put-item.ts';
import { putItems } from './put-items.ts';
import { putDocument } from './put-document.ts';
import { queue } from './queue.ts';
import { recallLook } from './recall-look.ts';
import { redo } from './redo.ts';
import { rehearse } from './rehearse.ts';
import { release } from './release.ts';
import { removeItem } from './remove-item.ts';
import { removeDocument } from './remove-document.ts';
import { removeSource } from './remove-source.ts';
import type { ActionRequest, Asked } from './request.ts';
import { restoreAir } from './restore-air.ts';
import { restoreVersion } from './restore-version.ts';
import { sendEdits } from './send-edits.ts';
import { source } from './source.ts';
import { swapSides } from './swap-sides.ts';
import { take } from './take.ts';
import { takeNext } from './take-next.ts';
import { tape } from './tape.ts';
import { testCard } from './test-card.ts';
import { undo } from './undo.ts';

/** Every action, under the word by which it is asked for. */
export const ACTIONS = {
  take,
  'take-next': takeNext,
  back,
  clear,
  'clear-all': clearAll,
  next,
  queue,
  'end-item': endItem,
  fire,
  'lane-automatic': laneAutomatic,
  'restore-air': restoreAir,
  'recall-look': recallLook,
  edit,
  pin,
  'send-edits': sendEdits,
  release,
  hand,
  'give-back': giveBack,
  source,
  'remove-source': removeSource,
  link,
  'put-item': putItem,
  'put-items': putItems,
  'remove-item': removeItem,
  'put-document': putDocument,
  'remove-document': removeDocument,
  'repair-document': repairDocument,
  'restore-version': restoreVersion,
  'choose-game': chooseGame,
  'swap-sides': swapSides,
  media,
  'arrange-media': arrangeMedia,
  'move-output': moveOutput,
  'test-card': testCard,
  tape,
  rehearse,
  undo,
  redo,
} satisfies Record<string, unknown>;

export type ActionKind = keyof typeof ACTIONS;
type RequestOf<D> = D extends ActionDef<infer R> ? R : never;
/** An action as it was asked for and read. */
export type AnyRequest = { [K in ActionKind]: RequestOf<(typeof ACTIONS)[K]> }[ActionKind];
/** What a page can ask for; the id, the time and who it is are added when it is sent. */
export type ActionBody = Asked<AnyRequest>;

/** What an action declares, whichever it is. */
export const actionOf = (kind: ActionKind): ActionDef<AnyRequest> =>
  ACTIONS[kind] as unknown as ActionDef<AnyRequest>;

/** Reads an action as a page sent it: the request, or one sentence that says what is wrong with it. Never throws. */
export function readAction(body: unknown): AnyRequest | string {
  const kind = isRecord(body) ? body['kind'] : undefined;
  if (typeof kind !== 'string' || !Object.hasOwn(ACTIONS, kind))
    return `An action is one of ${Object.keys(ACTIONS).join(', ')}.`;
  return readRequest(actionOf(kind as ActionKind).request as DocumentClass<AnyRequest & ActionRequest>, body);
}

/** Reads a request by its class: the request, or one sentence that says what is wrong with it. */
export function readRequest<T extends object>(Class: DocumentClass<T>, body: unknown): T | string {
  const read = readAs<T>(Class, body);
  return read.ok ? read.value : `${read.problems.join('; ')}.`;
}
