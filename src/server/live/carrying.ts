import { TOLD } from '../../core/documents/kinds.ts';
import { editsOf, type Change, type Edit } from '../../core/actions/change.ts';
import { bundleOf, nameOfPlace, sharedMaps, type World } from '../../core/actions/world.ts';
import type { Board } from '../../core/board/board.ts';
import type { Derivations } from '../../core/derive/derivations.ts';
import { isDocumentKind } from '../../core/documents/kinds.ts';
import { MOST_PATCHES, patchesBetween } from '../../core/document/patches.ts';
import { MEDIA_TOKEN, plainPath } from '../../core/media/media.ts';
import type { Show } from '../../core/show/show.ts';
import { withoutSecret } from '../../core/source/source.ts';
import type { ChangedOp, DeskDocuments, DeskOp, DocumentOp } from '../../core/wire/wire.ts';
import type { Library } from '../media/library.ts';
import type { Deck } from '../tape/deck.ts';
import type { Air } from './air.ts';
import { resetBoard, applyFirstValues } from './board-reset.ts';
import { derivedNow, unreadNow } from './desk-snapshot.ts';
import { carryOutDocuments } from './documents.ts';
import { frozen } from './frozen.ts';
import { orderOutputs } from './world.ts';
import type { Scheduler } from '../scheduler.ts';
import type { Secrets } from './secrets.ts';
import type { Sources } from './sources.ts';
import type { BoardUpdate } from './source-context.ts';

/** The running parts that a change is made true of. */
export interface Running {
  world: World;
  show: Show;
  board: Board;
  derivations: Derivations;
  library: Library;
  deck: Deck;
  secrets: Secrets;
  /** The sources in use: the real ones, or those of a tape in their place. */
  sources: () => Sources;
  scheduler: Scheduler;
  /** The time of the show, ms. */
  now: () => number;
  spread: (changes: BoardUpdate) => void;
  /** Does work that changes the board in several steps, and tells of them as one. */
  together: (work: () => void) => void;
  air: Air;
  desk: (op: DeskOp) => void;
}

/** The kinds of document that belong to a source. */
const PARTS: readonly string[] = ['source', 'frame-map', 'doc-map', 'patch'];

/**
 * Makes a committed change true of all that runs: what is kept, then the board and the sources in one step, then what is on
 * air; and tells the desks of each document that is another now.
 */
export function carryOut(running: Running, change: Change): void {
  const { world, board, library, deck } = running;
  const { edits, reset, press } = change;
  const before = reset === 'swapped' ? running.sources().remember(running.now()) : null;
  const touched = touchedSources(world, edits);
  for (const edit of edits) keep(running, edit);
  const outputs = editsOf(change, 'output').map((e) => e.key);
  if (outputs.length) orderOutputs(world.documents);
  for (const key of touchedSources(world, edits)) touched.add(key);
  let laneOps: DeskOp[] = [];
  // One moment for all that it puts on and off, on whichever outputs.
  const at = change.lead ? running.scheduler.now() + change.lead : undefined;
  running.air.atOnce(at, () => {
    // All of it shows at once: no page sees the new names beside the old scores.
    running.together(() => {
      for (const key of touched) putSource(running, key);
      if (reset === 'swapped' || reset === 'fresh')
        resetBoard(running.sources(), world.profile, reset, before);
      const documents = edits
        .filter((e) => isDocumentKind(e.kind))
        .concat(editsOf(change, 'setting') as Edit[]);
      if (documents.length) {
        running.spread(carryOutDocuments(running, documents, running.now()));
        running.sources().boardChanged();
      }
      // The fields of the sport that is played now are there by now.
      if (reset === 'fresh') running.spread(applyFirstValues(board, change.values ?? [], running.now()));
      else if (typeof reset === 'object') resetBoard(running.sources(), world.profile, reset, null);
      for (const { key, is } of editsOf(change, 'pin'))
        running.spread(board.apply([is ? { key, pin: is.value } : { key, release: true }], running.now()));
    });
    const templates = new Set(editsOf(change, 'template').map((e) => e.key));
    if (templates.size) running.air.renew(templates);
    laneOps = running.air.follow(new Set(outputs));
    for (const { is } of editsOf(change, 'lane')) if (is) running.air.putLane(is);
  });
  for (const { key, is } of editsOf(change, 'media')) library.put(key, is);
  if (edits.some((e) => e.kind === 'media')) {
    running.spread({ changed: [MEDIA_TOKEN], touched: [] });
    if (editsOf(change, 'media').some((e) => e.is?.face))
      running.air.tellAll({ op: 'fonts', fonts: library.fonts() });
    running.air.repaint();
  }
  for (const { key, is } of editsOf(change, 'tape')) deck.put(key, is);
  if (change.card) running.desk(running.air.setCard(change.card));
  if (change.deck) deck.carryOut(change.deck, editsOf(change, 'tape')[0]?.is ?? null);
  if (press) running.sources().press(press.source, press.changes);
  if (change.giveBack) running.sources().giveBack(change.giveBack);
  for (const edit of edits) tell(running, edit);
  laneOps.forEach(running.desk);
  tellWorld(running, edits);
  if (touched.size || change.giveBack || press)
    running.desk({ op: 'sources', sources: running.sources().states() });
}

