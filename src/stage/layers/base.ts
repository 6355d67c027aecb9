import { isClock } from '../../core/board/values.ts';
import { clockAt, clockUnchangedFor } from '../../core/clock/clock.ts';
import {
  contentsOf,
  type Layer,
  type LayerKind,
  type LayerOf,
  type LayerProps,
  type MomentName,
} from '../../core/layers/kinds.ts';
import type { AirItem } from '../../core/wire/wire.ts';
import { BODY, enter, exit, hold, idle } from '../moments.ts';
import { colourIn, styled, has, numberIn, textIn } from './content.ts';
import { maskDrawing, writeMask, type MaskImage } from './mask.ts';
import type { TextBlock } from './text-block.ts';

/** What the layers of one mounted layout share. */
export interface Mount {
  /** What is mounted: since when all pages show it. */
  readonly item: Pick<AirItem, 'since'>;
  /** Server time now, in ms, whatever the show's. */
  real(): number;
  /** Nothing moves by itself: it is quiet. */
  still(): boolean;
  /** By the layers' ids. */
  views: Map<string, LayerView>;
  /** Texts that never differ in scale, by the name of their set. */
  fits: Map<string, Set<TextBlock>>;
  /** Views that go by the time. */
  ticking: Set<LayerView>;
  /** Views that show only where another layer is. */
  masked: Set<LayerView>;
  /** Does work on one layer: where that fails, it harms no other, and what the layer showed stays. */
  guard(layer: { name: string }, work: () => void): void;
  /** Makes the layers that stand in an element those that are given; what stands already and is meant stays. */
  mount(layers: readonly Layer[], within: HTMLElement): void;
}

const SHADOWED = ['shadow', 'shadowX', 'shadowY', 'shadowBlur'];
const SOFT = ['softLeft', 'softRight', 'softTop', 'softBottom'];
const MASKING = ['mask', 'maskBy', 'maskInvert', ...SOFT];

/** Where an element of a layer begins, from its item's left and top, in px. */
export function cornerOf(el: HTMLElement): { x: number; y: number } {
  const at = { x: 0, y: 0 };
  for (let e: HTMLElement | null = el; e && !e.hasAttribute('data-item'); e = e.parentElement) {
    at.x += parseFloat(e.style.left) || 0;
    at.y += parseFloat(e.style.top) || 0;
  }
  return at;
}

/** Whether a layer, or a group that it is in, is switched off. The page is not asked: it would have to be laid out for that. */
export function isOff(el: HTMLElement): boolean {
  for (let e: HTMLElement | null = el; e && !e.hasAttribute('data-item'); e = e.parentElement)
    if (e.style.display === 'none') return true;
  return false;
}

/** What every layer stands in, to be copied. */
const LAYER = styled('div', 'position:absolute');

/** One layer in the page. Its element carries `data-layer`; whether it shows is settled here for every kind. */
export class LayerView<K extends LayerKind = LayerKind> {
  readonly el: HTMLElement;
  /** What its content stands in: its element, or one within it where it moves by a wipe. */
  protected body: HTMLElement;
  /** The content of every property as it stands. */
  protected props: LayerProps = {};
  /** What the layer itself says and was not drawn yet. */
  private pending: LayerProps;
  private shown = true;
  private chosen = true;
  private leaving: Animation | null = null;
  private idling: Animation | null = null;
  /** Held in the pose of a moment; null: it moves by itself. */
  private held: { moment: MomentName; ms: number } | null = null;
  private pose: Animation | null = null;
  /** The mask as it was written, to be written again only where it is another. */
  private maskedBy = '';

  /** Resolves once what it shows is there. */
  ready: Promise<unknown> = Promise.resolve();

  constructor(
    public layer: LayerOf<K>,
    protected readonly mount: Mount,
  ) {
    this.el = this.body = LAYER.cloneNode() as HTMLElement;
    this.embody();
    this.pending = contentsOf(layer as Layer);
    this.named();
    if ('layers' in layer) mount.mount(layer.layers as Layer[], this.body);
  }

  /** Takes new content. Without `moving` everything is a cut. */
  apply(given: LayerProps, now: number, moving: boolean): void {
    const props = { ...this.pending, ...given };
    this.pending = {};
    Object.assign(this.props, props);
    this.place(props);
    this.draw(props, now, moving);
    this.settle(now, moving);
    if (has(props, MASKING)) this.remask();
    this.changed();
  }

  /** How long after it is given this content it shows it, in ms: half of its change, where it moves by one. */
  showsAfter(_props: LayerProps): number {
    return 0;
  }

  /** Calls back at the moment at which what it was given last shows; at once where it does already. */
  whenShown(done: () => void): void {
    done();
  }

  /** Told that it looks otherwise: what shows only where this is looks otherwise too. */
  protected changed(): void {
    for (const view of this.mount.masked) view.remask();
  }

  /** Where it is, as an image for a mask; null while it has none. */
  maskImage(): MaskImage | null {
    const { width, height } = this.props;
    return maskDrawing(`<rect width="${numberIn(width)}" height="${numberIn(height)}"/>`, this.props);
  }

  private remask(): void {
    const me = this as unknown as LayerView;
    const by = textIn(this.props['mask']);
    // Most layers have no mask, and never had.
    if (by === '' && this.maskedBy === '' && !SOFT.some((side) => this.props[side])) return;
    if (by === '') this.mount.masked.delete(me);
    else this.mount.masked.add(me);
    const source = by === '' ? undefined : this.mount.views.get(by);
    const image = source && source !== me ? source.maskImage() : null;
    if (image && source) {
      const [there, here] = [cornerOf(source.el), cornerOf(this.el)];
      image.x += there.x - here.x;
      image.y += there.y - here.y;
    }
    const written = JSON.stringify([image, MASKING.map((name) => this.props[name])]);
    if (written === this.maskedBy) return;
    this.maskedBy = written;
    writeMask(this.el.style, this.props, image);
  }

