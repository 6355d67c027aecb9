import { useMemo, useRef, useState, type DragEvent } from 'react';
import { mediaUrl, plainPath, type MediaEntry } from '../../core/media/media.ts';
import { Button } from '../../ui/Button.tsx';
import { useSearch } from '../../ui/search.tsx';
import type { Desk } from '../shared/desk.ts';
import shell from '../shared/View.module.css';
import { LastAction, View, type Seen } from '../shared/View.tsx';
import { aboutText, usageOf } from './usage.ts';
import css from './MediaView.module.css';

const folderOf = (path: string) => path.split('/').slice(0, -1).join('/');
const nameOf = (path: string) => path.split('/').at(-1)!;

/** How long a loop takes that does not say so itself, in ms, as the browser measures it. */
async function lengthOf(file: File): Promise<number | null> {
  const video = document.createElement('video');
  const url = URL.createObjectURL(file);
  try {
    await new Promise((done, failed) => {
      video.onloadedmetadata = done;
      video.onerror = failed;
      video.src = url;
    });
    if (!Number.isFinite(video.duration)) {
      // A recording without an end in its head: the browser finds it when it is asked to go beyond.
      await new Promise((done) => {
        video.ondurationchange = done;
        video.currentTime = 1e9;
        setTimeout(done, 3000);
      });
    }
    return Number.isFinite(video.duration) ? Math.round(video.duration * 1000) : null;
  } catch {
    return null;
  } finally {
    URL.revokeObjectURL(url);
  }
}

/** The media library: folders of pictures and loops, what each is, and where it is used. */
export default function MediaView() {
  return (
    <View here="/media" columns="230px minmax(0, 1fr) auto">
      {(seen) => <Library {...seen} />}
    </View>
  );
}

