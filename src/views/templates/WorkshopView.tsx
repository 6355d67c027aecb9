import { useMemo, useRef, useState } from 'react';
import type { Scalar } from '../../core/board/values.ts';
import type { Template } from '../../core/documents/template.ts';
import { layersOf, type Layer, type LayerKind, type Layout } from '../../core/layers/kinds.ts';
import type { Value } from '../../core/value/value.ts';
import { shownIn } from '../../core/layers/shown.ts';
import { plainId, unseen, withFaint } from '../../core/workshop/faint.ts';
import { changingOf, propertyFor } from '../../core/workshop/showing.ts';
import { bindingState, worstOf } from '../../core/value/state.ts';
import * as tree from '../../core/workshop/tree.ts';
import { Button } from '../../ui/Button.tsx';
import { arrowOf, useKeys } from '../../ui/keys.ts';
import { later } from '../../ui/Later.tsx';
import { useRemembered } from '../../ui/remembered.ts';
import { useStable } from '../../ui/stable.ts';
import { UndoRedoButtons, useUndoKeys } from '../shared/UndoRedo.tsx';
import { useDocumentSession } from '../shared/document-session.ts';
import { Saved } from '../shared/Saved.tsx';
import { scopeOf } from '../shared/scope.ts';
import { useKnown } from '../shared/use-desk.ts';
import { VersionsButton } from '../shared/Versions.tsx';
import { View, type Seen } from '../shared/View.tsx';
import shell from '../shared/View.module.css';
import { chipWords } from '../value/chips.ts';
import type { ValueContext } from '../value/context.ts';
import type { Behind } from './Canvas.tsx';
import { usesOf } from './samples.ts';
import { zonesOf } from '../shared/zones.ts';
import { useToggled, without } from './hidden.ts';
import { Side } from './Side.tsx';
import { Left } from './Left.tsx';
import { useBindingStates, useShowing } from './showing.ts';
import { cornerOf, nameOf, operations } from './operations.ts';
import { DRAWN, Tools } from './Tools.tsx';
import { useFiles } from './use-files.tsx';
import css from './WorkshopView.module.css';

const Canvas = later(() => import('./Canvas.tsx').then((m) => m.Canvas));
const LayoutMenu = later(() => import('./LayoutMenu.tsx').then((m) => m.LayoutMenu));
const ExportMenu = later(() => import('./ExportMenu.tsx').then((m) => m.ExportMenu));
const Changes = later(() => import('./Changes.tsx').then((m) => m.Changes));

/** The workshop of one template. */
export default function WorkshopView({ template }: { template: string }) {
  return (
    <View here="/templates" columns="minmax(0, 1fr)" ownUndo>
      {(seen) => {
        const saved = seen.snapshot.documents.template.find((t) => t.key === template);
        return saved ? (
          <Bench {...seen} saved={saved} />
        ) : (
          <section className={shell['waiting']}>
            There is no template “{template}”; it may have been deleted.{' '}
            <a href="/templates">All templates</a>
          </section>
        );
      }}
    </View>
  );
}

