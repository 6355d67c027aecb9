import { useMemo, useRef, useState } from 'react';
import { freeNumber, type Item } from '../../core/show/item.ts';
import { stateOfItem } from '../../core/show/item-state.ts';
import { modelOf } from '../../core/show/model.ts';
import {
  grouped,
  inOrder,
  parseModel,
  RUNDOWN,
  type Group,
  type RundownModel,
} from '../../core/show/rundown.ts';
import { isOnAir } from '../../core/show/show.ts';
import { freshKey } from '../../core/text/keys.ts';
import { Button } from '../../ui/Button.tsx';
import { downloadJson } from '../../ui/download.ts';
import { useKeys } from '../../ui/keys.ts';
import { laterDialog } from '../../ui/Later.tsx';
import { useSearch } from '../../ui/search.tsx';
import { Recall } from '../shared/Recall.tsx';
import { groupsOf } from '../shared/rundown.ts';
import { saveDocument } from '../shared/save.ts';
import { placeName } from '../shared/zones.ts';
import { clockTime } from '../shared/time.ts';
import { UndoRedo } from '../shared/UndoRedo.tsx';
import { LastAction } from '../shared/Said.tsx';
import { View, type Seen } from '../shared/View.tsx';
import shell from '../shared/View.module.css';
import { ItemPanel } from './ItemPanel.tsx';
import { RundownTree } from './RundownTree.tsx';
import { SeveralPanel } from './SeveralPanel.tsx';
import css from './RundownView.module.css';

const NewItem = laterDialog(() => import('./NewItem.tsx').then((m) => m.NewItem));
const FillDialog = laterDialog(() => import('./FillDialog.tsx').then((m) => m.FillDialog));
const ModelDialog = laterDialog(() => import('./ModelDialog.tsx').then((m) => m.ModelDialog));

/** The items of the night in their order: what each is, where it goes, and how it stands. */
export default function RundownView() {
  return (
    <View here="/rundown" columns="minmax(0, 1fr) minmax(380px, 34%)">
      {(seen) => <Rundown {...seen} />}
    </View>
  );
}

type Asked = 'new' | 'fill' | 'models' | { model: RundownModel };

