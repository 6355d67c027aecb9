import { useEffect, useRef, useState } from 'react';
import { mediaUrl, type MediaEntry, type MediaIndex } from '../../core/media/media.ts';
import { Button } from '../../ui/Button.tsx';
import { useSearch } from '../../ui/search.tsx';
import css from './PicturePicker.module.css';

/** How many pictures are shown to choose from; typing finds the others. */
const SHOWN = 60;

interface Props {
  /** The path into the library, or an address that begins with /media/. */
  path: string;
  library: MediaIndex;
  label: string;
  onChange: (path: string) => void;
}

/** A picture of the library: its path is typed, or it is chosen by seeing. */
export function PicturePicker({ path, library, label, onChange }: Props) {
  const dialog = useRef<HTMLDialogElement>(null);
  const [open, setOpen] = useState(false);
  const address = path ? library.address(path) : null;
  useEffect(() => {
    if (open) dialog.current?.showModal();
  }, [open]);
  const choose = (entry: MediaEntry | null) => {
    if (entry) onChange(entry.path);
    setOpen(false);
  };
  return (
    <span className={css['picker']}>
      <label>
        {label}{' '}
        <span className={css['thumb']} data-missing={path !== '' && address === null}>
          {address ? <img src={address} alt="" /> : null}
        </span>
        <input
          value={path}
          maxLength={300}
          size={17}
          aria-invalid={path !== '' && address === null}
          title={path !== '' && address === null ? 'The library has no such picture.' : undefined}
          onChange={(e) => onChange(e.target.value)}
        />
      </label>
      <Button aria-label={`Choose ${label.toLowerCase()}`} onClick={() => setOpen(true)}>
        Choose…
      </Button>
      {open && (
        <dialog
          ref={dialog}
          className={css['dialog']}
          aria-label="Pictures"
          onClose={() => choose(null)}
          onClick={(e) => e.target === dialog.current && choose(null)}
        >
          <Choice library={library} path={path} onChoose={choose} />
        </dialog>
      )}
    </span>
  );
}

function Choice({
  library,
  path,
  onChoose,
}: {
  library: MediaIndex;
  path: string;
  onChoose: (entry: MediaEntry | null) => void;
}) {
  const search = useSearch('Find a picture', true);
  const all = library.list();
  const matching = all.filter((m) => search.finds(m.path));
  // Those beside the present one come first: a mark is changed for a mark.
  const folder = path.split('/').slice(0, -1).join('/');
  const beside = (m: MediaEntry) => folder !== '' && m.path.startsWith(`${folder}/`);
  const found = [...matching.filter(beside), ...matching.filter((m) => !beside(m))];
  const present = library.find(path);
  return (
    <>
      <form
        method="dialog"
        className={css['head']}
        onSubmit={(e) => {
          e.preventDefault();
          if (found[0]) onChoose(found[0]);
        }}
      >
        {search.box}
        <a href="/media">Bring pictures in</a>
        <Button onClick={() => onChoose(null)} shortcut="Esc">
          Cancel
        </Button>
      </form>
      <div className={css['grid']}>
        {found.slice(0, SHOWN).map((m) => (
          <button
            key={m.path}
            type="button"
            title={m.path}
            aria-label={m.path}
            aria-pressed={m === present}
            onClick={() => onChoose(m)}
          >
            {m.type === 'video/webm' ? (
              <video src={mediaUrl(m)} muted playsInline />
            ) : (
              <img src={mediaUrl(m)} alt="" loading="lazy" />
            )}
            <span>{m.path.split('/').slice(-2).join('/')}</span>
          </button>
        ))}
      </div>
      <p>
        {all.length === 0
          ? 'The library is empty. Bring pictures in under Media.'
          : found.length === 0
            ? 'No picture is like that.'
            : found.length > SHOWN
              ? `${found.length - SHOWN} more: type a part of the path.`
              : ''}
      </p>
    </>
  );
}
