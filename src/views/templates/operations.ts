import { isValue } from '../../core/layers/property.ts';
import type { Layer, Layout } from '../../core/layers/kinds.ts';
import { aligned, around, type Edge } from '../../core/workshop/boxes.ts';
import type { Box } from '../../core/text/fit.ts';
import { freshId } from '../../core/text/keys.ts';
import { scaleLayer } from '../../core/workshop/layouts.ts';
import { bindTo, propertyFor } from '../../core/workshop/showing.ts';
import * as tree from '../../core/workshop/tree.ts';
import type { Carried } from './carried.ts';
import type { Changed } from '../shared/Handles.tsx';
import type { Template } from '../../core/documents/template.ts';
import type { DocumentSession } from '../shared/document-session.ts';

/** How far a duplicate stands from what it is of, in px. */
const OFFSET = { x: 16, y: 16 };

/** What was duplicated last: the copies, and where each one was made of stood. */
let lastCopies: readonly { id: string; from: { x: number; y: number } }[] = [];

/** What was copied, for this page and others of the same browser. */
const CLIP = 'foothill.layers';

type Size = Pick<Box, 'width' | 'height'>;

/** Layers in words: the name of one, or how many. */
export const nameOf = (layers: readonly Layer[]) =>
  layers.length === 1 ? layers[0]!.name : `${layers.length} layers`;

/** Where the corner of a group stands in the layout. */
export function cornerOf(layout: Layout, id: string): { x: number; y: number } {
  const place = tree.placeOf(layout.layers, id);
  if (!place) return { x: 0, y: 0 };
  const from = tree.originOf(layout.layers, id);
  const box = tree.boxOf(place.list[place.at]!);
  return { x: from.x + box.x, y: from.y + box.y };
}

/** How large something stands that is put down: as it is by itself, but half as large as the layout at most. px. */
function sizeWithin({ width, height }: Size, layout: Size): [width: number, height: number] {
  const share = Math.min(1, layout.width / 2 / width, layout.height / 2 / height);
  return [Math.max(1, Math.round(width * share)), Math.max(1, Math.round(height * share))];
}

interface Bench {
  change: DocumentSession<Template>['change'];
  layout: Layout;
  chosen: ReadonlySet<string>;
  /** Of the chosen ones those that no other chosen one holds. */
  top: readonly Layer[];
  /** The group that was entered: what is made comes into it. */
  inside: string | null;
  choose: (ids: ReadonlySet<string>) => void;
}

export type Operations = ReturnType<typeof operations>;

