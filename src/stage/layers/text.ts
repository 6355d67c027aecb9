import type { LayerProps, MomentName } from '../../core/layers/kinds.ts';
import { PARTS, runsOf } from '../../core/layers/written.ts';
import { enter, exit, halvesOf, hold, lengthOf } from '../moments.ts';
import { isOff, LayerView } from './base.ts';
import { numberIn, textIn } from './content.ts';
import { TextBlock } from './text-block.ts';

const SAID = [...PARTS, 'upper'];

export class TextView extends LayerView<'text'> {
  private readonly block = new TextBlock(this.el, this.body);
  private busy = false;
  /** The old text still leaves: the new one is not seen yet. */
  private comes = false;
  private waiting: readonly string[] | null = null;
  /** Those that are called back when the text that comes shows, and when the one that waits for that does. */
  private atShown: (() => void)[] = [];
  private later: (() => void)[] = [];

  protected override draw(props: LayerProps, _now: number, moving: boolean): void {
    if ('fitWith' in props) this.join(textIn(props['fitWith']));
    const anew = this.block.write(props, this.props);
    const before = this.block.text;
    if (SAID.some((name) => name in props)) this.show(this.said, moving);
    // A new text was fitted as it was put.
    if (anew && this.block.text === before) this.block.fitted();
  }

  /** What it says, part by part. */
  private get said(): string[] {
    return runsOf(
      PARTS.map((part) => textIn(this.props[part])),
      this.props['upper'] === true,
    );
  }

  override showsAfter(props: LayerProps): number {
    const change = this.layer.moments?.change;
    const moves =
      SAID.some((name) => name in props) && this.block.text !== '' && this.visible && !isOff(this.el);
    return moves && lengthOf(change) > 0 ? halvesOf(change!).half : 0;
  }

  override whenShown(done: () => void): void {
    if (this.waiting !== null) this.later.push(done);
    else if (this.comes) this.atShown.push(done);
    else done();
  }

  /** The new text shows from now on. */
  private shownNow(): void {
    this.comes = false;
    const told = this.atShown;
    this.atShown = [];
    for (const done of told) done();
  }

  override get drawn() {
    if (!this.visible || this.block.text === '' || isOff(this.el)) return null;
    const { drawn } = this.block;
    return { ...drawn, size: numberIn(this.props['size']) * drawn.scale.y };
  }

  override refit(): void {
    this.block.refit();
  }

  override remove(): void {
    this.join('');
    super.remove();
  }

  private join(name: string): void {
    const left = this.block.fit;
    this.block.fit = null;
    left?.delete(this.block);
    // Those that stay share their scale without it.
    const [stays] = left ?? [];
    stays?.fitted();
    if (name === '') return;
    const set = this.mount.fits.get(name) ?? new Set();
    this.mount.fits.set(name, set.add(this.block));
    this.block.fit = set;
  }

  /**
   * The old text leaves as a copy without a name while the new one, already in place, cannot be seen yet; then
   * the new one comes. A change that arrives meanwhile waits, and only the newest is shown.
   */
  private show(next: readonly string[], moving: boolean): void {
    const change = this.layer.moments?.change;
    if (this.busy && moving) {
      this.waiting = next;
      return;
    }
    this.waiting = null;
    this.atShown.push(...this.later.splice(0));
    const same = next.join('\0') === this.block.text;
    if (same || !moving || lengthOf(change) === 0 || this.block.text === '' || !this.visible) {
      if (!same) this.block.set(next);
      return this.shownNow();
    }
    this.block.foresee(next);
    const old = this.el.cloneNode(true) as HTMLElement;
    delete old.dataset['layer'];
    delete old.dataset['id'];
    old.setAttribute('aria-hidden', 'true');
    this.block.set(next);
    this.el.before(old);
    const { leaves, comes, half } = halvesOf(change!);
    this.busy = this.comes = true;
    exit(old, leaves)!.onfinish = () => {
      old.remove();
      this.shownNow();
    };
    enter(this.el, comes, half)!.onfinish = () => {
      this.busy = false;
      if (this.waiting !== null) this.show(this.waiting, true);
    };
  }

  protected override poseIn(moment: MomentName, ms: number): Animation | null {
    return hold(this.el, moment, this.layer.moments?.[moment], ms);
  }
}
