import { createContext, memo, useContext, useEffect, useMemo, useRef, useState } from 'react';
import { Button as FoldButton, TreeItem, TreeItemContent, useDragAndDrop } from 'react-aria-components';
import CircleDot from 'lucide-react/icons/circle-dot';
import Eye from 'lucide-react/icons/eye';
import EyeOff from 'lucide-react/icons/eye-off';
import Folder from 'lucide-react/icons/folder';
import Hand from 'lucide-react/icons/hand';
import Image from 'lucide-react/icons/image';
import Link2 from 'lucide-react/icons/link-2';
import Lock from 'lucide-react/icons/lock';
import LockOpen from 'lucide-react/icons/lock-open';
import Shuffle from 'lucide-react/icons/shuffle';
import Slash from 'lucide-react/icons/slash';
import Square from 'lucide-react/icons/square';
import Timer from 'lucide-react/icons/timer';
import Type from 'lucide-react/icons/type';
import { KINDS, layersOf, type Layer, type LayerKind } from '../../core/layers/kinds.ts';
import type { BindingState } from '../../core/value/state.ts';
import { changingOf } from '../../core/workshop/showing.ts';
import { holdersOf } from '../../core/workshop/tree.ts';
import { RowTree, rowsAsText } from '../../ui/RowTree.tsx';
import { useSearch } from '../../ui/search.tsx';
import { useStable } from '../../ui/stable.ts';
import { tip } from '../../ui/tip.ts';
import { WORDS } from './binding-words.ts';
import css from './Layers.module.css';

/** How high a row is, in px: only those that are seen are drawn. */
const ROW = 28;

/** The sign of each kind. */
const SIGNS = {
  text: Type,
  clock: Timer,
  shape: Square,
  picture: Image,
  pips: CircleDot,
  group: Folder,
  'one-of': Shuffle,
  line: Slash,
} satisfies Record<LayerKind, unknown>;

interface Props {
  layers: readonly Layer[];
  chosen: ReadonlySet<string>;
  onChoose: (ids: ReadonlySet<string>) => void;
  hidden: ReadonlySet<string>;
  locked: ReadonlySet<string>;
  onHide: (id: string) => void;
  onLock: (id: string) => void;
  onRename: (id: string, name: string) => void;
  onMove: (ids: ReadonlySet<string>, to: { within: string | null; before: string | null }) => void;
  /** How the Values of a layer stand. */
  stateOf: (layer: Layer) => BindingState | null;
}

/** All that a row shows of its layer, as one text. */
function rowSign(layer: Layer, stateOf: Props['stateOf']): string {
  const bound = changingOf(layer).map((b) => `${b.prop} ${'input' in b.value}`);
  const state = bound.length ? stateOf(layer) : '';
  return `${layer.id}\0${layer.name}\0${layer.kind}\0${bound.join()}\0${state}`;
}

/** All that rows show of layers, as one text. */
const signOf = (layers: readonly Layer[], stateOf: Props['stateOf']): string =>
  [...layersOf(layers)].map((l) => rowSign(l, stateOf)).join('\n');

/** What of layers the tree's rows are made of: their order, names and holders. */
const shapeOf = (layers: readonly Layer[]): string =>
  layers.map((l) => `${l.id}\0${l.name}${'layers' in l ? `(${shapeOf(l.layers)})` : ''}`).join('\n');

type Marks = 'hidden' | 'locked' | 'onHide' | 'onLock' | 'onRename' | 'stateOf';
interface Rows extends Pick<Props, Marks> {
  layerOf: (id: string) => Layer | undefined;
  /** The layer whose name is being written. */
  named: string | null;
  onNaming: (id: string | null) => void;
}
/** What rows say beside their names: those that are seen take it from here, and the tree stays as it is. */
const RowsContext = createContext<Rows | null>(null);

/** The layers of a layout as they lie over each other, the topmost first. */
export function Layers(props: Props) {
  const { layers, stateOf, hidden, locked } = props;
  const [named, setNamed] = useState<string | null>(null);
  // What is done is done to the layers as they are then, though the tree was drawn before.
  const onHide = useStable(props.onHide);
  const onLock = useStable(props.onLock);
  const onRename = useStable(props.onRename);
  const sign = useMemo(() => signOf(layers, stateOf), [layers, stateOf]);
  const rows: Rows = useMemo(() => {
    const byId = new Map([...layersOf(layers)].map((l) => [l.id, l]));
    const layerOf = (id: string) => byId.get(id);
    return { hidden, locked, onHide, onLock, onRename, stateOf, layerOf, named, onNaming: setNamed };
    // oxlint-disable-next-line react/exhaustive-deps -- the sign says all that is shown of them
  }, [sign, hidden, locked, named]);
  return (
    <RowsContext value={rows}>
      <LayersTree
        layers={layers}
        shape={useMemo(() => shapeOf(layers), [layers])}
        chosen={props.chosen}
        onChoose={useStable(props.onChoose)}
        onMove={useStable(props.onMove)}
        onNaming={setNamed}
      />
    </RowsContext>
  );
}

