import { useMemo, useRef, useState, type DragEvent } from 'react';
import { plainPath, type MediaChange } from '../../core/media/media.ts';
import { Button } from '../../ui/Button.tsx';
import { later } from '../../ui/Later.tsx';
import { useRemembered } from '../../ui/remembered.ts';
import { useSearch } from '../../ui/search.tsx';
import { UndoRedo } from '../shared/UndoRedo.tsx';
import shell from '../shared/View.module.css';
import { bringFile, FILES } from '../shared/bring.ts';
import { useKnown } from '../shared/use-desk.ts';
import { LastAction } from '../shared/Said.tsx';
import { View, type Seen } from '../shared/View.tsx';
import { folderOf, folderRenamed, intoFolder, movedTo } from './folders.ts';
import { ALL, FolderList, TileList } from './Lists.tsx';
import { usageOf, usesOf } from './usage.ts';
import css from './MediaView.module.css';

// What is shown of a picture once it is chosen comes after the first view.
const panels = () => import('./MediaPanels.tsx');
const Details = later(() => panels().then((m) => m.Details));
const FolderName = later(() => panels().then((m) => m.FolderName));
const MoveTo = later(() => panels().then((m) => m.MoveTo));
const Several = later(() => panels().then((m) => m.Several));

/** The media library: folders of pictures and loops, what each is, and where it is used. */
export default function MediaView() {
  return (
    <View here="/media" columns="230px minmax(0, 1fr) auto">
      {(seen) => <Library {...seen} />}
    </View>
  );
}

// Dragging comes after the first view too: until then the lists are chosen from.
const dragging = () => import('./Dragging.tsx');
const Folders = later(() => dragging().then((m) => m.DropFolders), FolderList);
const Tiles = later(() => dragging().then((m) => m.DragTiles), TileList);

function Library({ desk, snapshot }: Seen) {
  const tables = useKnown(desk, 'tables');
  const [folder, setFolder] = useState(ALL);
  const search = useSearch('Find a picture');
  const [selected, setSelected] = useState<ReadonlySet<string>>(new Set());
  const [busy, setBusy] = useState<{ done: number; of: number } | null>(null);
  const [refused, setRefused] = useState<string[]>([]);
  const [over, setOver] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  // A folder that was made and is empty yet is known to this browser only.
  const [made, setMade] = useRemembered('media.folders', '[]');
  const { media } = snapshot;
  const { documents, derived } = snapshot;
  const usage = useMemo(() => usageOf({ documents, derived, tables }), [documents, derived, tables]);
  const empty = readFolders(made);
  const folders = [...new Set([...media.map((m) => folderOf(m.path)), ...empty])].sort();
  const shown = media.filter((m) => (folder === ALL || folderOf(m.path) === folder) && search.finds(m.path));
  const chosen = media.filter((m) => selected.has(m.path));
  const [current] = chosen;
  const target = folder === ALL ? 'new' : folder;

  const arrange = async (changes: MediaChange[]) => {
    if (changes.length === 0) return;
    const answer = await desk.act({ kind: 'arrange-media', changes });
    if (answer.ok) setSelected(new Set(changes.flatMap((c) => (c.entry ? [c.path] : []))));
  };
  const makeFolder = (name: string) => {
    setMade(JSON.stringify([...empty.filter((f) => f !== name), name]));
    setFolder(name);
  };
  const renameFolder = async (to: string) => {
    const changes = folderRenamed(media, folder, to);
    if (changes.length && !(await desk.act({ kind: 'arrange-media', changes })).ok) return;
    setMade(JSON.stringify(empty.filter((f) => f !== folder)));
    if (changes.length === 0) makeFolder(to);
    setFolder(to);
  };
  const dropped = (paths: readonly string[], key: string) =>
    void arrange(
      intoFolder(
        media.filter((m) => paths.includes(m.path)),
        key,
      ),
    );

  /** Brings files in, one after another; each that is refused is named with its reason, the others are kept. */
  const bring = async (files: readonly File[], path?: string) => {
    setRefused([]);
    const problems: string[] = [];
    for (const [i, one] of files.entries()) {
      setBusy({ done: i, of: files.length });
      const at = path ?? [target, one.name].filter(Boolean).join('/');
      const problem = await bringFile(desk, one, one.name, at);
      if (problem) problems.push(problem);
    }
    setBusy(null);
    setRefused(problems);
    if (folder === ALL && !path && files.length > problems.length) setFolder('new');
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
        <Folders
          folders={[ALL, ...folders]}
          chosen={folder}
          onChoose={setFolder}
          onDropped={dropped}
          countOf={(f) => (f === ALL ? media.length : media.filter((m) => folderOf(m.path) === f).length)}
        />
        <FolderName
          key={`new ${folders.length}`}
          label="New folder"
          start=""
          taken={folders}
          onDone={makeFolder}
        />
        {folder !== ALL && folder !== '' && (
          <FolderName
            key={folder}
            label="Rename folder"
            start={folder}
            taken={folders}
            onDone={(to) => void renameFolder(to)}
          />
        )}
        <Button main={media.length === 0} onClick={() => file.current?.click()}>
          Import files…
        </Button>
        <UndoRedo desk={desk} />
        <input
          ref={file}
          type="file"
          multiple
          hidden
          aria-label="Files to import"
          accept={FILES}
          onChange={(e) => {
            const files = [...(e.target.files ?? [])];
            e.target.value = '';
            void bring(files);
          }}
        />
        {busy && (
          <p className={shell['dim']}>
            Importing {busy.done + 1} of {busy.of}…
          </p>
        )}
        <LastAction desk={desk} />
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
        <Tiles shown={shown} usage={usage} selected={selected} onSelect={setSelected} />
        {shown.length === 0 && (
          <p className={shell['waiting']}>
            {media.length === 0
              ? 'The library is empty. Drag pictures here, many at once.'
              : search.active
                ? 'No picture matches.'
                : 'This folder is empty. Drag pictures here, or move some into it.'}
          </p>
        )}
      </div>
      {current && chosen.length === 1 && (
        <Details
          key={current.path}
          desk={desk}
          entry={current}
          taken={media.map((m) => plainPath(m.path))}
          uses={usesOf(usage, current)}
          onReplace={(one) => void bring([one], current.path)}
          onMove={(path) => void arrange(movedTo([current], () => path))}
        >
          <MoveTo
            folders={folders.filter((f) => f !== folderOf(current.path))}
            onMove={(f) => void arrange(intoFolder(chosen, f))}
          />
        </Details>
      )}
      {chosen.length > 1 && (
        <Several
          entries={chosen}
          uses={(m) => usesOf(usage, m)}
          onDelete={() => void arrange(chosen.map((m) => ({ path: m.path, entry: null })))}
        >
          <MoveTo folders={folders} onMove={(f) => void arrange(intoFolder(chosen, f))} />
        </Several>
      )}
    </>
  );
}

/** The folders that were made here; what is stored may be anything. */
function readFolders(text: string): string[] {
  try {
    const read: unknown = JSON.parse(text);
    return Array.isArray(read) ? read.filter((f): f is string => typeof f === 'string' && f !== '') : [];
  } catch {
    return [];
  }
}