function Bench({ desk, snapshot, saved }: Seen & { saved: Template }) {
  const uses = usesOf(saved.key, snapshot.documents.item, snapshot.lanes, zonesOf(snapshot.documents.output));
  const onAir = uses.onAir.length > 0;
  const ahead = useRef<() => void>(null);
  const work = useDocumentSession(desk, 'template', saved, onAir, () => ahead.current?.());
  const { doc: template, change } = work;
  const [layoutKey, setLayoutKey] = useState(
    () => new URLSearchParams(location.hash.slice(1)).get('layout') ?? template.layouts[0]!.key,
  );
  const layout = template.layouts.find((l) => l.key === layoutKey) ?? template.layouts[0]!;
  // The fit check of the library leads to a layer.
  const asked = useMemo(() => new URLSearchParams(location.hash.slice(1)), []);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(
    () => new Set(asked.has('layer') ? [asked.get('layer')!] : []),
  );
  const [inside, setInside] = useState<string | null>(null);
  const [hidden, toggleHidden] = useToggled();
  const [locked, toggleLocked] = useToggled();
  const [drawing, setDrawing] = useState<LayerKind | null>(null);
  const [dialog, setDialog] = useState<'layouts' | 'export' | null>(null);
  const [zoom, setZoom] = useState<number | null>(null);
  const [behind, setBehind] = useRemembered('workshop.behind', 'checker');
  const [safe, setSafe] = useRemembered('workshop.safe', 'off');
  const [guides, setGuides] = useRemembered('workshop.guides', 'on');
  const tables = useKnown(desk, 'tables');
  const [filled, setFilled] = useState<Record<string, Scalar>>({});
  const [changes, setChanges] = useState(false);
  const words = useStable((value: Value): string => chipWords(value, context));
  const showing = useShowing(desk, snapshot, template, filled, words);
  const samples = showing.inputs;
  const board = showing.board ?? desk;
  const context: ValueContext = useMemo(
    () => ({
      defs: snapshot.defs,
      tables,
      inputs: samples,
      inputNames: new Map(template.inputs.map((i) => [i.key, i.label])),
      now: 'the board now',
      scope: scopeOf(board, samples),
    }),
    [board, snapshot.defs, tables, samples, template.inputs],
  );
  const known = useBindingStates(desk, template);
  const stateOf = useMemo(() => {
    const shown = new Set([...shownIn(layout.layers, context.scope)].map((s) => s.layer.id));
    return (layer: Layer) => {
      const state = worstOf(changingOf(layer).map(({ value }) => bindingState(value, known)));
      // What only another sport shows asks for what only that has.
      return state === 'missing' && !shown.has(layer.id) ? null : state;
    };
  }, [known, layout, context]);
  const faint = unseen(layout, chosen, context.scope);
  const drawnNow = (of: Layout) => withFaint(showing.drawn(without(of, hidden)), faint, words);
  const shownLayout = useMemo(
    () => drawnNow(layout),
    // oxlint-disable-next-line react/exhaustive-deps -- how it is drawn is another when another is chosen
    [layout, hidden, showing.chosen, faint.map((f) => f.layer.id).join(' ')],
  );
  const picked = [...layersOf(layout.layers)].filter((l) => chosen.has(l.id));
  const top = tree.outermost(layout.layers, chosen);

  const ops = operations({ change, layout, chosen, top, inside, choose: setChosen });
  const files = useFiles(desk, snapshot, template, layout, ops);
  const chooseLayout = (key: string) => {
    setChosen(new Set());
    setInside(null);
    setLayoutKey(key);
  };
  const escape = () => {
    if (drawing) return setDrawing(null);
    if (chosen.size) return setChosen(new Set());
    setInside(null);
  };
  useUndoKeys({ undo: work.goBack, redo: work.goForth });
  useKeys({
    'ctrl+s': () => work.save(),
    'ctrl+a': () => setChosen(new Set(layout.layers.filter((l) => !locked.has(l.id)).map((l) => l.id))),
    'ctrl+c': ops.copy,
    'ctrl+x': () => {
      ops.copy();
      ops.remove();
    },
    'ctrl+v': ops.paste,
    'ctrl+d': () => ops.duplicate(),
    'ctrl+shift+d': () => ops.duplicate(true),
    'ctrl+g': () => ops.group(),
    'ctrl+]': () => ops.order('forward'),
    'ctrl+[': () => ops.order('backward'),
    'ctrl+shift+]': () => ops.order('front'),
    'ctrl+shift+}': () => ops.order('front'),
    'ctrl+shift+[': () => ops.order('back'),
    'ctrl+shift+{': () => ops.order('back'),
    'ctrl+shift+g': ops.ungroup,
    delete: ops.remove,
    backspace: ops.remove,
    escape,
    w: () => setChanges(!changes),
    ...Object.fromEntries(
      DRAWN.flatMap(([kind, , key]) => (key ? [[key.toLowerCase(), () => setDrawing(kind)]] : [])),
    ),
  });

  return (
    <section
      className={css['bench']}
      aria-label={template.name}
      onKeyDown={(event) => {
        // Arrow keys go on while they are held, and are the canvas's alone.
        if (!(event.target as Element).closest('[data-canvas]')) return;
        const go = arrowOf(event);
        if (!go) return;
        event.preventDefault();
        if (chosen.size === 0) return showing.records?.step(Math.sign(go[0] + go[1]));
        ops.nudge(...go);
      }}
    >
      <header className={css['top']}>
        <a href="/templates">Templates</a>
        <h2>{template.name}</h2>
        {template.layouts.length > 1 && (
          <select aria-label="Layout" value={layout.key} onChange={(e) => chooseLayout(e.target.value)}>
            {template.layouts.map((l) => (
              <option key={l.key} value={l.key}>
                {l.key}, {l.width} × {l.height}
              </option>
            ))}
          </select>
        )}
        <Button onClick={() => setDialog('layouts')}>Layouts…</Button>
        <Button
          onClick={files.choose}
          data-tip="Drawings (SVG), pictures and loops; or drop them on the sheet"
        >
          Import…
        </Button>
        <Button onClick={() => setDialog('export')}>Export…</Button>
        <VersionsButton
          desk={desk}
          kind="template"
          documentKey={saved.key}
          now={saved}
          name={template.name}
        />
        <Saved work={work} onAir={uses.onAir} />
        {files.said && (
          <span className={css['said']} role="status" aria-label="Import">
            {files.said}
          </span>
        )}
        {files.parts}
        <span className={css['gap']} />
        <UndoRedoButtons undo={work.undo} redo={work.redo} onUndo={work.goBack} onRedo={work.goForth} />
      </header>
      {dialog === 'export' && (
        <ExportMenu
          desk={desk}
          template={template}
          layout={showing.drawn(layout)}
          chosen={chosen}
          inputs={samples}
          board={showing.board}
          all={snapshot.documents.template}
          onClose={() => setDialog(null)}
        />
      )}
      {dialog === 'layouts' && (
        <LayoutMenu
          template={template}
          layout={layout}
          outputs={snapshot.documents.output}
          onClose={() => setDialog(null)}
          onChoose={chooseLayout}
          onAdd={(made) => {
            change(`Added the layout ${made.key}`, (draft) => void draft.layouts.push(made));
            chooseLayout(made.key);
          }}
          onSize={(width, height) =>
            ops.edit(
              `Changed the size of ${layout.key}`,
              (draft) => Object.assign(draft, { width, height }),
              `size ${layout.key}`,
            )
          }
          onRemove={() =>
            change(
              `Deleted the layout ${layout.key}`,
              (draft) => void (draft.layouts = draft.layouts.filter((l) => l.key !== layout.key)),
            )
          }
        />
      )}
      <Tools
        drawing={drawing}
        onDraw={setDrawing}
        showing={{
          ...showing,
          choose: (key) => {
            setFilled({});
            showing.choose(key);
          },
        }}
        changes={changes}
        onChanges={setChanges}
        behind={behind}
        onBehind={setBehind}
        safe={safe === 'on'}
        onSafe={(on) => setSafe(on ? 'on' : 'off')}
        guides={guides === 'on'}
        onGuides={(on) => setGuides(on ? 'on' : 'off')}
        zoom={zoom}
        onZoom={setZoom}
      />
      <Left
        {...{ desk, context, layout, picked, ops, stateOf, hidden, locked, chosen }}
        inputs={template.inputs}
        media={snapshot.media}
        onChoose={setChosen}
        onHide={toggleHidden}
        onLock={toggleLocked}
      />
      <div className={css['canvas']}>
        {faint[0] && (
          <p className={css['faint']} role="status" aria-label="What does not show">
            {faint[0].layer.name} does not show: {faint[0].why}
            {faint.length > 1 && ` (and ${faint.length - 1} more)`}
          </p>
        )}
        <Canvas
          desk={desk}
          layout={shownLayout}
          inputs={samples}
          board={showing.board}
          takes={(id, what) => {
            const layer = [...layersOf(layout.layers)].find((l) => l.id === id);
            return !!layer && (what === null || propertyFor(layer.kind, what.what) !== null);
          }}
          onDropped={(what, id, at) => {
            if (id === null) return ops.putDown(what, at);
            ops.put(
              what,
              [...layersOf(layout.layers)].filter((l) => l.id === id),
            );
            setChosen(new Set([id]));
          }}
          onFiles={(list, at) => void files.take(list, at)}
          over={
            changes
              ? (geometry) => (
                  <Changes
                    {...{ desk, snapshot, template, layout, context, known, chosen, geometry }}
                    onChoose={setChosen}
                  />
                )
              : undefined
          }
          chosen={chosen}
          onChoose={(ids) => setChosen(new Set([...ids].map(plainId)))}
          onChanged={(changes, text) => ops.setBoxes(`${text} ${nameOf(top)}`, changes)}
          locked={locked}
          drawing={drawing}
          onDrawn={(box) => {
            const kind = drawing!;
            setDrawing(null);
            const from = inside === null ? { x: 0, y: 0 } : cornerOf(layout, inside);
            ops.add(
              [tree.newLayer(layout, kind, { ...box, x: box.x - from.x, y: box.y - from.y })],
              `Drew a ${DRAWN.find(([k]) => k === kind)![1].toLowerCase()}`,
            );
          }}
          inside={inside}
          onEnter={setInside}
          zoom={zoom}
          onZoom={setZoom}
          latest={() => {
            const now = work.newest().layouts.find((l) => l.key === layout.key);
            return now && now !== layout ? drawnNow(now) : shownLayout;
          }}
          ahead={ahead}
          behind={behind as Behind}
          safe={safe === 'on'}
          guides={guides === 'on'}
          onGuides={(lines, text) => ops.edit(text, (draft) => void (draft.guides = lines))}
          empty={
            <p>
              Nothing is here yet.
              <br />
              Press T and drag to draw a text, R for a shape.
            </p>
          }
        />
      </div>
      <Side
        {...{ desk, snapshot, work, layout, picked, top, ops, context }}
        filled={samples}
        onFill={(part) => setFilled({ ...filled, ...part })}
        onGo={(at) => {
          chooseLayout(at.layout);
          setChosen(new Set([at.layer]));
        }}
      />
    </section>
  );
}
