import type { LayerProps } from '../../core/layers/kinds.ts';
import { LayerView } from './base.ts';
import { has, numberIn, textIn } from './content.ts';

export class ShapeView extends LayerView<'shape'> {
  private readonly face = this.el.appendChild(document.createElement('div'));

  protected override draw(props: LayerProps): void {
    const { style } = this.face;
    const { shape, radius, slant } = this.props;
    if (has(props, ['shape', 'radius'])) {
      Object.assign(style, { position: 'absolute', inset: '0' });
      style.borderRadius = shape === 'ellipse' ? '50%' : `${numberIn(radius)}px`;
    }
    if ('slant' in props) style.transform = slant ? `skewX(${-numberIn(slant)}deg)` : '';
    if ('fill' in props) style.background = textIn(props['fill']);
  }
}
