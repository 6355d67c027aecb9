import type { LayerProps } from '../../core/layers/kinds.ts';
import { LayerView } from './base.ts';
import { numberIn, textIn } from './content.ts';

export class PipsView extends LayerView<'pips'> {
  private readonly lamps = this.el.appendChild(document.createElement('div'));

  protected override draw(props: LayerProps): void {
    const { style } = this.lamps;
    if ('gap' in props) style.gap = `${numberIn(props['gap'])}px`;
    if ('direction' in props)
      Object.assign(style, {
        position: 'absolute',
        inset: '0',
        display: 'flex',
        flexDirection: textIn(props['direction']),
      });
    const [count, of] = [this.props['count'], this.props['of']].map((n) => Math.floor(numberIn(n)));
    while (this.lamps.childElementCount > of!) this.lamps.lastElementChild!.remove();
    while (this.lamps.childElementCount < of!) {
      const pip = document.createElement('i');
      Object.assign(pip.style, { flex: '1 1 0', borderRadius: '2px', transition: 'background-color 200ms' });
      this.lamps.append(pip);
    }
    [...this.lamps.children].forEach((pip, i) => {
      (pip as HTMLElement).style.backgroundColor = textIn(this.props[i < count! ? 'on' : 'off']);
      pip.setAttribute('data-on', String(i < count!));
    });
  }
}