  /** Is another form of the same layer from now on: what differs is drawn when it is next applied. */
  update(layer: LayerOf<K>): void {
    if (layer === this.layer) return;
    if (JSON.stringify(layer.moments) !== JSON.stringify(this.layer.moments)) {
      this.idling?.cancel();
      this.idling = null;
    }
    const [before, after] = [contentsOf(this.layer as Layer), contentsOf(layer as Layer)];
    for (const [name, content] of Object.entries(after))
      if (content !== before[name]) this.pending[name] = content;
    this.layer = layer;
    this.embody();
    this.named();
    if ('layers' in layer) this.mount.mount(layer.layers as Layer[], this.body);
  }

  /** Gives it a body of its own, once it moves by a wipe. */
  private embody(): void {
    const { moments = {} } = this.layer;
    if (this.body !== this.el || !Object.values(moments).some((m) => m.kind === 'wipe')) return;
    this.body = document.createElement('div');
    this.body.setAttribute(BODY, '');
    Object.assign(this.body.style, { position: 'absolute', inset: '0' });
    this.body.append(...this.el.childNodes);
    this.el.append(this.body);
  }

  /** Told by a one-of group whether this is the layer that shows. */
  choose(chosen: boolean, now: number, moving: boolean): void {
    this.chosen = chosen;
    this.settle(now, moving);
  }

  /** How its text is drawn, and its size then, in px; null where it has none that shows. */
  get drawn(): { scale: { x: number; y: number }; size: number; cut: boolean } | null {
    return null;
  }

  /** Measures what it writes anew: fonts came in. */
  refit(): void {}

  /** For how long, in ms, it looks as it does by the time alone. */
  unchangedFor(now: number): number {
    const { windowClock = null, windowAbove, windowBelow } = this.props;
    if (this.layer.windowClock === undefined || !isClock(windowClock)) return Infinity;
    // A window may open within a tenth.
    const within = [windowAbove, windowBelow].some((edge) => numberIn(edge) % 100 !== 0);
    return within ? 0 : clockUnchangedFor(windowClock, now);
  }

  tick(now: number): void {
    this.settle(now, !this.mount.still());
  }

  /** Stops what moves by itself while it is quiet, and lets it go on where it would be by now. */
  rest(now: number): void {
    if (this.mount.still()) {
      this.idling?.cancel();
      this.idling = null;
    } else this.settle(now, false);
  }

  /** Holds the layer where it is in a moment; null lets it move again. */
  hold(held: { moment: MomentName; ms: number } | null, now: number): void {
    this.held = held;
    this.idling?.cancel();
    this.idling = null;
    this.posed();
    this.settle(now, false);
  }

  get visible(): boolean {
    return this.shown && this.el.isConnected;
  }

  /** Takes the layer out of the page. */
  remove(): void {
    const { views, ticking } = this.mount;
    ticking.delete(this as unknown as LayerView);
    this.mount.masked.delete(this as unknown as LayerView);
    if (views.get(this.layer.id) === (this as unknown as LayerView)) views.delete(this.layer.id);
    this.el.remove();
  }

  /** Draws what changed; whatever else the kind draws by is in `this.props`. */
  protected draw(_props: LayerProps, _now: number, _moving: boolean): void {}

  /** The layer as it is `ms` into a moment; null where that moment does nothing to it. */
  protected poseIn(moment: MomentName, ms: number): Animation | null {
    return moment === 'change' ? null : hold(this.el, moment, this.layer.moments?.[moment], ms);
  }

  /** It goes by the time. */
  protected get ticks(): boolean {
    return this.layer.windowClock !== undefined;
  }

  private named(): void {
    this.el.setAttribute('data-layer', this.layer.name);
    this.el.setAttribute('data-id', this.layer.id);
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
    if (has(props, SHADOWED)) {
      const { shadow, shadowX, shadowY, shadowBlur } = this.props;
      const [x, y, blur] = [shadowX, shadowY, shadowBlur].map(numberIn);
      // The blur of a filter is a deviation; people read how far it reaches, twice that.
      style.filter = shadow ? `drop-shadow(${x}px ${y}px ${blur! / 2}px ${colourIn(shadow)})` : '';
    }
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
    if (show !== this.shown) this.turn(show, moving);
    if (show && !this.held && !this.mount.still())
      this.idling ??= idle(this.el, this.layer.moments?.idle, this.age(now));
  }

  /** How long it has been on, in ms, at a time of the show: the same on all pages. 0 where no other page shows it. */
  protected age(now: number, since = this.mount.item.since): number {
    return since === undefined ? 0 : Math.max(0, now - since);
  }

  private turn(show: boolean, moving: boolean): void {
    this.shown = show;
    this.leaving?.cancel();
    this.leaving = null;
    const { style } = this.el;
    if (show) {
      style.display = '';
      if (moving) enter(this.el, this.layer.moments?.enter);
    } else {
      this.leaving = moving ? exit(this.el, this.layer.moments?.exit) : null;
      if (!this.leaving) style.display = 'none';
      else
        this.leaving.onfinish = () => {
          style.display = 'none';
          this.leaving?.cancel();
        };
    }
    this.posed();
  }

  /** Takes its pose, where it is held in one. */
  private posed(): void {
    this.pose?.cancel();
    this.pose = this.held && this.shown ? this.poseIn(this.held.moment, this.held.ms) : null;
  }
}
