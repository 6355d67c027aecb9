import type { Board } from '../../core/board/board.ts';
import type { Derivations, Worked } from '../../core/derive/derivations.ts';
import { parseDerived, type DerivedDoc } from '../../core/derive/derived.ts';
import { gameChanges, gameTables, type Game } from '../../core/show/game.ts';
import { parseGame } from '../../core/show/game-doc.ts';
import { Refusal } from '../../core/show/show.ts';
import { parseProfile, type SportProfile } from '../../core/sport/profile.ts';
import type { PutDocumentRequest, RemoveDocumentRequest } from '../http/requests.ts';
import type { DocumentChange } from '../store/store.ts';
import type { Decision } from './decision.ts';
import { refuseOver } from './unread.ts';
import type { World } from './world.ts';

export type DocumentRequestKind = PutDocumentRequest | RemoveDocumentRequest;

interface Known {
  world: World;
  derivations: Derivations;
}

/** Decides a change of the game, of a sport profile or of what is derived. Throws a Refusal where it cannot be. */
export function decideDocument(now: Known, request: DocumentRequestKind): Decision {
  switch (request.kind) {
    case 'put-document':
      return decidePut(now, request);
    case 'remove-document': {
      const was = bodyOf(now, request.what, request.key);
      if (!was) throw new Refusal(`There is no ${request.what} "${request.key}"; it may have been deleted.`);
      refuseRemoval(now, request);
      return one({ kind: request.what, key: request.key, body: null }, was);
    }
  }
}

const one = (change: DocumentChange, was: object | null): Decision => ({
  change: { documents: [change] },
  undo: { documents: [{ ...change, body: was }] },
});

function bodyOf({ world, derivations }: Known, what: string, key: string): object | null {
  if (what === 'game') return world.games.get(key) ?? null;
  if (what === 'profile') return world.profiles.get(key) ?? null;
  const derived = world.derived.has(key) ? derivations.get(key) : undefined;
  return derived ? { schema: 1, key, derived } : null;
}

function refuseRemoval({ world }: Known, { what, key }: RemoveDocumentRequest): void {
  if (what === 'game' && world.game?.key === key)
    throw new Refusal('This game is being played; choose another one first.');
  const user = what === 'profile' ? [...world.games.values()].find((g) => g.profile === key) : undefined;
  if (user) throw new Refusal(`${user.home.name} v ${user.away.name} is played by this profile.`);
}

function decidePut(now: Known, { what, body }: PutDocumentRequest): Decision {
  const parsed = { game: parseGame, profile: parseProfile, derived: parseDerived }[what](body);
  if (!parsed.ok) throw new Refusal(`This cannot be saved: ${parsed.problems.join('; ')}.`);
  const { value } = parsed;
  refuseOver(now.world, what, value.key);
  if (what === 'game' && !now.world.profiles.has((value as Game).profile))
    throw new Refusal(`There is no sport profile "${(value as Game).profile}".`);
  if (what === 'derived') {
    const { derived } = value as DerivedDoc;
    const { key } = derived;
    const taken = now.world.profile.fields.some((f) => f.key === key)
      ? 'field'
      : !now.derivations.get(key) && now.world.takenTables().includes(key)
        ? 'table'
        : null;
    if (taken) throw new Refusal(`The board has a ${taken} "${key}" already; give it another key.`);
    const refused = now.derivations.refuse(derived);
    if (refused) throw new Refusal(refused);
  }
  return one({ kind: what, key: value.key, body: value }, bodyOf(now, what, value.key));
}

/** What of a running Foothill a game, a profile or a derivation changes. */
export interface Living extends Known {
  board: Board;
}

/** Carries changes of documents out on the running board; gives what they changed there. */
export function carryOutDocuments(live: Living, changes: readonly DocumentChange[], now: number): Worked {
  const worked: Worked = { changed: [], touched: [], tables: [] };
  const add = (more: Worked) => {
    worked.changed.push(...more.changed);
    worked.touched.push(...more.touched);
    worked.tables.push(...more.tables);
  };
  const { world, derivations } = live;
  for (const { kind, key, body } of changes) {
    if (kind === 'derived') {
      const parsed = body ? parseDerived(body) : null;
      world.derived[parsed?.ok ? 'add' : 'delete'](key);
      // What the profile derives under this key comes back when one's own is gone.
      const own = world.profile.derived.find((d) => d.key === key);
      add(
        parsed?.ok
          ? derivations.put(parsed.value.derived, now)
          : own
            ? derivations.put(own, now)
            : derivations.remove(key, now),
      );
    } else if (kind === 'game') {
      if (body) world.games.set(key, body as Game);
      else world.games.delete(key);
      if (world.game?.key === key && body) add(playGame(live, body as Game, now));
    } else if (kind === 'profile') {
      if (body) world.profiles.set(key, body as SportProfile);
      else world.profiles.delete(key);
      if (body && (world.profile.key === key || world.game?.profile === key))
        add(useProfile(live, body as SportProfile, now));
    } else if (kind === 'setting' && key === 'game') {
      const game = world.games.get((body as { game: string }).game);
      if (game) add(playGame(live, game, now));
    }
  }
  return worked;
}

/** Puts a game on the board: its names, colours and people, under its own profile. */
export function playGame(live: Living, game: Game, now: number): Worked {
  const { world, board } = live;
  world.game = game;
  const profile = world.profiles.get(game.profile);
  const worked =
    profile && profile !== world.profile
      ? useProfile(live, profile, now)
      : { changed: [], touched: [], tables: [] };
  const applied = board.apply(gameChanges(game), now);
  const put = gameTables(game).map((table) => ({
    key: table.key,
    tokens: board.tables.put(table, 'game', now),
  }));
  return {
    changed: [...worked.changed, ...applied.changed, ...put.flatMap((p) => p.tokens)],
    touched: [...worked.touched, ...applied.touched],
    tables: [...worked.tables, ...put.filter((p) => p.tokens.length).map((p) => p.key)],
  };
}

/** Gives the board the fields of a profile; fields that it shares with the one before keep their values. */
export function useProfile(
  { world, board, derivations }: Living,
  profile: SportProfile,
  now: number,
): Worked {
  const gone = world.profile.fields.filter((f) => !profile.fields.some((g) => g.key === f.key));
  const worked: Worked[] = world.profile.derived
    .filter((d) => !world.derived.has(d.key))
    .map((d) => derivations.remove(d.key, now));
  for (const { key } of gone) board.undefine(key);
  for (const def of profile.fields) board.define(def);
  world.profile = profile;
  for (const derived of profile.derived) {
    if (world.derived.has(derived.key) || derivations.refuse(derived)) continue;
    worked.push(derivations.put(derived, now));
  }
  return {
    changed: [...gone.map((f) => f.key), ...worked.flatMap((w) => w.changed)],
    touched: worked.flatMap((w) => w.touched),
    tables: worked.flatMap((w) => w.tables),
  };
}
