import type { Layer, LayerKind, LayerOf } from '../../core/layers/kinds.ts';
import type { LayerView, Mount } from './base.ts';
import { ClockView } from './clock.ts';
import { GroupView, OneOfView } from './group.ts';
import { LineView } from './line.ts';
import { PictureView } from './picture.ts';
import { PipsView } from './pips.ts';
import { ShapeView } from './shape.ts';
import { TextView } from './text.ts';

/** How each layer kind is drawn. */
const VIEWS: { [K in LayerKind]: new (layer: LayerOf<K>, mount: Mount) => LayerView<K> } = {
  text: TextView,
  clock: ClockView,
  shape: ShapeView,
  picture: PictureView,
  pips: PipsView,
  group: GroupView,
  'one-of': OneOfView,
  line: LineView,
};

/** Makes the view of a layer, and of the layers within it. */
const build = (layer: Layer, mount: Mount): LayerView =>
  new (VIEWS[layer.kind] as new (layer: Layer, mount: Mount) => LayerView)(layer, mount);

/**
 * Makes the layers that stand in an element those that are given, in their order. A layer that stands already, known by its
 * id, becomes what it is now, without a break in what it shows.
 */
export function mountLayers(layers: readonly Layer[], within: HTMLElement, mount: Mount): void {
  let before: HTMLElement | null = null;
  for (const layer of layers) {
    mount.guard(layer, () => void viewOf(layer, mount));
    const el = mount.views.get(layer.id)?.el;
    if (!el) continue;
    if (el.parentElement !== within || layerBefore(el) !== before)
      within.insertBefore(el, before ? before.nextSibling : within.firstChild);
    before = el;
  }
}

function viewOf(layer: Layer, mount: Mount): LayerView {
  const known = mount.views.get(layer.id);
  if (known?.layer.kind === layer.kind) {
    known.update(layer as never);
    return known;
  }
  known?.remove();
  return build(layer, mount);
}

/** The layer's element before this one, if any; copies of texts that leave are none. */
function layerBefore(el: HTMLElement): Element | null {
  let at = el.previousElementSibling;
  while (at && !at.hasAttribute('data-id')) at = at.previousElementSibling;
  return at;
}
