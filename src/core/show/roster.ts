import type { Player } from './game.ts';

export type RosterPart = Exclude<keyof Player, 'id'>;
/** What a player's parts are called on sheets, the plainest first. */
const NAMES: Record<RosterPart, string[]> = {
  number: ['number', 'no', 'num', 'jersey', 'uniform', 'uni', '#', 'shirt'],
  first: ['first name', 'first', 'given name', 'forename'],
  last: ['last name', 'last', 'family name', 'surname', 'name', 'player', 'player name', 'full name'],
  position: ['position', 'pos', 'plays'],
  // A role (captain, trainer) is no class; whoever means it so can say so.
  class: ['class', 'year', 'status'],
  headshot: ['headshot', 'picture', 'photo', 'image'],
};
export const ROSTER_PARTS = Object.keys(NAMES) as RosterPart[];
const plain = (text: string) =>
  text
    .toLowerCase()
    .replace(/[^a-z0-9#]+/g, ' ')
    .trim();

/** Which heading of a sheet says which part of a player: each heading once, -1 where none does. */
export function matchColumns(headings: readonly string[]): Record<RosterPart, number> {
  const taken = new Set<number>();
  const match = {} as Record<RosterPart, number>;
  for (const part of ROSTER_PARTS) {
    const at = NAMES[part]
      .map((name) => headings.findIndex((h, i) => !taken.has(i) && plain(h) === name))
      .find((i) => i >= 0);
    match[part] = at ?? -1;
    if (at !== undefined) taken.add(at);
  }
  return match;
}

/** What a new player has beside number and name. */
const filled = (player: Player) =>
  ROSTER_PARTS.filter((part) => !['number', 'first', 'last'].includes(part) && player[part] !== '')
    .map((part) => `${part}: ${player[part]}`)
    .join(', ');

/** What bringing a sheet in would do to one player. */
export interface RosterChange {
  kind: 'new' | 'changed' | 'gone' | 'refused';
  player: Player;
  /** For a new one what else is filled; for a change the parts that differ, as before → after; for a refusal, why. */
  says: string;
}

export interface RosterPlan {
  players: Player[];
  changes: RosterChange[];
}

/**
 * What becomes of a roster when a sheet is brought in: rows are matched to players by number, else by name; a part
 * whose column is not matched stays as it was. With `replace`, players who are not on the sheet go.
 */
export function planRoster(
  players: readonly Player[],
  rows: readonly (readonly string[])[],
  match: Record<RosterPart, number>,
  replace: boolean,
): RosterPlan {
  const next = [...players];
  const changes: RosterChange[] = [];
  const met = new Set<number>();
  for (const cells of rows) {
    const said = Object.fromEntries(
      ROSTER_PARTS.flatMap((part) => (match[part] >= 0 ? [[part, (cells[match[part]] ?? '').trim()]] : [])),
    ) as Partial<Player>;
    // One column with both names, as federations write them: Last, First.
    const both = match.first < 0 ? /^([^,]+),\s*(.+)$/.exec(said.last ?? '') : null;
    if (both) Object.assign(said, { last: both[1]!.trim(), first: both[2]!.trim() });
    if (Object.values(said).every((s) => s === '')) continue;
    const fresh: Player = { number: '', first: '', last: '', position: '', class: '', headshot: '', ...said };
    if (!/^\d{0,3}$/.test(fresh.number)) {
      changes.push({
        kind: 'refused',
        player: fresh,
        says: `"${fresh.number}" is no number of up to three digits`,
      });
      continue;
    }
    const at = next.findIndex((p) => samePlayer(p, fresh));
    if (at >= 0 && met.has(at)) {
      changes.push({ kind: 'refused', player: fresh, says: `number ${fresh.number} is on the sheet twice` });
      continue;
    }
    if (at < 0) {
      met.add(next.push(fresh) - 1);
      changes.push({ kind: 'new', player: fresh, says: filled(fresh) });
      continue;
    }
    met.add(at);
    const was = next[at]!;
    const player = { ...was, ...said };
    const differ = ROSTER_PARTS.filter((part) => player[part] !== was[part]);
    next[at] = player;
    if (differ.length)
      changes.push({
        kind: 'changed',
        player,
        says: differ.map((p) => `${p}: ${was[p] || 'blank'} → ${player[p] || 'blank'}`).join(', '),
      });
  }
  if (!replace) return { players: next, changes };
  const gone = next.filter((_, i) => !met.has(i));
  return {
    players: next.filter((_, i) => met.has(i)),
    changes: [...changes, ...gone.map((player) => ({ kind: 'gone' as const, player, says: '' }))],
  };
}

/** The same number is the same player; without numbers the same name is. */
function samePlayer(a: Player, b: Player): boolean {
  if (a.number !== '' && b.number !== '') return a.number === b.number;
  return b.last !== '' && a.last === b.last && a.first === b.first;
}
