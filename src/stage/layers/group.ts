import { memberOf, type LayerProps } from '../../core/layers/kinds.ts';
import { LayerView } from './base.ts';
import { textIn } from './content.ts';

export class GroupView extends LayerView<'group'> {
  protected override draw(props: LayerProps): void {
    if ('clip' in props) this.el.style.overflow = props['clip'] === true ? 'hidden' : '';
  }
}

export class OneOfView extends LayerView<'one-of'> {
  protected override draw(_props: LayerProps, now: number, moving: boolean): void {
    const which = textIn(this.props['which']);
    for (const child of this.layer.layers)
      this.mount.views.get(child.id)?.choose(memberOf(child) === which, now, moving);
  }
}
