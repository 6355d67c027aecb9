import type { Item } from '../../core/show/item.ts';
import { FIRST_GROUPS, inOrder, RUNDOWN, type Group } from '../../core/show/rundown.ts';
import type { DeskSnapshot } from '../../core/wire/wire.ts';

type Shown = Pick<DeskSnapshot, 'documents'>;

/** The groups of the rundown; the first ones where there is none yet. */
export const groupsOf = ({ documents }: Shown): readonly Group[] =>
  documents.rundown.find((r) => r.key === RUNDOWN)?.groups ?? FIRST_GROUPS;

/** What an item is called; its key where it is gone. */
export const itemName = (items: readonly Item[], key: string): string =>
  items.find((i) => i.key === key)?.name ?? key;

/** The items in the order of the rundown. */
export const orderOf = (snapshot: Shown): Item[] => inOrder(groupsOf(snapshot), snapshot.documents.item);