function Rundown({ desk, snapshot }: Seen) {
  const { documents, lanes } = snapshot;
  const { item: items, template: templates, output: outputs } = documents;
  const groups = groupsOf(snapshot);
  const [chosen, choose] = useState<ReadonlySet<string>>(() => {
    // A way from elsewhere may lead to one item.
    const asked = new URLSearchParams(location.search).get('item');
    return new Set(asked === null ? [] : [asked]);
  });
  const [asked, ask] = useState<Asked | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const search = useSearch('Find an item');
  const [fresh, setFresh] = useState<string | null>(null);
  const file = useRef<HTMLInputElement>(null);

  const byKey = useMemo(() => new Map(templates.map((t) => [t.key, t])), [templates]);
  const templateOf = (item: Item) => byKey.get(item.template);
  const placesOf = (item: Item) =>
    [
      byKey.get(item.template)?.name ?? `template “${item.template}” is missing`,
      item.zones.map((z) => placeName(outputs, z)).join(' · ') || 'no zone',
    ].join(' — ');
  const stateOf = (item: Item) =>
    stateOfItem(item, { template: templateOf(item), outputs, lanes }, clockTime);
  const order = inOrder(groups, items);
  const found = search.active
    ? items.filter((i) =>
        search.finds(
          i.name,
          String(i.number),
          i.note,
          placesOf(i),
          stateOf(i).says,
          Object.values(i.inputs).join(' '),
        ),
      )
    : items;
  // An empty group is there to drop into; while something is looked for it is in the way.
  const shown = grouped(groups, found).filter((g) => !search.active || g.items.length > 0);
  const mine = order.filter((i) => chosen.has(i.key));
  const [only] = mine;

  const setOrder = (next: Group[]) => {
    void saveDocument(desk, 'rundown', { schema: 1, key: RUNDOWN, groups: next });
  };
  const addGroup = () => {
    const names = new Set(groups.map((g) => g.name));
    let n = 1;
    while (names.has(`Group ${n}`)) n++;
    const key = freshKey(`group ${n}`, (k) => groups.some((g) => g.key === k), 'group');
    setOrder([...groups, { key, name: `Group ${n}`, items: [] }]);
    setFresh(key);
  };
  /** Copies of items, each after the one that it is of. */
  const duplicate = (of: readonly Item[]) => {
    const all = [...items];
    const copies = of.map((item) => {
      const copy: Item = {
        ...item,
        key: freshKey(`${item.name} copy`, (k) => all.some((i) => i.key === k), 'item'),
        name: `${item.name} copy`.slice(0, 80),
        number: freeNumber(all),
        hotkey: '',
        aired: null,
      };
      all.push(copy);
      return copy;
    });
    const after = new Map(of.map((item, i) => [item.key, copies[i]!.key]));
    void desk
      .act({
        kind: 'put-items',
        items: copies,
        groups: groups.map((g) => ({
          ...g,
          items: g.items.flatMap((key) => (after.has(key) ? [key, after.get(key)!] : [key])),
        })),
        copies: true,
      })
      .then((answer) => answer.ok && choose(new Set(copies.map((c) => c.key))));
  };
  const importFile = async (chosenFile: File) => {
    setProblem(null);
    try {
      const read = parseModel(JSON.parse(await chosenFile.text()));
      if (read.ok) ask({ model: read.value });
      else setProblem(`${chosenFile.name} is no rundown: ${read.problems[0]}.`);
    } catch {
      setProblem(`${chosenFile.name} is no rundown: it is not JSON.`);
    }
  };
  useKeys({
    'ctrl+d': () => mine.length > 0 && duplicate(mine),
    delete: () => {
      const off = mine.filter((i) => !isOnAir(lanes, i.key));
      // One undo brings them back, which the line below says.
      if (off.length) void desk.act({ kind: 'remove-item', items: off.map((i) => i.key) });
    },
    escape: () => choose(new Set()),
  });

  return (
    <>
      <section className={css['rundown']} aria-label="Rundown">
        <header className={shell['bar']}>
          {search.box}
          <Button main onClick={() => ask('new')}>
            New item…
          </Button>
          <Button onClick={() => ask('fill')}>From rows…</Button>
          <Button onClick={() => ask('models')}>Models…</Button>
          <Button
            disabled={items.length === 0}
            onClick={() =>
              downloadJson(modelOf({ key: 'rundown', name: 'Rundown' }, groups, items), 'rundown.json')
            }
          >
            Export
          </Button>
          <Button onClick={() => file.current?.click()}>Import…</Button>
          <input
            ref={file}
            type="file"
            hidden
            aria-label="Rundown to import"
            accept=".json,application/json"
            onChange={(e) => {
              const [first] = e.target.files ?? [];
              if (first) void importFile(first);
              e.target.value = '';
            }}
          />
        </header>
        <div className={css['line']}>
          <Recall desk={desk} items={items} onNext={(item) => choose(new Set([item.key]))} />
          <LastAction desk={desk} instead={problem} />
          <Button onClick={addGroup}>Add group</Button>
          <UndoRedo desk={desk} />
        </div>
        <RundownTree
          {...{ desk, shown, groups, chosen, fresh, templateOf, stateOf, placesOf }}
          next={new Set(lanes.flatMap((l) => (l.onAir?.item === l.next ? [] : (l.next ?? []))))}
          onChoose={choose}
          onOrder={setOrder}
          onFresh={() => setFresh(null)}
          onRename={(key, name) => setOrder(groups.map((g) => (g.key === key ? { ...g, name } : g)))}
          onRemove={(key) => setOrder(groups.filter((g) => g.key !== key))}
          searching={search.active}
          empty={
            <p className={css['none']}>
              {search.active
                ? 'No item is found by that.'
                : 'No item yet. Make one of a template, or bring a model in.'}
            </p>
          }
        />
      </section>
      {mine.length > 1 ? (
        <SeveralPanel
          {...{ desk, snapshot, groups }}
          items={mine}
          onDuplicate={() => duplicate(mine)}
          onOrder={setOrder}
        />
      ) : only ? (
        <ItemPanel
          key={only.key}
          {...{ desk, snapshot }}
          item={only}
          items={order}
          onDuplicate={() => duplicate([only])}
        />
      ) : (
        <aside className={shell['side']} aria-label="Item">
          <p className={shell['dim']}>
            Choose an item to see it with today’s data, and to change it. Ctrl and Shift choose several.
          </p>
        </aside>
      )}
      {asked === 'new' && (
        <NewItem
          {...{ desk, snapshot, groups }}
          onMade={(key) => choose(new Set([key]))}
          onClose={() => ask(null)}
        />
      )}
      {asked === 'fill' && <FillDialog {...{ desk, snapshot, groups }} onClose={() => ask(null)} />}
      {(asked === 'models' || typeof asked === 'object') && asked !== null && (
        <ModelDialog
          {...{ desk, snapshot, groups }}
          brought={typeof asked === 'object' ? asked.model : null}
          onClose={() => ask(null)}
        />
      )}
    </>
  );
}
