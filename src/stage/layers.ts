import { isClock, type ClockState, type FieldValue } from '../core/board/values.ts';
import { clockAt, clockText } from '../core/clock/clock.ts';
import type { LayerProps } from '../core/resolve/resolver.ts';
import type {
  ClockLayer,
  GroupLayer,
  Layer,
  OneOfLayer,
  PictureLayer,
  PipsLayer,
  ShapeLayer,
  TextLayer,
  TextStyle,
} from '../core/template/layers.ts';
import { fitScale, placeText, sharedScale } from '../core/text/fit.ts';
import { capShift, measureText } from './measure.ts';
import { enter, exit, idle, lengthOf } from './moments.ts';

/** What the layers of one mounted layout share. */
export interface Mount {
  views: Map<string, LayerView>;
  fits: Map<string, LineText[]>;
  /** Views that look at the time in every frame. */
  ticking: Set<LayerView>;
}

const truth = (value: FieldValue | undefined) =>
  isClock(value ?? null) || (value != null && value !== '' && value !== false && value !== 0);
const text = (value: FieldValue | undefined) => (value == null || isClock(value) ? '' : String(value));
const whole = (value: FieldValue | undefined) =>
  typeof value === 'number' ? Math.max(0, Math.min(50, Math.floor(value))) : 0;

function box(el: HTMLElement, { x, y, width, height }: Layer['box']): void {
  Object.assign(el.style, {
    position: 'absolute',
    left: `${x}px`,
    top: `${y}px`,
    width: `${width}px`,
    height: `${height}px`,
  });
}

/** One layer in the page. Its element carries `data-layer`; whether it shows is settled here for every kind. */
export class LayerView {
  readonly el: HTMLElement;
  protected props: LayerProps = {};
  private shown = true;
  private chosen = true;
  private leaving: Animation | null = null;
  private idling: Animation | null = null;
  private turn = 0;

  constructor(
    readonly layer: Layer,
    protected readonly mount: Mount,
  ) {
    this.el = document.createElement('div');
    this.el.dataset['layer'] = layer.name;
    box(this.el, layer.box);
    mount.views.set(layer.name, this);
    if (layer.window) mount.ticking.add(this);
  }

