import { isClock } from '../../core/board/values.ts';
import { clockAt } from '../../core/clock/clock.ts';
import {
  contentsOf,
  type Layer,
  type LayerKind,
  type LayerOf,
  type LayerProps,
} from '../../core/layers/kinds.ts';
import { enter, exit, idle, lengthOf } from '../moments.ts';
import { numberIn } from './content.ts';
import type { LineText } from './line-text.ts';

/** What the layers of one mounted layout share. */
export interface Mount {
  /** By the layers' ids. */
  views: Map<string, LayerView>;
  /** Texts that never differ in scale, by the name of their set. */
  fits: Map<string, Set<LineText>>;
  /** Views that look at the time in every frame. */
  ticking: Set<LayerView>;
  /** Makes the layers that stand in an element those that are given; what stands already and is meant stays. */
  stand(layers: readonly Layer[], within: HTMLElement): void;
}

/** One layer in the page. Its element carries `data-layer`; whether it shows is settled here for every kind. */
export class LayerView<K extends LayerKind = LayerKind> {
  readonly el: HTMLElement;
  /** The content of every property as it stands. */
  protected props: LayerProps = {};
  /** What the layer itself says and was not drawn yet. */
  private pending: LayerProps;
  private shown = true;
  private chosen = true;
  private leaving: Animation | null = null;
  private idling: Animation | null = null;
  private turn = 0;

  constructor(
    public layer: LayerOf<K>,
    protected readonly mount: Mount,
  ) {
    this.el = document.createElement('div');
    this.el.style.position = 'absolute';
    this.pending = contentsOf(layer as Layer);
    this.named();
    if ('layers' in layer) mount.stand(layer.layers as Layer[], this.el);
  }

  /** Takes new content. Without `moving` everything is a cut. */
  apply(given: LayerProps, now: number, moving: boolean): void {
    const props = { ...this.pending, ...given };
    this.pending = {};
    Object.assign(this.props, props);
    this.place(props);
    this.draw(props, now, moving);
    this.settle(now, moving);
  }

  /** Is another form of the same layer from now on: what differs is drawn when it is next applied. */
  become(layer: LayerOf<K>): void {
    const [before, after] = [contentsOf(this.layer as Layer), contentsOf(layer as Layer)];
    for (const [name, content] of Object.entries(after))
      if (content !== before[name]) this.pending[name] = content;
    this.layer = layer;
    this.named();
    if ('layers' in layer) this.mount.stand(layer.layers as Layer[], this.el);
  }

  /** Told by a one-of group whether this is the layer that shows. */
  choose(chosen: boolean, now: number, moving: boolean): void {
    this.chosen = chosen;
    this.settle(now, moving);
  }

  tick(now: number): void {
    this.settle(now, true);
  }

  get visible(): boolean {
    return this.shown && this.el.isConnected;
  }

  /** Takes the layer out of the page. */
  remove(): void {
    const { views, ticking } = this.mount;
    ticking.delete(this as unknown as LayerView);
    if (views.get(this.layer.id) === (this as unknown as LayerView)) views.delete(this.layer.id);
    this.el.remove();
  }

  /** Draws what changed; whatever else the kind draws by is in `this.props`. */
  protected draw(_props: LayerProps, _now: number, _moving: boolean): void {}

  /** It looks at the time in every frame. */
  protected get ticks(): boolean {
    return this.layer.windowClock !== undefined;
  }

  private named(): void {
    this.el.dataset['layer'] = this.layer.name;
    this.el.dataset['id'] = this.layer.id;
    this.mount.views.set(this.layer.id, this as unknown as LayerView);
    if (this.ticks) this.mount.ticking.add(this as unknown as LayerView);
    else this.mount.ticking.delete(this as unknown as LayerView);
  }

  private place(props: LayerProps): void {
    const { style } = this.el;
    if ('x' in props) style.left = `${numberIn(props['x'])}px`;
    if ('y' in props) style.top = `${numberIn(props['y'])}px`;
    if ('width' in props) style.width = `${numberIn(props['width'])}px`;
    if ('height' in props) style.height = `${numberIn(props['height'])}px`;
    if ('rotation' in props) style.rotate = props['rotation'] ? `${numberIn(props['rotation'])}deg` : '';
    if ('opacity' in props) style.opacity = props['opacity'] === 1 ? '' : String(numberIn(props['opacity']));
  }

  private shouldShow(now: number): boolean {
    if (!this.chosen || this.props['shows'] === false) return false;
    if (this.layer.windowClock === undefined) return true;
    const clock = this.props['windowClock'] ?? null;
    if (!isClock(clock)) return false;
    const ms = clockAt(clock, now);
    return ms > numberIn(this.props['windowAbove']) && ms < numberIn(this.props['windowBelow']);
  }

  private settle(now: number, moving: boolean): void {
    const show = this.shouldShow(now);
    if (show && !this.idling) this.idling = idle(this.el, this.layer.moments?.idle);
    if (show === this.shown) return;
    this.shown = show;
    const turn = ++this.turn;
    this.leaving?.cancel();
    this.leaving = null;
    if (show) {
      this.el.style.display = '';
      if (moving) enter(this.el, this.layer.moments?.enter);
      return;
    }
    const away = moving ? this.layer.moments?.exit : undefined;
    this.leaving = exit(this.el, away);
    const hide = () => {
      if (turn !== this.turn) return;
      this.el.style.display = 'none';
      this.leaving?.cancel();
    };
    if (this.leaving) setTimeout(hide, lengthOf(away));
    else hide();
  }
}
