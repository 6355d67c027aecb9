import type { Board } from '../../core/board/board.ts';
import type { SourceBundle } from '../../core/source/source.ts';
import type { Show } from '../../core/show/show.ts';
import type { AnyRequest } from '../http/requests.ts';

/** The name of a source in a bundle that was read before. */
const nameIn = (bundle: object) => (bundle as SourceBundle).source.name;

/** A saved document's name, or its key where it has none. */
function documentName(body: object): string {
  const { name, key, derived } = body as { name?: string; key?: string; derived?: { name: string } };
  return derived?.name ?? name ?? key ?? '';
}

/** An action in words, for the log and for the answer to the page. */
export function describe(request: AnyRequest, show: Show, board: Board): string {
  const nameOf = (item: string) => show.items.get(item)?.name ?? item;
  switch (request.kind) {
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
      return `Deleted the source ${request.source}`;
    case 'give-back':
      return `Gave ${request.source} its fields back`;
    case 'media':
      return request.entry
        ? `Put ${request.path} into the library`
        : `Took ${request.path} out of the library`;
    case 'put-document':
      return `Saved the ${request.what} ${documentName(request.body)}`;
    case 'remove-document':
      return `Deleted the ${request.what} ${request.key}`;
    case 'choose-game':
      return `Chose the game ${request.game}`;
    case 'swap-sides':
      return 'Swapped sides: home and away are exchanged';
    case 'hand': {
      const label = board.def(request.field)?.label ?? request.field;
      if (request.do === 'start') return `Started ${label} by hand`;
      if (request.do === 'stop') return `Stopped ${label} by hand`;
      if (request.do === 'set') return `Set ${label} to ${request.text?.trim() || 'blank'} by hand`;
      return `${label} ${Number(request.text) < 0 ? 'down' : 'up'} by hand`;
    }
    case 'release':
      return `Released ${board.def(request.field)?.label}`;
  }
}
