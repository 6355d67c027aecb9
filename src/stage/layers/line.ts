import type { LayerProps } from '../../core/layers/kinds.ts';
import { LayerView } from './base.ts';
import { colourIn, numberIn, textIn } from './content.ts';
import { svg } from './outline.ts';

const POINTS = { fromX: 'x1', fromY: 'y1', toX: 'x2', toY: 'y2', thickness: 'stroke-width' } as const;

/** A line of SVG in an element, which may lead beyond it. */
function drawnIn(el: HTMLElement): SVGLineElement {
  const drawing = svg('svg');
  Object.assign(drawing.style, { position: 'absolute', overflow: 'visible', width: '1px', height: '1px' });
  el.append(drawing);
  return drawing.appendChild(svg('line'));
}

export class LineView extends LayerView<'line'> {
  private readonly line = drawnIn(this.body);

  protected override draw(props: LayerProps): void {
    for (const [name, attribute] of Object.entries(POINTS))
      if (name in props) this.line.setAttribute(attribute, String(numberIn(props[name])));
    if ('colour' in props) this.line.setAttribute('stroke', colourIn(props['colour']));
    if ('dash' in props) this.line.setAttribute('stroke-dasharray', textIn(props['dash']));
  }
}