interface TreeProps extends Pick<Props, 'layers' | 'chosen' | 'onChoose' | 'onMove'> {
  /** All that the tree itself is made of, as one text: while it is the same, nothing is drawn anew. */
  shape: string;
  onNaming: (id: string) => void;
}

const LayersTree = memo(TreeOf, (a, b) => a.shape === b.shape && a.chosen === b.chosen);

function TreeOf({ layers, shape, chosen, onChoose, onMove, onNaming }: TreeProps) {
  const search = useSearch('Find a layer');
  const [closed, setClosed] = useState<ReadonlySet<string>>(new Set());
  const all = useMemo(() => [...layersOf(layers)], [layers]);
  const holders = useMemo(() => all.filter((l) => 'layers' in l).map((l) => l.id), [all]);
  const open = new Set(holders.filter((id) => search.active || !closed.has(id)));
  /** What is found, with what holds it. */
  const found = search.active
    ? new Set(
        all
          .filter((l) => search.finds(l.name, KINDS[l.kind].word))
          .flatMap((l) => [l.id, ...(holdersOf(layers, l.id) ?? []).map((h) => h.id)]),
      )
    : null;

  const { dragAndDropHooks } = useDragAndDrop({
    getItems: rowsAsText,
    getDropOperation: (target) =>
      target.type === 'item' && target.dropPosition === 'on' && !holders.includes(String(target.key))
        ? 'cancel'
        : 'move',
    onMove: ({ keys, target }) => {
      const ids = new Set([...keys].map(String));
      const at = String(target.key);
      if (target.dropPosition === 'on') return onMove(ids, { within: at, before: null });
      const within = holdersOf(layers, at)?.at(-1)?.id ?? null;
      const list =
        within === null ? layers : (all.find((l) => l.id === within) as Layer & { layers: Layer[] }).layers;
      const place = list.findIndex((l) => l.id === at);
      // The list is shown from the top: what is dropped before a layer lies over it, and comes after it.
      const before = target.dropPosition === 'before' ? list[place + 1] : list[place];
      onMove(ids, { within, before: before?.id ?? null });
    },
  });

  // What is chosen elsewhere is brought into sight: all rows are equally high.
  const tree = useRef<HTMLDivElement>(null);
  const first = [...chosen][0];
  const at = useMemo(() => {
    const rows: string[] = [];
    const go = (list: readonly Layer[]): void =>
      [...list].reverse().forEach((l) => {
        if (found && !found.has(l.id)) return;
        rows.push(l.id);
        if ('layers' in l && open.has(l.id)) go(l.layers);
      });
    go(layers);
    return first === undefined ? -1 : rows.indexOf(first);
    // oxlint-disable-next-line react/exhaustive-deps -- only another choice moves what is seen
  }, [first]);
  useEffect(() => {
    const el = tree.current;
    if (!el || at < 0) return;
    const [top, bottom] = [at * ROW, (at + 1) * ROW];
    if (top < el.scrollTop) el.scrollTop = top;
    else if (bottom > el.scrollTop + el.clientHeight) el.scrollTop = bottom - el.clientHeight;
  }, [at]);

  const branch = (layer: Layer): React.ReactNode =>
    found && !found.has(layer.id) ? null : (
      <TreeItem
        key={layer.id}
        id={layer.id}
        textValue={layer.name}
        className={css['item']!}
        data-layer-row={layer.name}
      >
        <TreeItemContent>
          {({ hasChildItems, isExpanded, level }) => (
            <Line id={layer.id} indent={level - 1} isExpanded={hasChildItems ? isExpanded : null} />
          )}
        </TreeItemContent>
        {'layers' in layer && [...layer.layers].reverse().map(branch)}
      </TreeItem>
    );
  const rows = useMemo(
    () => [...layers].reverse().map(branch),
    // oxlint-disable-next-line react/exhaustive-deps -- many are dear to make, and of this they are made
    [shape, search.active, found && [...found].join()],
  );
  return (
    <div className={css['layers']}>
      {search.box}
      <RowTree
        ref={tree}
        rowHeight={ROW}
        aria-label="Layers"
        className={css['tree']!}
        chosen={chosen}
        all={() => all.map((l) => l.id)}
        onChoose={onChoose}
        onAction={(key) => onNaming(String(key))}
        expandedKeys={open}
        onExpandedChange={(keys) => setClosed(new Set(holders.filter((id) => !keys.has(id))))}
        dragAndDropHooks={dragAndDropHooks}
        renderEmptyState={() => <p className={css['none']}>No layer yet.</p>}
      >
        {rows}
      </RowTree>
    </div>
  );
}