  /** Takes new content. Without `moving` everything is a cut. */
  apply(props: LayerProps, now: number, moving: boolean): void {
    Object.assign(this.props, props);
    this.draw(props, now, moving);
    this.settle(now, moving);
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

  protected draw(_props: LayerProps, _now: number, _moving: boolean): void {}

  private shouldShow(now: number): boolean {
    if (!this.chosen) return false;
    if (this.layer.shows && !truth(this.props.shows)) return false;
    const window = this.layer.window;
    if (!window) return true;
    const clock = this.props.window;
    if (!isClock(clock ?? null)) return false;
    const ms = clockAt(clock as ClockState, now);
    return ms > (window.above ?? -1) && ms < (window.below ?? Infinity);
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

/** One line of text fitted into its layer's box. */
export class LineText {
  private readonly span = document.createElement('span');
  constructor(
    private readonly el: HTMLElement,
    private readonly layer: TextLayer | ClockLayer,
  ) {
    const { font, weight, size, tracking } = layer.style;
    Object.assign(this.span.style, {
      position: 'absolute',
      left: '0',
      top: '0',
      whiteSpace: 'pre',
      transformOrigin: '0 0',
      font: `${weight} ${size}px "${font}", sans-serif`,
      fontVariantNumeric: 'tabular-nums',
      letterSpacing: `${tracking ?? 0}em`,
    });
    this.span.style.lineHeight = `${measureText('', layer.style).height}px`;
    el.append(this.span);
  }

  get text(): string {
    return this.span.textContent ?? '';
  }

  get size() {
    return measureText(this.text, this.layer.style);
  }

  get box() {
    return this.layer.box;
  }

  set(value: string): void {
    this.span.textContent = value;
  }

  place(scale = fitScale(this.size, this.layer.box)): void {
    const style: TextStyle = this.layer.style;
    const at = placeText(this.size, this.layer.box, style.anchor, scale);
    const shift = style.anchor.y === 'middle' ? capShift(style) * scale : 0;
    this.span.style.transform = `translate(${at.x}px, ${at.y + shift}px) scale(${scale})`;
  }

  colour(value: string): void {
    this.el.style.color = value;
  }
}

class TextView extends LayerView {
  private readonly line: LineText;
  private busy = false;
  private waiting: string | null = null;
  private readonly fit: LineText[] | null = null;

  constructor(
    override readonly layer: TextLayer,
    mount: Mount,
  ) {
    super(layer, mount);
    this.line = new LineText(this.el, layer);
    if (!layer.fitWith) return;
    this.fit = mount.fits.get(layer.fitWith) ?? [];
    this.fit.push(this.line);
    mount.fits.set(layer.fitWith, this.fit);
  }

  protected override draw(props: LayerProps, _now: number, moving: boolean): void {
    if ('colour' in props) this.line.colour(text(props.colour));
    if ('text' in props) this.show(text(props.text), moving);
  }

  /**
   * The old text leaves as a copy without a name while the new one, already in place, cannot be seen yet; then
   * the new one comes. A change that arrives meanwhile waits, and only the newest is shown.
   */
  private show(next: string, moving: boolean): void {
    const change = this.layer.moments?.change;
    if (this.busy && moving) {
      this.waiting = next;
      return;
    }
    this.waiting = null;
    if (next === this.line.text) return;
    const half = lengthOf(change) / 2;
    if (!moving || half === 0 || this.line.text === '' || !this.visible) return this.put(next);
    // Measured before anything in the page changes, so that only the ruler is laid out, not the picture.
    measureText(next, this.layer.style);
    const old = this.el.cloneNode(true) as HTMLElement;
    delete old.dataset['layer'];
    old.setAttribute('aria-hidden', 'true');
    this.put(next);
    this.el.before(old);
    const part = { ...change!, ms: half, delay: 0 };
    exit(old, { ...part, from: part.from === 'top' ? 'bottom' : 'top' });
    enter(this.el, part, half);
    this.busy = true;
    setTimeout(() => old.remove(), half);
    setTimeout(() => {
      this.busy = false;
      if (this.waiting !== null) this.show(this.waiting, true);
    }, half * 2);
  }

  private put(next: string): void {
    this.line.set(next);
    if (!this.fit) return this.line.place();
    const scale = sharedScale(this.fit.map(({ size, box }) => ({ size, box })));
    for (const line of this.fit) line.place(scale);
  }
}

class ClockView extends LayerView {
  private readonly line: LineText;

  constructor(
    override readonly layer: ClockLayer,
    mount: Mount,
  ) {
    super(layer, mount);
    this.line = new LineText(this.el, layer);
    mount.ticking.add(this);
  }

  protected override draw(props: LayerProps, now: number): void {
    if ('colour' in props) this.line.colour(text(props.colour));
    this.digits(now);
  }

  override tick(now: number): void {
    this.digits(now);
    super.tick(now);
  }

  private digits(now: number): void {
    const clock = this.props.clock ?? null;
    const digits = isClock(clock) ? clockText(clockAt(clock, now), this.layer) : '';
    if (digits === this.line.text) return;
    this.line.set(digits);
    this.line.place();
  }
}

class ShapeView extends LayerView {
  private readonly face = document.createElement('div');

  constructor(
    override readonly layer: ShapeLayer,
    mount: Mount,
  ) {
    super(layer, mount);
    Object.assign(this.face.style, {
      position: 'absolute',
      inset: '0',
      borderRadius: layer.shape === 'ellipse' ? '50%' : `${layer.radius ?? 0}px`,
      transform: layer.slant ? `skewX(${-layer.slant}deg)` : '',
    });
    this.el.append(this.face);
  }

  protected override draw(props: LayerProps): void {
    if ('fill' in props) this.face.style.background = text(props.fill);
  }
}

class PictureView extends LayerView {
  private image: HTMLImageElement | null = null;
  private wanted = '';

  constructor(
    override readonly layer: PictureLayer,
    mount: Mount,
  ) {
    super(layer, mount);
  }

  /** The new picture takes the old one's place once it is decoded; one that cannot be had changes nothing. */
  protected override draw(props: LayerProps): void {
    if (!('picture' in props)) return;
    this.wanted = text(props.picture);
    if (!this.wanted.startsWith('/media/')) {
      this.image?.remove();
      this.image = null;
      return;
    }
    const next = new Image();
    next.alt = '';
    next.src = this.wanted;
    Object.assign(next.style, {
      position: 'absolute',
      width: '100%',
      height: '100%',
      objectFit: this.layer.fit,
    });
    const path = this.wanted;
    next.decode().then(
      () => {
        if (path !== this.wanted) return;
        this.el.append(next);
        this.image?.remove();
        this.image = next;
      },
      () => {},
    );
  }
}

class PipsView extends LayerView {
  constructor(
    override readonly layer: PipsLayer,
    mount: Mount,
  ) {
    super(layer, mount);
    Object.assign(this.el.style, {
      display: 'flex',
      gap: `${layer.gap}px`,
      flexDirection: layer.direction ?? 'row',
    });
  }

  protected override draw(): void {
    const [count, of] = [whole(this.props.count), whole(this.props.of)];
    while (this.el.childElementCount > of) this.el.lastElementChild!.remove();
    while (this.el.childElementCount < of) {
      const pip = document.createElement('i');
      Object.assign(pip.style, { flex: '1 1 0', borderRadius: '2px', transition: 'background-color 200ms' });
      this.el.append(pip);
    }
    [...this.el.children].forEach((pip, i) => {
      (pip as HTMLElement).style.backgroundColor = text(i < count ? this.props.on : this.props.off);
      pip.setAttribute('data-on', String(i < count));
    });
  }
}

class GroupView extends LayerView {
  constructor(
    override readonly layer: GroupLayer | OneOfLayer,
    mount: Mount,
  ) {
    super(layer, mount);
    if (layer.kind === 'group' && layer.clip) this.el.style.overflow = 'hidden';
    for (const child of layer.layers) this.el.append(buildLayer(child, mount).el);
  }

  protected override draw(_props: LayerProps, now: number, moving: boolean): void {
    if (this.layer.kind !== 'one-of') return;
    const which = text(this.props.which);
    for (const child of this.layer.layers)
      this.mount.views.get(child.name)?.choose(child.name === which, now, moving);
  }
}

/** Makes the view of a layer, and of the layers within it. */
export function buildLayer(layer: Layer, mount: Mount): LayerView {
  switch (layer.kind) {
    case 'text':
      return new TextView(layer, mount);
    case 'clock':
      return new ClockView(layer, mount);
    case 'shape':
      return new ShapeView(layer, mount);
    case 'picture':
      return new PictureView(layer, mount);
    case 'pips':
      return new PipsView(layer, mount);
    default:
      return new GroupView(layer, mount);
  }
}
