import { useRef, useState, type ReactNode } from 'react';
import { plainPath, type MediaEntry } from '../../core/media/media.ts';
import { Button } from '../../ui/Button.tsx';
import { ConfirmButton } from '../../ui/ConfirmButton.tsx';
import type { Desk } from '../shared/desk.ts';
import shell from '../shared/View.module.css';
import { tidyFolder } from './folders.ts';
import { Shown } from './Shown.tsx';
import { aboutText, sizeText } from './usage.ts';
import css from './MediaView.module.css';

/** A folder's name as it is typed: a new one, or another for the one that is open. */
export function FolderName({
  label,
  start,
  taken,
  onDone,
}: {
  label: string;
  start: string;
  taken: readonly string[];
  onDone: (name: string) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  if (typed === null) return <Button onClick={() => setTyped(start)}>{label}…</Button>;
  const name = tidyFolder(typed);
  const clash = name !== start && taken.includes(name);
  return (
    <form
      className={css['name']}
      onSubmit={(event) => {
        event.preventDefault();
        if (!name || clash || name === start) return;
        setTyped(null);
        onDone(name);
      }}
      onKeyDown={(event) => event.key === 'Escape' && setTyped(null)}
    >
      <label>
        {label} <input autoFocus value={typed} maxLength={120} onChange={(e) => setTyped(e.target.value)} />
      </label>
      {clash && <small className={shell['refused']}>There is such a folder already.</small>}
      <span>
        <Button type="submit" disabled={!name || clash || name === start}>
          {start ? 'Rename' : 'Make'}
        </Button>
        <Button onClick={() => setTyped(null)}>Cancel</Button>
      </span>
    </form>
  );
}

/** The way to move without dragging. */
export function MoveTo({
  folders,
  onMove,
}: {
  folders: readonly string[];
  onMove: (folder: string) => void;
}) {
  const [to, setTo] = useState('');
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        onMove(to);
      }}
    >
      <label>
        Move to
        <select value={to} onChange={(e) => setTo(e.target.value)}>
          <option value="">no folder</option>
          {folders.filter(Boolean).map((f) => (
            <option key={f} value={f}>
              {f}
            </option>
          ))}
        </select>
      </label>
      <Button type="submit">Move</Button>
    </form>
  );
}

/** What can be done with several pictures at once. */
export function Several({
  entries,
  uses,
  onDelete,
  children,
}: {
  entries: readonly MediaEntry[];
  uses: (entry: MediaEntry) => string[];
  onDelete: () => void;
  children: ReactNode;
}) {
  const used = entries.filter((m) => uses(m).length > 0).length;
  return (
    <aside className={css['details']} aria-label="Pictures that are chosen">
      <p>
        {entries.length} pictures, {sizeText(entries.reduce((sum, m) => sum + m.size, 0))}
      </p>
      {children}
      {used > 0 && (
        <p className={shell['refused']}>
          {used} of them {used === 1 ? 'is' : 'are'} used; what shows one has no picture once it is deleted.
        </p>
      )}
      {used === 0 ? (
        <Button onClick={onDelete}>Delete {entries.length} pictures</Button>
      ) : (
        <ConfirmButton
          says={`${used} of them will be missing.`}
          yes={`Delete ${entries.length} pictures`}
          onYes={onDelete}
        />
      )}
    </aside>
  );
}

interface DetailsProps {
  desk: Desk;
  entry: MediaEntry;
  taken: string[];
  uses: string[];
  onReplace: (file: File) => void;
  onMove: (path: string) => void;
  /** Further ways to move it. */
  children: ReactNode;
}

export function Details({ desk, entry, taken, uses, onReplace, onMove, children }: DetailsProps) {
  const [path, setPath] = useState(entry.path);
  const remove = () => void desk.act({ kind: 'media', path: entry.path, entry: null });
  const file = useRef<HTMLInputElement>(null);
  const clash = plainPath(path) !== plainPath(entry.path) && taken.includes(plainPath(path));
  return (
    <aside className={css['details']} aria-label={entry.face ? 'Font' : 'Picture'}>
      <div className={css['big']}>
        <Shown entry={entry} />
      </div>
      <p>{aboutText(entry)}</p>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (!clash && path !== entry.path) onMove(path);
        }}
      >
        <label>
          Path <input value={path} aria-label="Path" onChange={(e) => setPath(e.target.value)} />
        </label>
        <Button type="submit" disabled={clash || path === entry.path}>
          Rename
        </Button>
      </form>
      {children}
      {uses.length > 0 && !entry.face && plainPath(path) !== plainPath(entry.path) && !clash && (
        <p className={shell['dim']}>What uses it goes on showing it, but for pictures found by a key.</p>
      )}
      {clash && <p className={shell['refused']}>This path is taken.</p>}
      <h3>{uses.length ? 'Used by' : 'Not used anywhere.'}</h3>
      <ul>
        {uses.map((use, i) => (
          <li key={i}>{use}</li>
        ))}
      </ul>
      <Button onClick={() => file.current?.click()}>Replace in place…</Button>
      <input
        ref={file}
        type="file"
        hidden
        aria-label="Replacement"
        onChange={(e) => {
          const [one] = e.target.files ?? [];
          e.target.value = '';
          if (one) onReplace(one);
        }}
      />
      {uses.length === 0 ? (
        <Button onClick={remove}>Delete</Button>
      ) : (
        <ConfirmButton
          says={
            entry.face
              ? 'What uses it will be written in another font.'
              : 'What uses it will have no picture.'
          }
          onYes={remove}
        />
      )}
    </aside>
  );
}
