import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsObject,
  IsNumber,
  IsOptional,
  IsString,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  registerDecorator,
  validateSync,
  type ValidationError,
} from 'class-validator';

import { DOCUMENT_KINDS, type DocumentKind } from '../../core/documents/kinds.ts';

/** Every value of the object is a text of at most 2000 characters, a yes or no, a finite number or null. */
function ScalarValues() {
  return (target: object, propertyName: string) =>
    registerDecorator({
      name: 'scalarValues',
      target: target.constructor,
      propertyName,
      options: { message: `each of ${propertyName} must be a text, a number, true, false or null` },
      validator: {
        validate: (value: unknown) =>
          typeof value === 'object' &&
          value !== null &&
          Object.values(value).every(
            (x) =>
              x === null ||
              typeof x === 'boolean' ||
              (typeof x === 'number' && Number.isFinite(x)) ||
              (typeof x === 'string' && x.length <= 2000),
          ),
      },
    });
}

class ActionRequest {
  /** Made by the page, so that a repeated request is done once. */
  @Matches(/^[A-Za-z0-9_-]{8,64}$/, { message: 'id must be 8 to 64 letters, digits, _ or -' })
  id!: string;

  /** Until when it may be done, server ms: one whose answer was given up must not happen later. */
  @IsOptional()
  @IsNumber()
  until?: number;
}

export class TakeRequest extends ActionRequest {
  @IsIn(['take'])
  kind!: 'take';
  @Length(1, 80)
  item!: string;
}
export class ClearRequest extends ActionRequest {
  @IsIn(['clear'])
  kind!: 'clear';
  @Length(1, 80)
  zone!: string;
}
export class NextRequest extends ActionRequest {
  @IsIn(['next'])
  kind!: 'next';
  @Length(1, 80)
  zone!: string;
  @Length(1, 80)
  item!: string;
}
export class EditRequest extends ActionRequest {
  @IsIn(['edit'])
  kind!: 'edit';
  @Length(1, 80)
  item!: string;
  @IsObject()
  @ScalarValues()
  inputs!: Record<string, string | number | boolean | null>;
}
export class PinRequest extends ActionRequest {
  @IsIn(['pin'])
  kind!: 'pin';
  @Length(1, 80)
  field!: string;
  /** As typed; the field decides how it is read. */
  @IsString()
  @MaxLength(500)
  text!: string;
}
export class ReleaseRequest extends ActionRequest {
  @IsIn(['release'])
  kind!: 'release';
  @Length(1, 80)
  field!: string;
}

export class SourceRequest extends ActionRequest {
  @IsIn(['source'])
  kind!: 'source';
  /** A source with its map and patch; the core reads it. */
  @IsObject()
  bundle!: object;
}
export class RemoveSourceRequest extends ActionRequest {
  @IsIn(['remove-source'])
  kind!: 'remove-source';
  @Length(1, 80)
  source!: string;
}

export class GiveBackRequest extends ActionRequest {
  @IsIn(['give-back'])
  kind!: 'give-back';
  @Length(1, 80)
  source!: string;
}

export class HandRequest extends ActionRequest {
  @IsIn(['hand'])
  kind!: 'hand';

  @Length(1, 80)
  source!: string;

  @Length(1, 80)
  field!: string;

  /** `set` reads the text as typed, `add` as a number to add; `start` and `stop` are for clocks. */
  @IsIn(['set', 'add', 'start', 'stop'])
  do!: 'set' | 'add' | 'start' | 'stop';

  @IsOptional()
  @IsString()
  @MaxLength(500)
  text?: string;
}

const DOCUMENTS = ['game', 'profile', 'derived'] as const;
const ALL_DOCUMENTS = Object.keys(DOCUMENT_KINDS) as DocumentKind[];
type What = (typeof DOCUMENTS)[number];

export class PutDocumentRequest extends ActionRequest {
  @IsIn(['put-document'])
  kind!: 'put-document';

  @IsIn(DOCUMENTS)
  what!: What;

  /** The core reads it. */
  @IsObject()
  body!: object;
}

export class RemoveDocumentRequest extends ActionRequest {
  @IsIn(['remove-document'])
  kind!: 'remove-document';

  @IsIn(DOCUMENTS)
  what!: What;

  @Length(1, 80)
  key!: string;
}

export class MendDocumentRequest extends ActionRequest {
  @IsIn(['mend-document'])
  kind!: 'mend-document';

  @IsIn(ALL_DOCUMENTS)
  what!: DocumentKind;

  @Length(1, 80)
  key!: string;

  /** What is to stand in place of what could not be read; nothing deletes it. The core reads it. */
  @IsOptional()
  @IsObject()
  body?: object | null;
}

export class ChooseGameRequest extends ActionRequest {
  @IsIn(['choose-game'])
  kind!: 'choose-game';

  @Length(1, 80)
  game!: string;

  /** Whether the board begins anew with the sport's first values, or keeps what it says; another sport's is never kept. */
  @IsOptional()
  @IsIn(['clear', 'keep'])
  board?: 'clear' | 'keep';

  @IsOptional()
  @IsIn(['clear', 'keep'])
  air?: 'clear' | 'keep';

  /** The action that chose the game before this, which is taken back whole. */
  @IsOptional()
  @IsString()
  @MaxLength(64)
  back?: string;
}

export class SwapSidesRequest extends ActionRequest {
  @IsIn(['swap-sides'])
  kind!: 'swap-sides';

