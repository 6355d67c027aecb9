import { memo } from 'react';
import type { DragAndDropHooks } from 'react-aria-components';
import { fileNameOf, type MediaEntry } from '../../core/media/media.ts';
import { List } from '../../ui/List.tsx';
import { Shown } from './Shown.tsx';
import { usesOf, type usageOf } from './usage.ts';
import css from './MediaView.module.css';

/** The folder that shows everything. */
export const ALL = '*';

const words = (folder: string) => (folder === ALL ? 'All' : folder || 'no folder');

export interface FoldersProps {
  folders: readonly string[];
  chosen: string;
  onChoose: (folder: string) => void;
  /** Pictures were dropped on a folder. */
  onDropped: (paths: readonly string[], folder: string) => void;
  countOf: (folder: string) => number;
}

/** The folders to choose from, each with how much is in it. */
export function FolderList({
  folders,
  chosen,
  onChoose,
  countOf,
  drag,
}: Omit<FoldersProps, 'onDropped'> & { drag?: DragAndDropHooks }) {
  return (
    <List
      label="Folders"
      items={folders}
      idOf={(f) => f}
      nameOf={words}
      chosen={new Set([chosen])}
      onChoose={([f]) => onChoose(f ?? ALL)}
      className={css['folders']}
      itemClass={css['folder']}
      {...(drag ? { drag } : {})}
    >
      {(f) => (
        <>
          {words(f)}
          <span>{countOf(f)}</span>
        </>
      )}
    </List>
  );
}

export interface TilesProps {
  shown: MediaEntry[];
  usage: ReturnType<typeof usageOf>;
  selected: ReadonlySet<string>;
  onSelect: (selected: ReadonlySet<string>) => void;
}

/** Whether the same would be drawn: each is compared, for what holds them is made anew with all news. */
export const sameTiles = (a: TilesProps, b: TilesProps): boolean =>
  a.usage === b.usage &&
  a.selected === b.selected &&
  a.shown.length === b.shown.length &&
  a.shown.every((entry, i) => entry === b.shown[i]);

/** The pictures to choose from; drawn again only when they are others, for the view has news many times a second. */
export const TileList = memo(function TileList({
  shown,
  usage,
  selected,
  onSelect,
  drag,
}: TilesProps & { drag?: DragAndDropHooks }) {
  const used = (m: MediaEntry) => usesOf(usage, m).length;
  return (
    <List
      label="Pictures"
      items={shown}
      idOf={(m) => m.path}
      nameOf={(m) => fileNameOf(m.path)}
      chosen={selected}
      onChoose={onSelect}
      several
      layout="grid"
      className={css['tiles']}
      itemClass={css['tile']}
      dataOf={(m) => ({ 'data-media': m.path })}
      {...(drag ? { drag } : {})}
    >
      {(m) => (
        <>
          <Shown entry={m} small />
          <b>{fileNameOf(m.path)}</b>
          <span>{used(m) ? `used ${used(m)}×` : 'not used'}</span>
        </>
      )}
    </List>
  );
}, sameTiles);