function Library({ desk, state, snapshot }: Seen) {
  const [folder, setFolder] = useState<string | null>(null);
  const search = useSearch('Find a picture');
  const [selected, setSelected] = useState<string | null>(null);
  const [busy, setBusy] = useState<{ done: number; of: number } | null>(null);
  const [refused, setRefused] = useState<string[]>([]);
  const [over, setOver] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const { media } = snapshot;
  const usage = useMemo(() => usageOf(snapshot), [snapshot]);
  const folders = [...new Set(media.map((m) => folderOf(m.path)))].sort();
  const shown = media.filter((m) => (folder === null || folderOf(m.path) === folder) && search.finds(m.path));
  const current = media.find((m) => m.path === selected) ?? null;

  /** Brings files in, one after another; each that is refused is named with its reason, the others are kept. */
  const bring = async (files: readonly File[], path?: string) => {
    setRefused([]);
    const problems: string[] = [];
    for (const [i, one] of files.entries()) {
      setBusy({ done: i, of: files.length });
      try {
        const response = await fetch(`/api/media?name=${encodeURIComponent(one.name)}`, {
          method: 'POST',
          body: one,
        });
        const answer = (await response.json()) as { ok: boolean; reason?: string; about?: MediaEntry };
        if (!answer.ok || !answer.about) {
          problems.push(answer.reason ?? `${one.name} was refused.`);
          continue;
        }
        const at = path ?? [folder ?? 'new', one.name].filter(Boolean).join('/');
        const { about } = answer;
        const length =
          about.type === 'video/webm' && about.length === null ? await lengthOf(one) : about.length;
        const entry = { ...about, length, path: at };
        const done = await desk.act({ kind: 'media', path: at, entry });
        if (!done.ok) problems.push(done.text);
      } catch {
        problems.push(`${one.name} did not reach the server.`);
      }
    }
    setBusy(null);
    setRefused(problems);
    if (folder === null && !path && files.length > problems.length) setFolder('new');
  };
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    void bring([...event.dataTransfer.files]);
  };
  return (
    <>
      <aside className={shell['side']} aria-label="Folders">
        {search.box}
        {[null, ...folders].map((f) => (
          <button
            key={f ?? 'all'}
            type="button"
            className={css['folder']}
            aria-pressed={folder === f}
            onClick={() => setFolder(f)}
          >
            {f === null ? 'All' : f || 'no folder'}
            <span>{f === null ? media.length : media.filter((m) => folderOf(m.path) === f).length}</span>
          </button>
        ))}
        <Button main={media.length === 0} onClick={() => file.current?.click()}>
          Bring files in…
        </Button>
        <Button shortcut="Ctrl+Z" disabled={!state.canUndo} onClick={() => void desk.undo()}>
          Undo
        </Button>
        <input
          ref={file}
          type="file"
          multiple
          hidden
          aria-label="Files to bring in"
          accept=".png,.jpg,.jpeg,.webp,.gif,.svg,.webm"
          onChange={(e) => {
            const files = [...(e.target.files ?? [])];
            e.target.value = '';
            void bring(files);
          }}
        />
        {busy && (
          <p className={shell['dim']}>
            Bringing in {busy.done + 1} of {busy.of}…
          </p>
        )}
        <LastAction state={state} />
        {refused.map((text) => (
          <p key={text} className={shell['refused']}>
            {text}
          </p>
        ))}
      </aside>
      <div
        className={css['grid']}
        data-over={over}
        onDragOver={(event) => {
          event.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={drop}
      >
        {shown.map((m) => (
          <button
            key={m.path}
            type="button"
            className={css['tile']}
            data-media={m.path}
            aria-pressed={m.path === selected}
            onClick={() => setSelected(m.path)}
          >
            <Shown entry={m} />
            <b>{nameOf(m.path)}</b>
            <span>
              {usage.get(plainPath(m.path))?.length
                ? `used ${usage.get(plainPath(m.path))!.length}×`
                : 'not used'}
            </span>
          </button>
        ))}
        {shown.length === 0 && (
          <p className={shell['waiting']}>
            {media.length === 0
              ? 'The library is empty. Drag pictures here, many at once.'
              : 'No picture is like that.'}
          </p>
        )}
      </div>
      {current && (
        <Details
          key={current.path}
          desk={desk}
          entry={current}
          taken={media.map((m) => plainPath(m.path))}
          uses={usage.get(plainPath(current.path)) ?? []}
          onReplace={(one) => void bring([one], current.path)}
          onMoved={setSelected}
        />
      )}
    </>
  );
}

function Shown({ entry }: { entry: MediaEntry }) {
  return entry.type === 'video/webm' ? (
    <video src={mediaUrl(entry)} muted loop autoPlay playsInline />
  ) : (
    <img src={mediaUrl(entry)} alt="" loading="lazy" />
  );
}

interface DetailsProps {
  desk: Desk;
  entry: MediaEntry;
  taken: string[];
  uses: string[];
  onReplace: (file: File) => void;
  onMoved: (path: string) => void;
}

function Details({ desk, entry, taken, uses, onReplace, onMoved }: DetailsProps) {
  const [path, setPath] = useState(entry.path);
  const [sure, setSure] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const clash = plainPath(path) !== plainPath(entry.path) && taken.includes(plainPath(path));
  const move = async () => {
    const put = await desk.act({ kind: 'media', path, entry: { ...entry, path } });
    if (!put.ok) return;
    if (plainPath(path) !== plainPath(entry.path))
      await desk.act({ kind: 'media', path: entry.path, entry: null });
    onMoved(path);
  };
  return (
    <aside className={css['details']} aria-label="Picture">
      <div className={css['big']}>
        <Shown entry={entry} />
      </div>
      <p>{aboutText(entry)}</p>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (!clash && path !== entry.path) void move();
        }}
      >
        <label>
          Path <input value={path} aria-label="Path" onChange={(e) => setPath(e.target.value)} />
        </label>
        <Button type="submit" disabled={clash || path === entry.path}>
          Rename
        </Button>
      </form>
      {uses.length > 0 && plainPath(path) !== plainPath(entry.path) && !clash && (
        <p className={shell['refused']}>What points here by the old path will have no picture.</p>
      )}
      {clash && <p className={shell['refused']}>Something stands there already.</p>}
      <h3>{uses.length ? 'Used by' : 'Nothing points here.'}</h3>
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
      {sure || uses.length === 0 ? (
        <Button onClick={() => void desk.act({ kind: 'media', path: entry.path, entry: null })}>
          Delete
        </Button>
      ) : (
        <Button onClick={() => setSure(true)}>Delete…</Button>
      )}
      {sure && <p className={shell['dim']}>What points here will have no picture.</p>}
    </aside>
  );
}
