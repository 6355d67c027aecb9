import { isRecord } from '../board/own.ts';
import type { DerivedDoc } from '../derive/derived.ts';
import { isPatch, MOST_PATCHES, patched, Unfit, type Patch } from '../document/patches.ts';
import { Count, Key, ListOf, Maybe, Must, OneOf, Text, Whole } from '../document/rules.ts';
import {
  DOCUMENT_KINDS,
  nameOfDocument,
  SAVED,
  type Documents,
  type KindDef,
  type SavedKind,
} from '../documents/kinds.ts';
import type { Template } from '../documents/template.ts';
import { action, refuse } from './action.ts';
import type { Look } from '../show/look.ts';
import { maskCircle } from '../layers/masks.ts';
import { lastPlace } from '../show/order.ts';
import type { Output } from '../show/show.ts';
import { sameName } from '../show/zones.ts';
import { renumbered, type Game } from '../show/game.ts';
import { edit, type Edit } from './change.ts';
import { ActionRequest } from './request.ts';
import { begunFrom, reconciled, refuseOver } from './saving.ts';
import type { Situation } from './situation.ts';

class PutDocumentRequest extends ActionRequest {
  @OneOf('put-document') kind!: 'put-document';
  @OneOf(...SAVED) what!: SavedKind;
  /** The whole document; or its key, and what changes it. */
  @Maybe() @Must('object', isRecord, 'must be an object') body?: { key: string };
  @Maybe() @Key() key?: string;
  /** JSON Patch (RFC 6902) with add, remove and replace, of the document as it was at the revision. */
  @Maybe()
  @Count(1, MOST_PATCHES)
  @ListOf(isPatch, 'each must add, remove or replace a value at a place such as /layouts/0/name')
  patches?: Patch[];
  /** The revision that it was made from; 0 for a new one. Without it, what stands is replaced. */
  @Maybe() @Whole(0, 1e9) revision?: number;
  /** What this version is called, to be found again among all that were saved. */
  @Maybe() @Text(1, 80) called?: string;
}

/** An entry is written down anew with each save that goes on with it: it must not grow without end. */
const MOST_JOINED = 400;

/** Saves a document of a kind that is saved one by one. */
export const putDocument = action({
  request: PutDocumentRequest,
  role: 'prepare',
  // A template is saved after each pause of whoever draws: that is one entry until something else is done.
  entry: (request) => (request.what === 'template' && !request.called ? `template ${keyOf(request)}` : null),
  joined: (all, last, next) => {
    // Patches of what was just saved go on after those before; where others saved too, they are of something else.
    if (!all.patches || !next.patches || next.revision !== last.revision! + 1) return null;
    const patches = [...all.patches, ...next.patches];
    return patches.length > MOST_JOINED ? null : { ...next, patches, revision: all.revision! };
  },
  prepare: ({ versions }, request) => versions.fetch(request.what, keyOf(request), request.revision),
  decide: (now, request) => {
    const { what, revision } = request;
    const mine = readBody(what, wanted(now, request));
    const { key } = mine;
    refuseOver(now.world, what, key);
    const theirs = now.world.documents[what].get(key) ?? null;
    const both = reconciled<object>(now, { kind: what, key, revision }, mine, theirs);
    const body = both === mine ? mine : readBody(what, both);
    if (what === 'template') refuseMaskCircles(body as Template, theirs as Template | null);
    if (what === 'output') refuseSameName(body as Output, theirs as Output | null);
    const made = what === 'output' ? placedIn(now, body as Output) : body;
    const { needs } = DOCUMENT_KINDS[what] as KindDef<object>;
    for (const need of needs(body))
      if (!now.world.documents[need.kind].has(need.key))
        refuse(`There is no ${DOCUMENT_KINDS[need.kind].word} "${need.key}".`);
    if (what === 'derived') refuseDerived(now, body as DerivedDoc);
    if (what === 'look') refuseTaken(now, body as Look);
    const edits = [edit(what, key, theirs, made)];
    if (what === 'game' && theirs && now.world.game?.key === key)
      edits.push(...followed(now, renumbered(theirs as Game, body as Game)));
    return { change: { edits } };
  },
  versionsByChange: ({ called }) => !called,
  sentence: (now, request) => {
    const { what, called } = request;
    const name = nameOfDocument(what, wanted(now, request) as never);
    return called ? `Named ${name} “${called}”` : `Saved ${name}`;
  },
});

/** An output that does not say where it stands stays where it is; one that is made stands behind those that are there. */
function placedIn({ world }: Situation, output: Output): Output {
  const others = world.documents.output;
  const place = output.place || others.get(output.key)?.place || lastPlace([...others.values()]);
  return { ...output, place };
}

/** Layers that mask each other in a circle are not made; some may be there from before. */
function refuseMaskCircles({ layouts }: Template, was: Template | null): void {
  for (const { key, width, height, layers } of layouts) {
    const path = maskCircle(layers);
    const before = was?.layouts.find((l) => l.key === key);
    if (path && !(before && maskCircle(before.layers)))
      refuse(
        `In the layout of ${width} × ${height} masks go in a circle: ${path.join(' → ')}. Take one of them away.`,
      );
  }
}

/** Lanes are found by their zones' names: two of one name are not made, though some may be there from before. */
function refuseSameName({ zones }: Output, was: Output | null): void {
  const name = sameName(zones);
  if (name !== null && (!was || sameName(was.zones) === null))
    refuse(`Two zones are called ${name}; give one of them another name.`);
}

/** A key of the live view does one thing. */
function refuseTaken({ show, world }: Situation, { key, hotkey }: Look): void {
  const others = [...show.items.values(), ...[...world.documents.look.values()].filter((l) => l.key !== key)];
  const other = hotkey !== '' && others.find((one) => one.hotkey === hotkey);
  if (other) refuse(`${other.name} has the key ${hotkey} already.`);
}

const keyOf = ({ body, key }: PutDocumentRequest): string => body?.key ?? key ?? '';

/** The document as whoever saves it wants it. */
function wanted(now: Situation, request: PutDocumentRequest): object {
  const { what, body, key, patches, revision } = request;
  if (body && !patches && key === undefined) return body;
  if (body || !patches || key === undefined || revision === undefined)
    return refuse('Give the whole document as body; or its key, its revision, and patches.');
  const theirs = now.world.documents[what].get(key) ?? null;
  const base = begunFrom<object>(now, { kind: what, key, revision }, theirs);
  try {
    return patched(base, patches);
  } catch (error) {
    if (!(error instanceof Unfit)) throw error;
    return refuse(`These changes are not of revision ${revision} of it: ${error.message}.`);
  }
}

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
}
