import { useMemo, useRef, useState } from 'react';
import type { Template } from '../../core/documents/template.ts';
import type { Output } from '../../core/show/show.ts';
import { counted } from '../../core/text/words.ts';
import { Button } from '../../ui/Button.tsx';
import { later, laterDialog } from '../../ui/Later.tsx';
import { useRemembered } from '../../ui/remembered.ts';
import { useSearch } from '../../ui/search.tsx';
import { UndoRedo } from '../shared/UndoRedo.tsx';
import { VersionsButton } from '../shared/Versions.tsx';
import { LastAction } from '../shared/Said.tsx';
import { View, type Seen } from '../shared/View.tsx';
import shell from '../shared/View.module.css';
import { freshKey } from '../../core/text/keys.ts';
import { Details } from './Details.tsx';
import { SizeChoice } from '../shared/SizeFields.tsx';
import { sizesOf, zonesOf } from '../shared/zones.ts';
import { mostFilled, samplesOf, usesOf } from './samples.ts';
import css from './TemplatesView.module.css';

const PaletteDialog = laterDialog(() => import('./PaletteDialog.tsx').then((m) => m.PaletteDialog));

// What draws them comes after the first view: it works out what the board says.
const Still = later(() => import('../shared/Still.tsx').then((m) => m.Still));
const FitList = later(() => import('./FitList.tsx').then((m) => m.FitList));
const List = later(() => import('../../ui/List.tsx').then((m) => m.List<Template>));

/** The package's templates: what each looks like, what uses it, and the way to its workshop. */
export default function TemplatesView() {
  return (
    <View here="/templates" columns="250px minmax(0, 1fr) 300px">
      {(seen) => <Library {...seen} />}
    </View>
  );
}

/** A template as new: with one layout of a size, and nothing on it. */
const blank = (key: string, name: string, width: number, height: number): Template => ({
  schema: 3,
  key,
  name,
  inputs: [],
  layouts: [{ key: 'main', width, height, layers: [] }],
});

function Library({ desk, snapshot }: Seen) {
  const { template: templates, output: outputs } = snapshot.documents;
  const search = useSearch('Find a template');
  const [selected, setSelected] = useState<string | null>(null);
  const [fitting, setFitting] = useState(false);
  const [folder, setFolder] = useRemembered('templates.folder', '');
  const folders = [...new Set(templates.flatMap((t) => t.folder ?? []))].sort((a, b) => a.localeCompare(b));
  // A folder that is gone holds nothing back; what is searched for is found in all of them.
  const within = folders.includes(folder) && !search.active ? folder : '';
  const shown = templates.filter(
    (t) => (within === '' || t.folder === within) && search.finds(t.name, t.key, t.folder ?? ''),
  );
  const chosen = templates.find((t) => t.key === selected) ?? null;
  const keys = templates.map((t) => t.key);
  const put = async (body: Template, revision?: number) => {
    const answer = await desk.act({
      kind: 'put-document',
      what: 'template',
      body,
      ...(revision === undefined ? {} : { revision }),
    });
    if (answer.ok) setSelected(body.key);
    return answer.ok;
  };
  const [colouring, setColouring] = useState(false);
  const open = (key: string) => location.assign(`/templates/${encodeURIComponent(key)}`);
  const { item: items } = snapshot.documents;
  const samples = useMemo(
    () =>
      new Map(
        templates.map((t) => [
          t,
          samplesOf(
            t,
            mostFilled(
              t,
              items.filter((i) => i.template === t.key),
            )?.inputs,
          ),
        ]),
      ),
    [templates, items],
  );
  const zones = zonesOf(outputs);
  return (
    <>
      <aside className={shell['side']} aria-label="Templates">
        {search.box}
        {folders.length > 0 && (
          <label>
            Folder
            <select value={within} onChange={(e) => setFolder(e.target.value)}>
              <option value="">All ({templates.length})</option>
              {folders.map((f) => (
                <option key={f} value={f}>
                  {f} ({templates.filter((t) => t.folder === f).length})
                </option>
              ))}
            </select>
          </label>
        )}
        <New
          sizes={sizesOf(outputs)}
          onNew={async (name, width, height) => {
            const key = freshKey(name, keys, 'template');
            const made = { ...blank(key, name, width, height), ...(within && { folder: within }) };
            if (await put(made, 0)) open(key);
          }}
        />
        <Import
          onImport={(text) => desk.act({ kind: 'put-document', what: 'template', ...readFile(text, keys) })}
        />
        <Button aria-pressed={fitting} onClick={() => setFitting(!fitting)}>
          {fitting ? 'All templates' : 'Fit check'}
        </Button>
        <Button onClick={() => setColouring(true)}>Palette…</Button>
        {colouring && <PaletteDialog desk={desk} onClose={() => setColouring(false)} />}
        <UndoRedo desk={desk} />
        <LastAction desk={desk} />
      </aside>
      {fitting ? (
        <FitList
          desk={desk}
          snapshot={snapshot}
          templates={templates}
          onGo={({ template, layout, layer }) =>
            location.assign(
              `/templates/${encodeURIComponent(template)}#${new URLSearchParams({ layout, layer }).toString()}`,
            )
          }
        />
      ) : (
        <section className={css['grid']} aria-label="All templates">
          {templates.length === 0 && (
            <p className={shell['dim']}>No template is there yet. Make one in the size of a zone.</p>
          )}
          {templates.length > 0 && shown.length === 0 && (
            <p className={shell['dim']}>No template is named like that.</p>
          )}
          <List
            label="Templates"
            layout="grid"
            items={shown}
            idOf={(t) => t.key}
            nameOf={(t) => t.name}
            chosen={new Set(selected ? [selected] : [])}
            onChoose={([key]) => setSelected(key ?? null)}
            className={css['tiles']}
            itemClass={css['tile']}
            dataOf={(t) => ({ 'data-template': t.key })}
          >
            {(t) => (
              <span onDoubleClick={() => open(t.key)}>
                <Still desk={desk} layout={t.layouts[0]!} inputs={samples.get(t)!} />
                <b>{t.name}</b>
                <small>
                  {t.layouts[0]!.width} × {t.layouts[0]!.height}
                  {t.layouts.length > 1 && `, ${counted(t.layouts.length, 'layout')}`}
                </small>
              </span>
            )}
          </List>
        </section>
      )}
      <aside className={shell['side']} aria-label="Template">
        {chosen ? (
          <Details
            key={chosen.key}
            template={chosen}
            {...usesOf(chosen.key, snapshot.documents.item, snapshot.lanes, zones)}
            onOpen={() => open(chosen.key)}
            onRename={(name) => void put({ ...chosen, name }, desk.revisionOf('template', chosen.key))}
            folders={folders}
            onFolder={(to) => {
              const { folder: _, ...rest } = chosen;
              void put(to ? { ...rest, folder: to } : rest, desk.revisionOf('template', chosen.key));
            }}
            onDuplicate={() => {
              const name = `${chosen.name} copy`;
              void put({ ...chosen, key: freshKey(name, keys, 'template'), name }, 0);
            }}
            onDelete={() => void desk.act({ kind: 'remove-document', what: 'template', key: chosen.key })}
            make={
              <MakeItem
                template={chosen}
                outputs={outputs}
                onMake={(name, at) =>
                  void desk.act({
                    kind: 'put-item',
                    item: crypto.randomUUID(),
                    name,
                    template: chosen.key,
                    ...at,
                  })
                }
              />
            }
            versions={
              <VersionsButton
                desk={desk}
                kind="template"
                documentKey={chosen.key}
                now={chosen}
                name={chosen.name}
              />
            }
          />
        ) : (
          <p className={shell['dim']}>Choose a template to see what uses it; press it twice to open it.</p>
        )}
      </aside>
    </>
  );
}