  /** Whether the scorer has changed the sides at the controller too: then the sources' patches stay as they are. */
  @IsOptional()
  @IsIn(['swapped', 'not'])
  scorer?: 'swapped' | 'not';
}

export class MediaRequest extends ActionRequest {
  @IsIn(['media'])
  kind!: 'media';

  @Length(1, 200)
  path!: string;

  /** What is to stand there; null takes it away. The core reads it. */
  @IsOptional()
  @IsObject()
  entry?: object | null;
}

/** Several entries put in their places or taken away, all or none. What stands in the way is not overwritten. */
export class ArrangeMediaRequest extends ActionRequest {
  @IsIn(['arrange-media'])
  kind!: 'arrange-media';

  /** Each a path with what is to stand there, or null; the core reads them. */
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(4000)
  changes!: unknown[];
}

export class TapeRequest extends ActionRequest {
  @IsIn(['tape'])
  kind!: 'tape';

  @IsIn(['record', 'stop', 'rename', 'delete', 'cut'])
  do!: 'record' | 'stop' | 'rename' | 'delete' | 'cut';

  /** The tape's key; a recording is the one that is being made. */
  @IsOptional()
  @Length(1, 80)
  tape?: string;

  @IsOptional()
  @Length(1, 80)
  name?: string;

  /** For a cut: the parts that are kept, in ms. The deck reads them. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(100)
  parts?: unknown[];
}

export class RehearseRequest extends ActionRequest {
  @IsIn(['rehearse'])
  kind!: 'rehearse';

  @IsIn(['start', 'end', 'play', 'pause', 'jump', 'speed', 'loop'])
  do!: 'start' | 'end' | 'play' | 'pause' | 'jump' | 'speed' | 'loop';

  @IsOptional()
  @Length(1, 80)
  tape?: string;

  /** By which maps and patches the tape is read. */
  @IsOptional()
  @IsIn(['tape', 'today'])
  maps?: 'tape' | 'today';

  /** Where to jump to, ms; or how fast it is to run. */
  @IsOptional()
  @Min(0)
  @Max(1e9)
  to?: number;

  /** The part to play again and again, ms; none ends that. */
  @IsOptional()
  @IsObject()
  part?: { from: number; to: number } | null;
}

export type DeckRequest = TapeRequest | RehearseRequest;

export type AnyRequest =
  | DeckRequest
  | MediaRequest
  | ArrangeMediaRequest
  | PutDocumentRequest
  | RemoveDocumentRequest
  | MendDocumentRequest
  | ChooseGameRequest
  | SwapSidesRequest
  | HandRequest
  | GiveBackRequest
  | SourceRequest
  | RemoveSourceRequest
  | TakeRequest
  | ClearRequest
  | NextRequest
  | EditRequest
  | PinRequest
  | ReleaseRequest;

const KINDS = {
  take: TakeRequest,
  clear: ClearRequest,
  next: NextRequest,
  edit: EditRequest,
  pin: PinRequest,
  release: ReleaseRequest,
  source: SourceRequest,
  'remove-source': RemoveSourceRequest,
  'give-back': GiveBackRequest,
  media: MediaRequest,
  'arrange-media': ArrangeMediaRequest,
  tape: TapeRequest,
  rehearse: RehearseRequest,
  hand: HandRequest,
  'put-document': PutDocumentRequest,
  'remove-document': RemoveDocumentRequest,
  'mend-document': MendDocumentRequest,
  'choose-game': ChooseGameRequest,
  'swap-sides': SwapSidesRequest,
} as const;

export class LookRequest {
  @IsOptional()
  @IsBoolean()
  fetch?: boolean;

  /** A document map; the core reads it. */
  @IsOptional()
  @IsObject()
  map?: object | null;
}

export class TrialRequest {
  /** A transport; the core reads it. */
  @IsObject()
  transport!: object;
}

/** The body as a request of this class, or one sentence that says what is wrong with it. */
function readAs<T extends object>(Kind: new () => T, body: unknown): T | string {
  if (typeof body !== 'object' || body === null || Array.isArray(body))
    return 'The request is not an object.';
  // Assigned, these would take the request's class away.
  const foul = Object.keys(body).find((name) => name in Object.prototype);
  if (foul !== undefined) return `property ${foul} should not exist.`;
  const request = Object.assign(new Kind(), body);
  const errors: ValidationError[] = validateSync(request, { whitelist: true, forbidNonWhitelisted: true });
  if (errors.length === 0) return request;
  return `${errors.flatMap((e) => Object.values(e.constraints ?? {})).join('; ')}.`;
}

/** Reads a request to look at a source's documents: the request, or one sentence that says what is wrong with it. */
export const readLook = (body: unknown): LookRequest | string => readAs(LookRequest, body);

/** Reads an action as a page sent it: the request, or one sentence that says what is wrong with it. */
export function readAction(body: unknown): AnyRequest | string {
  const kind = typeof body === 'object' && body !== null ? (body as { kind?: unknown }).kind : undefined;
  const Kind =
    typeof kind === 'string' && Object.hasOwn(KINDS, kind) ? KINDS[kind as keyof typeof KINDS] : null;
  if (!Kind) return `An action is one of ${Object.keys(KINDS).join(', ')}.`;
  return readAs<AnyRequest>(Kind, body);
}

/** Reads a request to try a line: the request, or one sentence that says what is wrong with it. */
export const readTrial = (body: unknown): TrialRequest | string => readAs(TrialRequest, body);