function Line(place: Pick<LineProps, 'indent' | 'isExpanded'> & { id: string }) {
  const { layerOf, named, stateOf, hidden, locked, ...does } = useContext(RowsContext)!;
  const layer = layerOf(place.id);
  if (!layer) return null;
  const says = rowSign(layer, stateOf);
  const { id } = layer;
  const flags = { isHidden: hidden.has(id), isLocked: locked.has(id), naming: named === id };
  return <LineDrawn {...place} {...does} {...flags} layer={layer} says={says} state={stateOf(layer)} />;
}

interface LineProps extends Pick<Rows, 'onHide' | 'onLock' | 'onRename' | 'onNaming'> {
  layer: Layer;
  /** What is shown of the layer, as one text: while it is the same, it is not drawn anew. */
  says: string;
  state: BindingState | null;
  indent: number;
  /** Null where it holds nothing. */
  isExpanded: boolean | null;
  isHidden: boolean;
  isLocked: boolean;
  naming: boolean;
}

const LineDrawn = memo(LineOf, ({ layer: _, ...was }, { layer: __, ...is }) =>
  (Object.keys(is) as (keyof typeof is)[]).every((key) => is[key] === was[key]),
);

function LineOf({
  layer,
  state,
  indent,
  isExpanded,
  isHidden,
  isLocked,
  naming,
  onHide,
  onLock,
  onRename,
  onNaming,
}: LineProps) {
  const bound = changingOf(layer);
  const handed = bound.some(({ value }) => 'input' in value);
  const Sign = SIGNS[layer.kind];
  return (
    <div className={css['line']} style={{ paddingLeft: 2 + indent * 13 }} data-hidden={isHidden}>
      {isExpanded === null ? (
        <i className={css['leaf']} />
      ) : (
        <FoldButton slot="chevron" className={css['fold']!}>
          {isExpanded ? '▾' : '▸'}
        </FoldButton>
      )}
      <span
        className={css['kind']}
        role="img"
        aria-label={KINDS[layer.kind].word}
        {...tip(KINDS[layer.kind].word)}
      >
        <Sign size={14} />
      </span>
      {naming ? (
        <input
          autoFocus
          defaultValue={layer.name}
          maxLength={80}
          aria-label={`Name of ${layer.name}`}
          onFocus={(e) => e.target.select()}
          onKeyDown={(e) => {
            e.stopPropagation();
            if (e.key === 'Escape') e.currentTarget.value = layer.name;
            if (e.key === 'Enter' || e.key === 'Escape') e.currentTarget.blur();
          }}
          onBlur={(e) => {
            const name = e.target.value.trim();
            if (name && name !== layer.name) onRename(layer.id, name);
            onNaming(null);
          }}
        />
      ) : (
        <span className={css['name']} onDoubleClick={() => onNaming(layer.id)}>
          {layer.name}
        </span>
      )}
      {bound.length > 0 && (
        <span
          className={css['bound']}
          role="img"
          data-state={state ?? undefined}
          aria-label={
            handed ? `handed to the operator, ${state ?? 'hidden now'}` : `bound, ${state ?? 'hidden now'}`
          }
          {...tip(
            [
              ...bound.map(({ property, value }) =>
                'input' in value ? `The operator fills in: ${property.label}` : `${property.label} is bound`,
              ),
              state && WORDS[state],
            ].join('\n'),
          )}
        >
          {handed ? <Hand size={13} /> : <Link2 size={13} />}
        </span>
      )}
      <FoldButton
        className={css['mark']!}
        aria-label={isLocked ? `Unlock ${layer.name}` : `Lock ${layer.name}`}
        data-on={isLocked || undefined}
        onPress={() => onLock(layer.id)}
      >
        {isLocked ? <Lock size={13} /> : <LockOpen size={13} />}
      </FoldButton>
      <FoldButton
        className={css['mark']!}
        aria-label={isHidden ? `Show ${layer.name} here` : `Hide ${layer.name} here`}
        data-on={isHidden || undefined}
        onPress={() => onHide(layer.id)}
      >
        {isHidden ? <EyeOff size={13} /> : <Eye size={13} />}
      </FoldButton>
    </div>
  );
}
