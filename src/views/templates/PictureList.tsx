import { fileNameOf, type MediaEntry } from '../../core/media/media.ts';
import { useSearch } from '../../ui/search.tsx';
import { Tiles } from '../../ui/Tiles.tsx';
import { CARRIED, carriedPicture, type Carried } from './carried.ts';
import { Thumb } from '../shared/Thumb.tsx';
import css from './PictureList.module.css';

/** The pictures of the library: each is dragged onto the sheet or a picture, or put where it belongs by a press. */
export function PictureList({
  pictures,
  onPut,
}: {
  pictures: readonly MediaEntry[];
  onPut: (carried: Carried) => void;
}) {
  const search = useSearch('Find a picture');
  const found = pictures.filter((m) => search.finds(m.path));
  const carried = (entry: MediaEntry) => carriedPicture(entry, fileNameOf(entry.path));
  return (
    <div className={css['pictures']}>
      {search.box}
      <Tiles
        label="Pictures of the library"
        items={found}
        idOf={(m) => m.path}
        nameOf={(m) => m.path}
        onPress={(m) => onPut(carried(m))}
        dataOf={(m) => ({ 'data-picture-tile': m.path, 'data-tip': m.path })}
        tile={{ width: 96, height: 96 }}
        className={css['tiles']}
        itemClass={css['tile']}
        empty={
          <p className={css['none']}>
            {pictures.length === 0
              ? 'The library has no pictures yet. Drop some on the sheet.'
              : 'No picture is called so.'}
          </p>
        }
      >
        {(m) => (
          // The press is the way by keys; the drag goes to the canvas, which is no list of its kind.
          <div
            draggable
            onDragStart={(e) => {
              e.dataTransfer.setData(CARRIED, JSON.stringify(carried(m)));
              e.dataTransfer.setData('text/plain', m.path);
              e.dataTransfer.effectAllowed = 'copy';
            }}
          >
            <Thumb entry={m} />
          </div>
        )}
      </Tiles>
    </div>
  );
}
