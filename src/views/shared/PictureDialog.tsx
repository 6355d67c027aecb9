import type { MediaEntry, MediaIndex } from '../../core/media/media.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { Tiles } from '../../ui/Tiles.tsx';
import { useSearch } from '../../ui/search.tsx';
import { Thumb } from './Thumb.tsx';
import css from './PicturePicker.module.css';

interface Props {
  library: MediaIndex;
  path: string;
  onChoose: (entry: MediaEntry) => void;
  /** None is chosen, the one that was stays. */
  onClose: () => void;
}

/** Chooses a picture of the library by seeing. */
export function PictureDialog({ library, path, onChoose, onClose }: Props) {
  const search = useSearch('Find a picture', true);
  const all = library.pictures();
  const matching = all.filter((m) => search.finds(m.path));
  // Those beside the present one come first: a mark is changed for a mark.
  const folder = path.split('/').slice(0, -1).join('/');
  const beside = (m: MediaEntry) => folder !== '' && m.path.startsWith(`${folder}/`);
  const found = [...matching.filter(beside), ...matching.filter((m) => !beside(m))];
  const present = library.find(path);
  return (
    <Dialog
      title="Pictures"
      wide
      onClose={onClose}
      actions={
        <Button onClick={onClose} shortcut="Esc">
          Cancel
        </Button>
      }
    >
      <form
        className={css['head']}
        onSubmit={(e) => {
          e.preventDefault();
          if (found[0]) onChoose(found[0]);
        }}
      >
        {search.box}
        <a href="/media">Import pictures</a>
      </form>
      <Tiles
        label="Pictures"
        items={found}
        idOf={(m) => m.path}
        nameOf={(m) => m.path}
        onPress={onChoose}
        dataOf={(m) => ({ 'data-present': m === present })}
        tile={{ width: 130, height: 130 }}
        className={css['grid']}
        itemClass={css['tile']}
      >
        {(m) => <Thumb entry={m} />}
      </Tiles>
      <p>
        {all.length === 0
          ? 'The library is empty. Import pictures under Media.'
          : found.length === 0 && 'No picture matches.'}
      </p>
    </Dialog>
  );
}
