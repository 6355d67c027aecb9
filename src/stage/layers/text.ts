import type { LayerProps, MomentName } from '../../core/layers/kinds.ts';
import { enter, exit, halvesOf, hold, lengthOf } from '../moments.ts';
import { LayerView } from './base.ts';
import { textIn } from './content.ts';
import { LineText } from './line-text.ts';

export class TextView extends LayerView<'text'> {
  private readonly line = new LineText(this.el);
  private busy = false;
  private waiting: string | null = null;

  protected override draw(props: LayerProps, _now: number, moving: boolean): void {
    if ('fitWith' in props) this.join(textIn(props['fitWith']));
    const anew = this.line.write(props, this.props);
    const before = this.line.text;
    if ('text' in props) this.show(textIn(props['text']), moving);
    // A new text was fitted as it was put.
    if (anew && this.line.text === before) this.line.fitted();
  }

  override remove(): void {
    this.join('');
    super.remove();
  }

  private join(name: string): void {
    this.line.fit?.delete(this.line);
    this.line.fit = null;
    if (name === '') return;
    const set = this.mount.fits.get(name) ?? new Set();
    this.mount.fits.set(name, set.add(this.line));
    this.line.fit = set;
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
    if (!moving || lengthOf(change) === 0 || this.line.text === '' || !this.visible)
      return this.line.set(next);
    this.line.foresee(next);
    const old = this.el.cloneNode(true) as HTMLElement;
    delete old.dataset['layer'];
    delete old.dataset['id'];
    old.setAttribute('aria-hidden', 'true');
    this.line.set(next);
    this.el.before(old);
    const { leaves, comes, half } = halvesOf(change!);
    this.busy = true;
    exit(old, leaves)!.onfinish = () => old.remove();
    enter(this.el, comes, half)!.onfinish = () => {
      this.busy = false;
      if (this.waiting !== null) this.show(this.waiting, true);
    };
  }

  protected override poseIn(moment: MomentName, ms: number): Animation | null {
    return hold(this.el, moment, this.layer.moments?.[moment], ms);
  }
}
