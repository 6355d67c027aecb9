import type { LayerProps } from '../../core/layers/kinds.ts';
import { LayerView } from './base.ts';
import { textIn } from './content.ts';

export class PictureView extends LayerView<'picture'> {
  private image: HTMLImageElement | null = null;
  private wanted = '';

  /** The new picture takes the old one's place once it is decoded; one that cannot be had changes nothing. */
  protected override draw(props: LayerProps): void {
    if ('fit' in props && this.image) this.image.style.objectFit = textIn(props['fit']);
    if (!('picture' in props)) return;
    this.wanted = textIn(props['picture']);
    if (!this.wanted.startsWith('/media/')) {
      this.image?.remove();
      this.image = null;
      return;
    }
    const next = new Image();
    next.alt = '';
    next.src = this.wanted;
    Object.assign(next.style, { position: 'absolute', width: '100%', height: '100%' });
    const path = this.wanted;
    next.decode().then(
      () => {
        if (path !== this.wanted) return;
        next.style.objectFit = textIn(this.props['fit']);
        this.el.append(next);
        this.image?.remove();
        this.image = next;
      },
      () => {},
    );
  }
}
