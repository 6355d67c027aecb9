import type { LayerDelta } from '../core/resolve/resolver.ts';
import { layersOf, type LayerProps, type MomentName } from '../core/layers/kinds.ts';
import type { AirItem, AirOp, AirSnapshot, Card } from '../core/wire/wire.ts';
import { fitIn } from '../core/show/layout.ts';
import type { Mount } from './layers/base.ts';
import type { Link } from './link.ts';
import { mountLayers } from './layers/views.ts';
import { declared } from './fonts.ts';
import { forgetMeasures } from './measure.ts';
import { inFrameAfter, whenIdle } from './frames.ts';
import { enter, exit } from './moments.ts';
import { paint } from './background.ts';

interface MountedItem extends Mount {
  item: AirItem;
  readonly el: HTMLElement;
  /** It was built for a take to come, and nothing in it moves yet. */
  spare: boolean;
}

/** Legible on any camera's picture, in the outermost corner: graphics keep clear of the edges. */
const SIGN = {
  position: 'absolute',
  zIndex: '1000',
  right: '0',
  top: '0',
  padding: '3px 20px',
  background: '#ffbd59',
  color: '#241703',
  font: '600 28px "Barlow Condensed", sans-serif',
  letterSpacing: '0.04em',
};

/** Longest wait for fonts, in ms: a picture in a stand-in font is better than none. */
const FONT_WAIT = 4000;

/** For so many templates the next take is prepared: more than stand on any one output. */
const MOST_SPARES = 24;

/** The time is looked at so often at least, in ms, whatever the clocks say: it may be set, or run faster in a rehearsal. */
const LOOK_EVERY = 100;

/** Letters of each part of a face that Western names need. */
const LETTERS = 'Aa0Łő';

/** Loads faces, as `facesOf` names them, once all fonts are declared; measures made before are forgotten. */
export async function fontsReady(faces: Iterable<string>): Promise<void> {
  const all = declared().then(() =>
    Promise.allSettled([...faces].map((face) => document.fonts.load(face, LETTERS))),
  );
  await Promise.race([all, new Promise((done) => setTimeout(done, FONT_WAIT))]);
  forgetMeasures();
}

/**
 * Draws what is on an output, in the DOM, with Web Animations: the one renderer of air pages and previews.
 * It holds its last picture for as long as nobody tells it otherwise.
 */
export class Stage {
  private readonly shown = new Map<string, MountedItem>();
  /** Ends the wait for the next look at the time; null while nothing on air goes by it. */
  private looking: (() => void) | null = null;
  private card: Card | null = null;
  private endCard: (() => void) | null = null;
  private heldAt: number | null = null;
  private quiet = false;
  /** The time of the show may run faster than that of the day. */
  private rehearsing = false;
  private posed: { moment: MomentName; ms: number } | null = null;
  /** By template and layout, what was built for the next take, with all that the layout was. */
  private readonly spares = new Map<string, { layout: string; mounted: MountedItem }>();
  /** Those that are to be built; what calls that off, null while there are none. */
  private readonly toPrepare = new Map<string, AirItem>();
  private endPreparing: (() => void) | null = null;

  /**
   * @param link by what a test card tells the time; none is drawn without it
   * @param prepares whether the next take of each template that was taken is prepared, so that it shows the sooner
   */
  constructor(
    private readonly root: HTMLElement,
    private readonly serverNow: () => number,
    private readonly link?: Pick<Link, 'realNow' | 'delay'>,
    private readonly prepares = false,
  ) {
    Object.assign(root.style, { position: 'relative', overflow: 'hidden' });
    document.fonts.addEventListener('loadingdone', this.refit);
  }

  /** Letters of a script that was not needed before, or a face that nothing had: what was measured without it is wrong. */
  private readonly refit = (): void => {
    forgetMeasures();
    this.spares.clear();
    for (const there of this.shown.values()) for (const view of there.views.values()) view.refit();
  };

  /** The time that clocks are drawn at: now, or when they were held. */
  private get now(): number {
    return this.heldAt ?? this.serverNow();
  }

  /** Makes the picture what the snapshot says. What stands already stays and takes its new content. */
  show(snapshot: Pick<AirSnapshot, 'output' | 'items' | 'quiet'> & { card?: Card | null }): void {
    const { width, height, background } = snapshot.output;
    Object.assign(this.root.style, { width: `${width}px`, height: `${height}px` });
    paint(this.root, background);
    this.showCard(snapshot.card ?? null);
    this.quiet = snapshot.quiet ?? false;
    const mounts = new Set(snapshot.items.map((i) => i.mount));
    for (const mount of [...this.shown.keys()]) if (!mounts.has(mount)) this.clear(mount, false);
    for (const item of snapshot.items) this.take(item, false);
    this.rest();
  }

