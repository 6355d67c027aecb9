import type { Board } from '../../core/board/board.ts';
import type { Derived } from '../../core/derive/derived.ts';
import type { Game } from '../../core/show/game.ts';
import type { SportProfile } from '../../core/sport/profile.ts';
import type { SourceBundle } from '../../core/source/source.ts';
import type { TapeInfo } from '../../core/tape/tape.ts';
import type { Show } from '../../core/show/show.ts';
import { clockText } from '../../core/clock/clock.ts';
import type { MediaChange } from '../../core/media/media.ts';
import { DOCUMENT_KINDS, type Unread } from '../../core/documents/kinds.ts';
import { counted } from '../../core/text/words.ts';
import type { AnyRequest, RehearseRequest, TapeRequest } from '../http/requests.ts';
import { unreadKey } from './world.ts';

type What = 'game' | 'profile' | 'derived';

/** What has names: all that an action may be of. */
interface Named {
  show: Show;
  board: Board;
  sources: { bundle(key: string): SourceBundle | undefined };
  world: {
    games: ReadonlyMap<string, Game>;
    profiles: ReadonlyMap<string, SportProfile>;
    unread: ReadonlyMap<string, Unread>;
  };
  derivations: { list(): Derived[] };
  deck: { tapes: readonly TapeInfo[] };
}

/** The name of a source in a bundle that was read before. */
const nameIn = (bundle: object) => (bundle as SourceBundle).source.name;

/** A document that was read before, in words: a game by its teams, all else by its name. */
function documentInWords(what: What, doc: object | undefined, key: string): string {
  if (what === 'game') {
    const { home, away } = (doc ?? {}) as Partial<Game>;
    return `the game ${home && away ? `${home.short} v ${away.short}` : key}`;
  }
  const name = (doc as { name?: string } | undefined)?.name ?? key;
  return what === 'profile' ? `the sport ${name}` : name;
}

/** What is saved: of a derivation, what it derives. */
const savedDoc = ({ what, body }: { what: What; body: object }) =>
  what === 'derived' ? (body as { derived?: Derived }).derived : body;

/** An action in words, for the log and for the answer to the page; asked before it is carried out. */
export function describe(
  request: AnyRequest,
  { show, board, sources, world, derivations, deck: { tapes } }: Named,
): string {
  const known = (what: What, key: string) => {
    const doc = {
      game: () => world.games.get(key),
      profile: () => world.profiles.get(key),
      derived: () => derivations.list().find((d) => d.key === key),
    }[what]();
    return documentInWords(what, doc, key);
  };
  const sourceOf = (key: string) => sources.bundle(key)?.source.name ?? key;
  const tapeOf = (key: string | undefined) => tapes.find((t) => t.key === key)?.name ?? 'a tape';
  const nameOf = (item: string) => show.items.get(item)?.name ?? item;
  switch (request.kind) {
    case 'mend-document': {
      const name = world.unread.get(unreadKey(request.what, request.key))?.name ?? request.key;
      return `${request.body ? 'Mended' : 'Deleted'} the ${DOCUMENT_KINDS[request.what].word} ${name}, which could not be read`;
    }
    case 'take':
      return `Took ${nameOf(request.item)}`;
    case 'clear':
      return `Cleared ${nameOf(show.lanes.get(request.zone)?.onAir?.item ?? request.zone)}`;
    case 'next':
      return `Next: ${nameOf(request.item)}`;
    case 'edit':
      return `Edited ${nameOf(request.item)}`;
    case 'pin':
      return `Pinned ${board.def(request.field)?.label} at ${request.text.trim() || 'blank'}`;
    case 'source':
      return `Saved the source ${nameIn(request.bundle)}`;
    case 'remove-source':
      return `Deleted the source ${sourceOf(request.source)}`;
    case 'give-back':
      return `Returned control to ${sourceOf(request.source)}`;
    case 'media':
      return request.entry
        ? `Put ${request.path} into the library`
        : `Took ${request.path} out of the library`;
    case 'arrange-media': {
      const put = (request.changes as MediaChange[]).filter((c) => c.entry !== null).length;
      const gone = request.changes.length - put;
      return put
        ? `Moved ${counted(put, 'picture')} in the library`
        : `Took ${counted(gone, 'picture')} out of the library`;
    }
    case 'put-document':
      return `Saved ${documentInWords(request.what, savedDoc(request), (request.body as { key: string }).key)}`;
    case 'remove-document':
      return `Deleted ${known(request.what, request.key)}`;
    case 'choose-game':
      return `Chose ${known('game', request.game)}`;
    case 'swap-sides':
      return 'Swapped sides: home and away are exchanged';
    case 'hand': {
      const label = board.def(request.field)?.label ?? request.field;
      if (request.do === 'start') return `Started ${label} by hand`;
      if (request.do === 'stop') return `Stopped ${label} by hand`;
      if (request.do === 'set') return `Set ${label} to ${request.text?.trim() || 'blank'} by hand`;
      return `${label} ${Number(request.text) < 0 ? 'down' : 'up'} by hand`;
    }
    case 'tape':
      return describeTape(request, tapeOf(request.tape));
    case 'rehearse':
      return describeRehearsal(request, tapeOf(request.tape));
    case 'release':
      return `Released ${board.def(request.field)?.label}`;
  }
}

function describeTape({ do: what, name }: TapeRequest, tape: string): string {
  switch (what) {
    case 'record':
      return 'Records what all sources say';
    case 'stop':
      return 'Stopped the recording';
    case 'rename':
      return `Named the tape ${tape} anew: ${name}`;
    case 'delete':
      return `Deleted the tape ${tape}`;
    case 'cut':
      return `Cut the tape ${tape}`;
  }
}

function describeRehearsal({ do: what, to, part }: RehearseRequest, tape: string): string {
  switch (what) {
    case 'start':
      return `Rehearsal: ${tape} speaks in place of the sources`;
    case 'end':
      return 'Ended the rehearsal; the real sources are back';
    case 'play':
      return 'Rehearsal: plays';
    case 'pause':
      return 'Rehearsal: paused';
    case 'jump':
      return `Rehearsal: went to ${clockText(to ?? 0)}`;
    case 'speed':
      return `Rehearsal: runs at ${to} times its speed`;
    case 'loop':
      return part
        ? `Rehearsal: plays ${clockText(part.from)} to ${clockText(part.to)} again and again`
        : 'Rehearsal: plays on to the end';
  }
}
