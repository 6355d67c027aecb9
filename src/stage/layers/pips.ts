import type { LayerProps } from '../../core/layers/kinds.ts';
import { spotsIn } from '../../core/layers/outline.ts';
import { LayerView } from './base.ts';
import { colourIn, numberIn, textIn } from './content.ts';

export class PipsView extends LayerView<'pips'> {
  private readonly lamps = this.body.appendChild(document.createElement('div'));

  protected override draw(props: LayerProps): void {
    const { style } = this.lamps;
    const { by, count, of, shape, direction } = this.props;
    const placed = direction === 'placed';
    if ('gap' in props) style.gap = `${numberIn(props['gap'])}px`;
    if ('direction' in props)
      Object.assign(style, {
        position: 'absolute',
        inset: '0',
        display: placed ? 'block' : 'flex',
        flexDirection: placed ? '' : textIn(direction),
      });
    const many = Math.floor(numberIn(of));
    while (this.lamps.childElementCount > many) this.lamps.lastElementChild!.remove();
    while (this.lamps.childElementCount < many) {
      const pip = document.createElement('i');
      pip.style.transition = 'background-color 200ms';
      this.lamps.append(pip);
    }
    const spots = placed ? spotsIn(textIn(this.props['spots'])) : [];
    const size = numberIn(this.props['lampSize']);
    [...this.lamps.children].forEach((child, i) => {
      const pip = child as HTMLElement;
      const on = by === 'each' ? this.props[`lamp${i + 1}`] === true : i < Math.floor(numberIn(count));
      pip.style.backgroundColor = colourIn(this.props[on ? 'on' : 'off']);
      pip.setAttribute('data-on', String(on));
      Object.assign(pip.style, FORM[textIn(shape) as keyof typeof FORM] ?? FORM.bar);
      if (placed) {
        const { x, y } = spots[i] ?? { x: 50, y: 50 };
        Object.assign(pip.style, {
          position: 'absolute',
          width: `${size}px`,
          height: `${size}px`,
          left: `calc(${x}% - ${size / 2}px)`,
          top: `calc(${y}% - ${size / 2}px)`,
        });
      } else if (shape === 'bar' || !shape)
        Object.assign(pip.style, { position: '', flex: '1 1 0', width: '', height: '' });
      else {
        // Round and square lamps keep their form: they are as large as the shorter side lets them be.
        const side = { flex: '0 1 auto', aspectRatio: '1', position: '' };
        Object.assign(
          pip.style,
          side,
          direction === 'column' ? { width: '100%', height: '' } : { height: '100%', width: '' },
        );
      }
    });
  }
}

const FORM = {
  bar: { borderRadius: '2px', clipPath: '', aspectRatio: '' },
  dot: { borderRadius: '50%', clipPath: '' },
  diamond: { borderRadius: '0', clipPath: 'polygon(50% 0, 100% 50%, 50% 100%, 0 50%)' },
} as const;