  /** Shows a test card over everything, or takes it away; what draws it comes only when it is wanted. */
  private showCard(card: Card | null): void {
    if (JSON.stringify(card) === JSON.stringify(this.card)) return;
    this.card = card;
    this.endCard?.();
    this.endCard = null;
    const { link } = this;
    if (card && link)
      void import('./card.ts').then(({ drawCard }) => {
        if (this.card === card) this.endCard = drawCard(this.root, card, link);
      });
  }

  perform(ops: readonly AirOp[]): void {
    for (const op of ops) {
      // In a page that nobody sees nothing is drawn, so nothing would end: it cuts.
      const moving = !document.hidden && !this.quiet;
      if (op.op === 'layers') this.change(op.deltas, moving);
      else if (op.op === 'take') this.take(op.item, moving);
      else if (op.op === 'clear') this.clear(op.mount, moving);
      else if (op.op === 'quiet') {
        this.quiet = op.quiet;
        this.rest();
      }
    }
    this.tickOn();
  }

  /** Puts an item into its zone. The same item taken again changes in place; another one leaves first. */
  take(item: AirItem, moving: boolean): void {
    const there = this.shown.get(item.mount);
    if (there && there.item.item === item.item && there.item.template === item.template) {
      there.item = item;
      place(there.el, item);
      this.update(there);
      this.fill(there, item.states, moving);
      return;
    }
    if (there) this.clear(item.mount, moving);
    const mounted = this.spareFor(item) ?? this.built(item);
    const { el } = mounted;
    el.dataset['item'] = item.item;
    place(el, item);
    this.shown.set(item.mount, mounted);
    this.fill(mounted, item.states, false);
    // Built and filled apart from the page, which would take note of every step.
    this.root.append(el);
    if (moving)
      for (const view of mounted.views.values()) if (view.visible) enter(view.el, view.layer.moments?.enter);
    if (this.prepares) this.prepare(item);
  }

  /** An item's element with all its layers, apart from the page. */
  private built(item: AirItem): MountedItem {
    const mounted: MountedItem = {
      item,
      el: document.createElement('div'),
      spare: false,
      views: new Map(),
      fits: new Map(),
      ticking: new Set(),
      masked: new Set(),
      still: () => this.quiet || mounted.spare,
      real: () => this.link?.realNow() ?? this.serverNow(),
      mount: (layers, within) => mountLayers(layers, within, mounted),
    };
    this.update(mounted);
    return mounted;
  }

  /** What was prepared for a take of this item; null where nothing was. */
  private spareFor(item: AirItem): MountedItem | null {
    const form = formOf(item);
    const spare = this.spares.get(form);
    if (!spare || spare.layout !== JSON.stringify(item.layout)) return null;
    this.spares.delete(form);
    return Object.assign(spare.mounted, { item, spare: false });
  }

  /**
   * Builds the layout of an item once more when the page has nothing else to do, with all that is the same whatever it says: the
   * next take of its template, mostly with another name, only writes what differs.
   */
  private prepare(item: AirItem): void {
    this.toPrepare.set(formOf(item), item);
    this.endPreparing ??= whenIdle(this.prepareNext);
  }

  private readonly prepareNext = (): void => {
    const [next] = this.toPrepare;
    if (!next) return;
    const [form, item] = next;
    this.toPrepare.delete(form);
    this.endPreparing = this.toPrepare.size ? whenIdle(this.prepareNext) : null;
    const mounted = this.built(item);
    mounted.spare = true;
    // Pictures are for the take: a loop begins when it is taken.
    for (const view of mounted.views.values())
      if (view.layer.kind !== 'picture') view.apply({}, this.now, false);
    this.spares.delete(form);
    this.spares.set(form, { layout: JSON.stringify(item.layout), mounted });
    const [oldest] = this.spares.keys();
    if (this.spares.size > MOST_SPARES) this.spares.delete(oldest!);
  };

  /** Takes what stands in a zone away. */
  clear(mount: string, moving: boolean): void {
    const there = this.shown.get(mount);
    if (!there) return;
    this.shown.delete(mount);
    const leaving = moving ? leave(there) : [];
    if (leaving.length === 0) return there.el.remove();
    // What leaves is no longer what is on: it loses its names while it moves away.
    there.el.removeAttribute('data-item');
    for (const { el } of there.views.values()) {
      el.removeAttribute('data-layer');
      el.removeAttribute('data-id');
    }
    let left = leaving.length;
    for (const animation of leaving)
      animation.onfinish = () => {
        if (--left === 0) there.el.remove();
      };
  }