/** Puts what an edit says where it is kept in this process. */
function keep({ world }: Running, edit: Edit): void {
  const { kind, key, is } = edit;
  if (isDocumentKind(kind)) {
    const place = nameOfPlace(kind, key);
    const docs = world.documents[kind] as Map<string, unknown>;
    if (is) docs.set(key, frozen(is));
    else docs.delete(key);
    if (edit.revision !== undefined) world.revisions.set(place, edit.revision);
    world.unread.delete(place);
  }
}

/** The keys of the sources that edits touch: their own documents, or what they are made of. */
function touchedSources(world: World, edits: readonly Edit[]): Set<string> {
  const keys = edits
    .filter((e) => PARTS.includes(e.kind))
    .flatMap(({ kind, key }) =>
      kind === 'frame-map'
        ? [...world.documents.source.values()].filter((s) => s.frameMap === key).map((s) => s.key)
        : [key],
    );
  return new Set(keys);
}

function putSource({ world, sources, secrets, desk }: Running, key: string): void {
  const bundle = bundleOf(world, key);
  if (bundle) {
    secrets.note(bundle.source);
    sources().put(bundle);
    const revision = world.revisions.get(nameOfPlace('source', key)) ?? 1;
    desk({ op: 'document', kind: 'source', key, doc: withoutSecret(bundle), revision });
  } else if (sources().bundle(key)) {
    sources().remove(key);
    desk({ op: 'document-gone', kind: 'source', key });
  }
}

/** The kinds that desks follow one by one, each as it is kept; sources are told whole. */
const FOLLOWED: readonly string[] = ['lane', 'media', ...TOLD];

function tell({ desk }: Running, { kind, key, was, is, revision }: Edit): void {
  if (!FOLLOWED.includes(kind)) return;
  const at = { kind: kind as keyof DeskDocuments, key: kind === 'media' ? plainPath(key) : key };
  if (!is) return desk({ op: 'document-gone', ...at });
  // Who saves a document is told by number what it was made from: only what changed is sent.
  const patches = was && revision !== undefined ? patchesBetween(was, is) : null;
  if (patches && patches.length <= MOST_PATCHES)
    return desk({ op: 'changed', ...at, patches, revision } as ChangedOp);
  desk({
    op: 'document',
    ...at,
    doc: is,
    ...(revision === undefined ? {} : { revision }),
  } as unknown as DocumentOp);
}

/** Tells what follows from several documents at once, where edits touch it. */
function tellWorld(running: Running, edits: readonly Edit[]): void {
  const { world, board, derivations, desk } = running;
  const has = (...kinds: string[]) => edits.some((e) => kinds.includes(e.kind));
  if (has('setting', 'game', 'profile'))
    desk({
      op: 'world',
      world: {
        playing: world.game?.key ?? null,
        defs: [...board.fields],
        fields: [...board.fields].map(({ key }) => ({ key, ...board.state(key)! })),
        derived: derivedNow(derivations, world),
      },
    });
  else if (has('derived')) desk({ op: 'world', world: { derived: derivedNow(derivations, world) } });
  if (has('derived')) {
    const revisions = edits.flatMap((e): [string, number][] =>
      e.kind === 'derived' ? [[nameOfPlace(e.kind, e.key), e.is ? (e.revision ?? 1) : 0]] : [],
    );
    desk({ op: 'world', world: { revisions: Object.fromEntries(revisions) } });
  }
  if (has('frame-map')) desk({ op: 'world', world: { maps: sharedMaps(world) } });
  if (edits.some((e) => e.wasText !== undefined || e.isText !== undefined))
    desk({ op: 'world', world: { unread: unreadNow(world) } });
}
