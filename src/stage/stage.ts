import type { LayerDelta } from '../core/resolve/resolver.ts';
import { layersOf, type LayerProps, type MomentName } from '../core/layers/kinds.ts';
import type { AirItem, AirOp, AirSnapshot, Card, DrawFault } from '../core/wire/wire.ts';
import { fitIn } from '../core/show/layout.ts';
import type { LayerView, Mount } from './layers/base.ts';
import type { Link } from './link.ts';
import { mountLayers } from './layers/views.ts';
import { declared } from './fonts.ts';
import { forgetMeasures } from './measure.ts';
import { Spares } from './spares.ts';
import { inFrameAfter } from './frames.ts';
import { enter, exit } from './moments.ts';
import { paint } from './background.ts';

interface MountedItem extends Mount {
  item: AirItem;
  readonly el: HTMLElement;
  /** It was built for a take to come, and nothing in it moves yet. */
  spare: boolean;
  /** What layers are given once others that came with it show, by their ids. */
  due: Map<string, LayerProps>;
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
  /** What was built for takes to come. */
  private readonly spares = new Spares((item) => this.spare(item));

  /**
   * @param link by what a test card tells the time; none is drawn without it
   * @param prepares whether the next take of each template that was taken is prepared, so that it shows the sooner
   * @param onFault is told of each layer that could not be drawn
   */
  constructor(
    private readonly root: HTMLElement,
    private readonly serverNow: () => number,
    private readonly link?: Pick<Link, 'realNow' | 'delay'>,
    private readonly prepares = false,
    private readonly onFault: (fault: DrawFault) => void = () => {},
  ) {
    Object.assign(root.style, { position: 'relative', overflow: 'hidden', forcedColorAdjust: 'none' });
    document.fonts.addEventListener('loadingdone', this.refit);
  }

  /** Letters of a script that was not needed before, or a face that nothing had: what was measured without it is wrong. */
  private readonly refit = (): void => {
    forgetMeasures();
    this.spares.clear();
    for (const there of this.shown.values()) this.each(there, (view) => view.refit());
  };

  /** Does work on a layer. A fault in it harms no other, loses nothing of what the layer shows, and is told. */
  private guard({ item }: Pick<AirItem, 'item'>, layer: { name: string }, work: () => void): void {
    try {
      work();
    } catch (error) {
      this.onFault({ item, layer: layer.name, text: error instanceof Error ? error.message : String(error) });
    }
  }