  /** The texts that show, with how each is drawn. */
  fits(): { layer: string; scale: { x: number; y: number }; size: number; cut: boolean }[] {
    return [...this.shown.values()].flatMap((there) =>
      [...there.views.values()].flatMap((view) =>
        view.drawn
          ? [{ layer: view.layer.name, ...view.drawn, size: view.drawn.size * scaleOf(there.item) }]
          : [],
      ),
    );
  }

  /** Resolves once every picture that is asked for stands, or cannot be had. */
  async ready(): Promise<void> {
    for (const there of this.shown.values())
      await Promise.allSettled([...there.views.values()].map((view) => view.ready));
  }

  /** Stops what moves by itself while it is quiet, and lets it go on. */
  private rest(): void {
    const now = this.now;
    for (const there of this.shown.values()) for (const view of there.views.values()) view.rest(now);
  }

  /** Stops every clock where it stands, as when the server is gone; `resume` lets them go on. */
  hold(): void {
    this.heldAt ??= this.serverNow();
  }

  resume(): void {
    this.heldAt = null;
    this.tickOn();
  }

  /** Shows everything as it is `ms` into a moment, and keeps it there; null lets it move again. */
  pose(moment: MomentName | null, ms = 0): void {
    this.posed = moment === null ? null : { moment, ms };
    const now = this.now;
    for (const there of this.shown.values())
      for (const view of there.views.values()) view.hold(this.posed, now);
  }

  /** Says plainly that all this is no game, or no longer. */
  rehearse(tape: string | null): void {
    this.rehearsing = tape !== null;
    this.root.querySelector('[data-rehearsal]')?.remove();
    if (tape === null) return;
    const sign = document.createElement('div');
    sign.dataset['rehearsal'] = '';
    sign.textContent = `REHEARSAL · ${tape}`;
    Object.assign(sign.style, SIGN);
    this.root.append(sign);
  }

  destroy(): void {
    this.looking?.();
    this.endPreparing?.();
    document.fonts.removeEventListener('loadingdone', this.refit);
    this.showCard(null);
    for (const zone of [...this.shown.keys()]) this.clear(zone, false);
  }

  private change(deltas: readonly LayerDelta[], moving: boolean): void {
    const now = this.now;
    for (const { mount, layer, props } of deltas) {
      for (const there of this.shown.values()) {
        if (there.item.mount === mount) there.views.get(layer)?.apply(props, now, moving);
      }
    }
  }

  /** Makes the layers of what stands those of its layout; what is the same layer stays and takes what differs. */
  private update(there: MountedItem): void {
    const { layers } = there.item.layout;
    there.mount(layers, there.el);
    const ids = new Set([...layersOf(layers)].map((l) => l.id));
    for (const [id, view] of [...there.views]) if (!ids.has(id)) view.remove();
  }

  private fill(there: MountedItem, states: Record<string, LayerProps>, moving: boolean): void {
    const now = this.now;
    for (const [id, view] of there.views) {
      view.apply(states[id] ?? {}, now, moving);
      if (this.posed) view.hold(this.posed, now);
    }
    this.tickOn();
  }

  /** Looks at the time when something on air that goes by it may look otherwise, for as long as there is any. */
  private tickOn(): void {
    this.looking?.();
    this.looking = null;
    const views = [...this.shown.values()].flatMap((there) => [...there.ticking]);
    if (views.length === 0) return;
    const now = this.now;
    const wait = this.rehearsing ? 0 : Math.min(LOOK_EVERY, ...views.map((view) => view.unchangedFor(now)));
    this.looking = inFrameAfter(wait, () => {
      this.looking = null;
      const then = this.now;
      for (const there of this.shown.values()) for (const view of there.ticking) view.tick(then);
      this.tickOn();
    });
  }
}

/** Moves every layer that shows out of sight. */
const leave = (there: MountedItem): Animation[] =>
  [...there.views.values()].flatMap((view) =>
    view.visible ? (exit(view.el, view.layer.moments?.exit) ?? []) : [],
  );

/** What items that are built alike have in common. */
const formOf = ({ template, layout }: AirItem) => `${template}/${layout.key}`;

/** How much larger an item is drawn than its layout has it. */
const scaleOf = ({ layout, box }: AirItem): number => fitIn(layout, box).scale;

/** Puts an item's element where its zone is: in its own size, or as large as it can be in the middle of it. */
function place(el: HTMLElement, { box, level, layout }: AirItem): void {
  const { how, scale } = fitIn(layout, box);
  const { width, height } = how === 'own' ? box : layout;
  Object.assign(el.style, {
    position: 'absolute',
    zIndex: String(level + 1),
    left: `${box.x + (box.width - width * scale) / 2}px`,
    top: `${box.y + (box.height - height * scale) / 2}px`,
    width: `${width}px`,
    height: `${height}px`,
    transform: how === 'own' ? '' : `scale(${scale})`,
    transformOrigin: '0 0',
  });
}