/** What can be done with the layers that are chosen, each as one step that can be taken back. */
export function operations({ change, layout, chosen, top, inside, choose }: Bench) {
  /** Changes the layout that is worked at. */
  const edit = (text: string, recipe: (layout: Layout) => void, entry?: string) =>
    change(text, (draft) => recipe(draft.layouts.find((l) => l.key === layout.key)! as Layout), entry);
  const inDraft = (draft: Layout, id: string) => tree.placeOf(draft.layers, id)!;
  const setBoxes = (text: string, boxes: ReadonlyMap<string, Changed>, entry?: string) =>
    edit(
      text,
      (draft) => {
        for (const [id, part] of boxes) {
          const { list, at } = inDraft(draft, id);
          const layer = list[at]!;
          if (tree.holds(layer)) {
            // What a group holds grows with it.
            const was = tree.boxOf(layer);
            const share = (now: number | undefined, before: number) =>
              now === undefined || before === 0 ? 1 : now / before;
            scaleLayer(layer, share(part.width, was.width), share(part.height, was.height));
          }
          for (const [prop, n] of Object.entries(part))
            if (!isValue((list[at] as never)[prop]))
              (list[at] as unknown as Record<string, number>)[prop] = n;
        }
      },
      entry,
    );
  /** Sets a property of layers, each to what stands at its place; what is undefined is said no more. */
  const set = (
    text: string,
    layers: readonly Layer[],
    prop: string,
    held: readonly unknown[],
    entry?: string,
  ) =>
    edit(
      text,
      (draft) => {
        for (const [i, { id }] of layers.entries()) {
          const { list, at } = inDraft(draft, id);
          const layer = list[at] as unknown as Record<string, unknown>;
          if (held[i] === undefined) delete layer[prop];
          else layer[prop] = held[i];
        }
      },
      entry,
    );
  /** Binds layers to what is put onto them, each by the property that it belongs in. */
  const put = ({ name, what, value }: Carried, layers: readonly Layer[]) =>
    edit(
      'fixed' in value ? `Put ${name} into ${nameOf(layers)}` : `Bound ${nameOf(layers)} to ${name}`,
      (draft) => {
        for (const { id } of layers) {
          const { list, at } = inDraft(draft, id);
          const layer = list[at]!;
          const prop = propertyFor(layer.kind, what);
          if (prop === null) continue;
          bindTo(layer, prop, value);
        }
      },
    );
  /** A new layer that shows what is put down where there is none. */
  const putDown = (carried: Carried, { x, y }: { x: number; y: number }) => {
    const { what, name, value, size } = carried;
    const kind =
      what === 'clock' ? 'clock' : what === 'picture' ? 'picture' : what === 'colour' ? 'shape' : 'text';
    const [width, height] = size
      ? sizeWithin(size, layout)
      : [Math.round(layout.width / 5), Math.round(layout.height / 14)];
    const from = inside === null ? { x: 0, y: 0 } : cornerOf(layout, inside);
    const box = {
      x: Math.round(x - from.x - width / 2),
      y: Math.round(y - from.y - height / 2),
      width,
      height: kind === 'picture' && !size ? width : height,
    };
    const prop = propertyFor(kind, what);
    if (prop === null) return;
    const made = { ...tree.newLayer(layout, kind, box), name: name.slice(0, 80) } as Layer;
    bindTo(made, prop, value);
    if (made.kind === 'text') made.sample = name;
    add([made], `Drew ${name}`);
  };
  const remove = () => {
    if (top.length === 0) return;
    edit(`Deleted ${nameOf(top)}`, (draft) => tree.remove(draft, chosen));
    choose(new Set());
  };
  const add = (made: Layer[], text: string) => {
    edit(text, (draft) => {
      const within = inside === null ? null : tree.placeOf(draft.layers, inside);
      const holder = within?.list[within.at];
      (holder && tree.holds(holder) ? holder.layers : draft.layers).push(...made);
    });
    choose(new Set(made.map((l) => l.id)));
  };
  /** A copy beside; where the last copy was moved, the next one goes as much further. `inPlace` lies over what it is of. */
  const duplicate = (inPlace = false) => {
    if (top.length === 0) return;
    const again = lastCopies.length === top.length && lastCopies.every((c, i) => c.id === top[i]!.id);
    const from = again ? lastCopies[0]!.from : null;
    const now = tree.boxOf(top[0]!);
    const by = inPlace ? { x: 0, y: 0 } : from ? { x: now.x - from.x, y: now.y - from.y } : OFFSET;
    const made = tree.copiesOf(layout, top, by);
    lastCopies = made.map((l, i) => ({ id: l.id, from: tree.boxOf(top[i]!) }));
    add(made, `Duplicated ${nameOf(top)}`);
  };
  const copy = () => {
    if (top.length === 0) return;
    try {
      localStorage.setItem(CLIP, JSON.stringify(top));
    } catch {
      // A browser that keeps nothing copies nothing to other windows.
    }
    void navigator.clipboard?.writeText(JSON.stringify(top, null, 2)).catch(() => {});
  };
  const paste = () => {
    let layers: Layer[];
    try {
      layers = JSON.parse(localStorage.getItem(CLIP) ?? '[]') as Layer[];
    } catch {
      return;
    }
    if (layers.length) add(tree.copiesOf(layout, layers, { x: 0, y: 0 }), `Pasted ${nameOf(layers)}`);
  };
  const nudge = (x: number, y: number) => {
    if (top.length === 0) return;
    const boxes = new Map(top.map((l) => [l.id, { x: tree.boxOf(l).x + x, y: tree.boxOf(l).y + y }]));
    setBoxes(`Moved ${nameOf(top)}`, boxes, `nudge ${[...chosen].join(' ')}`);
  };
  const arrange = (text: string, of: (boxes: Box[]) => Box[]) => {
    // Layers of several groups are compared where they stand in the layout.
    const from = top.map((l) => tree.originOf(layout.layers, l.id));
    const boxes = top.map((l, i) => {
      const b = tree.boxOf(l);
      return { ...b, x: b.x + from[i]!.x, y: b.y + from[i]!.y };
    });
    const placed = of(boxes);
    setBoxes(
      `${text} ${nameOf(top)}`,
      new Map(top.map((l, i) => [l.id, { x: placed[i]!.x - from[i]!.x, y: placed[i]!.y - from[i]!.y }])),
    );
  };
  const sheet = { x: 0, y: 0, width: layout.width, height: layout.height };
  const align = (edge: Edge) =>
    arrange('Aligned', (boxes) => aligned(boxes, edge, boxes.length > 1 ? around(boxes)! : sheet));
  const group = (kind: 'group' | 'one-of' = 'group') => {
    if (top.length === 0) return;
    const id = freshId(tree.idsOf(layout), kind);
    const text = kind === 'group' ? `Grouped ${nameOf(top)}` : `Made one of ${nameOf(top)} show`;
    edit(text, (draft) => void tree.group(draft, chosen, kind, id));
    choose(new Set([id]));
  };
  const ungroup = () => {
    const inner = top.flatMap((l) => (tree.holds(l) ? l.layers.map((x) => x.id) : [l.id]));
    edit(`Ungrouped ${nameOf(top)}`, (draft) => void tree.ungroup(draft, chosen));
    choose(new Set(inner));
  };
  const order = (to: Parameters<typeof tree.order>[2]) =>
    edit(
      `Put ${nameOf(top)} ${to === 'front' || to === 'forward' ? 'further up' : 'further down'}`,
      (draft) => tree.order(draft, chosen, to),
    );
  return {
    edit,
    inDraft,
    set,
    put,
    putDown,
    setBoxes,
    remove,
    add,
    duplicate,
    copy,
    paste,
    nudge,
    arrange,
    align,
    group,
    ungroup,
    order,
  };
}