function New({
  sizes,
  onNew,
}: {
  sizes: readonly { label: string; width: number; height: number }[];
  onNew: (name: string, width: number, height: number) => void;
}) {
  const [name, setName] = useState('');
  const [size, setSize] = useState({ width: sizes[0]?.width ?? 1920, height: sizes[0]?.height ?? 1080 });
  return (
    <form
      className={css['new']}
      aria-label="New template"
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim()) onNew(name.trim(), size.width, size.height);
      }}
    >
      <label>
        New template
        <input value={name} maxLength={80} placeholder="Name" onChange={(e) => setName(e.target.value)} />
      </label>
      <SizeChoice usual={sizes} size={size} onSize={setSize} />
      <Button type="submit" main disabled={!name.trim()}>
        Make it
      </Button>
    </form>
  );
}

/** A template out of a file, under a key that is free; the server reads it and says what is wrong. */
function readFile(text: string, keys: readonly string[]): { body: Template; revision: number } {
  let body: Partial<Template>;
  try {
    body = JSON.parse(text) as Partial<Template>;
  } catch {
    body = {};
  }
  const key = typeof body.key === 'string' ? freshKey(body.key, keys, 'template') : '';
  return { body: { ...body, key } as Template, revision: 0 };
}

function Import({ onImport }: { onImport: (text: string) => unknown }) {
  const file = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button onClick={() => file.current?.click()}>Import from a file…</Button>
      <input
        ref={file}
        type="file"
        hidden
        aria-label="Template to import"
        accept=".json"
        onChange={(e) => {
          const [one] = e.target.files ?? [];
          void one?.text().then(onImport);
          e.target.value = '';
        }}
      />
    </>
  );
}

/** Makes an item of a template, ready for the operator to take in a zone. */
function MakeItem({
  template,
  outputs,
  onMake,
}: {
  template: Template;
  outputs: readonly Output[];
  onMake: (name: string, at: { output: string; zone: string }) => void;
}) {
  const zones = zonesOf(outputs);
  // The zone that is most like one of its layouts, for a beginning.
  const near = zones.findIndex((box) =>
    template.layouts.some((l) => l.width === box.width && l.height === box.height),
  );
  const [at, setAt] = useState(Math.max(0, near));
  const [name, setName] = useState('');
  const zone = zones[at];
  return (
    <form
      className={css['make']}
      aria-label="New item"
      onSubmit={(event) => {
        event.preventDefault();
        if (!zone) return;
        onMake(name.trim() || template.name, { output: zone.output, zone: zone.zone });
        setName('');
      }}
    >
      <label>
        New item
        <input
          value={name}
          maxLength={80}
          placeholder={template.name}
          onChange={(e) => setName(e.target.value)}
        />
      </label>
      <label>
        Goes to
        <select value={at} onChange={(e) => setAt(Number(e.target.value))}>
          {zones.map((z, i) => (
            <option key={z.label} value={i}>
              {z.label}
            </option>
          ))}
        </select>
      </label>
      <Button type="submit" disabled={!zone}>
        Make an item
      </Button>
    </form>
  );
}