  /** Does work on each layer of what stands, or of these of them. */
  private each(there: MountedItem, work: (view: LayerView) => void, of = there.views.values()): void {
    for (const view of of) this.guard(there.item, view.layer, () => work(view));
  }

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
    const mounted = this.spares.take(item) ?? this.built(item);
    Object.assign(mounted, { item, spare: false });
    const { el } = mounted;
    el.dataset['item'] = item.item;
    place(el, item);
    this.shown.set(item.mount, mounted);
    this.fill(mounted, item.states, false);
    // Built and filled apart from the page, which would take note of every step.
    this.root.append(el);
    if (moving) this.each(mounted, (view) => view.visible && enter(view.el, view.layer.moments?.enter));
    if (this.prepares) this.spares.prepare(item);
  }

  /** An item's element with all its layers, apart from the page. */
  private built(item: AirItem): MountedItem {
    const mounted: MountedItem = {
      item,
      el: document.createElement('div'),
      spare: false,
      due: new Map(),
      views: new Map(),
      fits: new Map(),
      ticking: new Set(),
      masked: new Set(),
      still: () => this.quiet || mounted.spare,
      real: () => this.link?.realNow() ?? this.serverNow(),
      guard: (layer, work) => this.guard(mounted.item, layer, work),
      mount: (layers, within) => mountLayers(layers, within, mounted),
    };
    this.update(mounted);
    return mounted;
  }

  /** An item as it is built for a take to come: with all that is the same whatever it says. */
  private spare(item: AirItem): MountedItem {
    const mounted = this.built(item);
    mounted.spare = true;
    // Pictures are for the take: a loop begins when it is taken.
    this.each(mounted, (view) => view.layer.kind !== 'picture' && view.apply({}, this.now, false));
    return mounted;
  }

  /** Takes what stands in a zone away. */
  clear(mount: string, moving: boolean): void {
    const there = this.shown.get(mount);
    if (!there) return;
    this.shown.delete(mount);
    const leaving = moving ? this.leave(there) : [];
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

  /** Moves every layer that shows out of sight. */
  private leave(there: MountedItem): Animation[] {
    const leaving: Animation[] = [];
    this.each(there, (view) => {
      const animation = view.visible && exit(view.el, view.layer.moments?.exit);
      if (animation) leaving.push(animation);
    });
    return leaving;
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
    for (const there of this.shown.values()) this.each(there, (view) => view.rest(now));
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
    for (const there of this.shown.values()) this.each(there, (view) => view.hold(this.posed, now));
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
    this.spares.end();
    document.fonts.removeEventListener('loadingdone', this.refit);
    this.showCard(null);
    for (const zone of [...this.shown.keys()]) this.clear(zone, false);
  }

  private change(deltas: readonly LayerDelta[], moving: boolean): void {
    for (const there of this.shown.values()) {
      const changes = deltas.flatMap(({ mount, layer, props }) => {
        const view = there.item.mount === mount ? there.views.get(layer) : undefined;
        return view ? [{ view, props, after: moving ? view.showsAfter(props) : 0 }] : [];
      });
      if (changes.length) this.changeAtOnce(there, changes, moving);
    }
  }

  /**
   * Gives layers of an item what one change brings. It shows at one moment, however each moves: new names do not stand over old
   * scores that still fade. Clocks wait for nothing: they are true at any time.
   */
  private changeAtOnce(
    there: MountedItem,
    changes: readonly { view: LayerView; props: LayerProps; after: number }[],
    moving: boolean,
  ): void {
    const last = Math.max(...changes.map((c) => c.after));
    const wait = ({ view, after }: (typeof changes)[number]) =>
      view.layer.kind === 'clock' ? 0 : last - after;
    const lead = changes.find((c) => c.after === last)!.view;
    // Those that take the longest begin: the others follow them.
    for (const change of [...changes].sort((a, b) => wait(a) - wait(b))) {
      const { view, props, after } = change;
      const { id } = view.layer;
      const due = there.due.get(id);
      // What came before it is not shown after it.
      if (due && moving) Object.assign(due, props);
      else if (wait(change) <= 0) {
        there.due.delete(id);
        this.guard(there.item, view.layer, () => view.apply({ ...due, ...props }, this.now, moving));
      } else {
        there.due.set(id, { ...props });
        const show = () => this.showDue(there, view);
        if (after === 0) lead.whenShown(show);
        else setTimeout(show, wait(change));
      }
    }
  }

  /** Gives a layer what waited for others. */
  private showDue(there: MountedItem, view: LayerView): void {
    const props = there.due.get(view.layer.id);
    there.due.delete(view.layer.id);
    if (props) this.guard(there.item, view.layer, () => view.apply(props, this.now, !this.quiet));
    this.tickOn();
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
    // All that its layers say is in this.
    there.due.clear();
    this.each(there, (view) => {
      view.apply(states[view.layer.id] ?? {}, now, moving);
      if (this.posed) view.hold(this.posed, now);
    });
    this.tickOn();
  }

  /** Looks at the time when something on air that goes by it may look otherwise, for as long as there is any. */
  private tickOn(): void {
    this.looking?.();
    this.looking = null;
    const byTime = [...this.shown.values()].filter((there) => there.ticking.size > 0);
    if (byTime.length === 0) return;
    const now = this.now;
    let wait = this.rehearsing ? 0 : LOOK_EVERY;
    for (const there of byTime)
      this.each(there, (view) => (wait = Math.min(wait, view.unchangedFor(now))), there.ticking.values());
    this.looking = inFrameAfter(wait, () => {
      this.looking = null;
      const then = this.now;
      for (const there of this.shown.values())
        this.each(there, (view) => view.tick(then), there.ticking.values());
      this.tickOn();
    });
  }
}

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
