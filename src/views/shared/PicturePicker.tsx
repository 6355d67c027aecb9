import { useState } from 'react';
import type { MediaEntry, MediaIndex } from '../../core/media/media.ts';
import { Button } from '../../ui/Button.tsx';
import { laterDialog } from '../../ui/Later.tsx';
import { tip } from '../../ui/tip.ts';
import css from './PicturePicker.module.css';

const PictureDialog = laterDialog(() => import('./PictureDialog.tsx').then((m) => m.PictureDialog));

interface Props {
  /** The path into the library, or an address that begins with /media/. */
  path: string;
  library: MediaIndex;
  label: string;
  onChange: (path: string) => void;
}

/** A picture of the library: its path is typed, or it is chosen by seeing. */
export function PicturePicker({ path, library, label, onChange }: Props) {
  const [open, setOpen] = useState(false);
  const address = path ? library.address(path) : null;
  const close = () => setOpen(false);
  const choose = (entry: MediaEntry) => {
    onChange(entry.path);
    close();
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
          {...tip(path !== '' && address === null ? 'The library has no such picture.' : undefined)}
          onChange={(e) => onChange(e.target.value)}
        />
      </label>
      <Button aria-label={`Choose ${label.toLowerCase()}`} onClick={() => setOpen(true)}>
        Choose…
      </Button>
      {open && <PictureDialog library={library} path={path} onChoose={choose} onClose={close} />}
    </span>
  );
}
