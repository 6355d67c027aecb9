import { boxPath, type Radii } from '../../core/layers/outline.ts';
import type { LayerProps } from '../../core/layers/kinds.ts';
import { LayerView } from './base.ts';
import { colourIn, styled, numberIn } from './content.ts';
import { maskDrawing, type MaskImage } from './mask.ts';
import { outlineOf, svg } from './outline.ts';

/** Makes each gradient's name its own in the page. */
let gradients = 0;

/** What a shape is drawn on, to be copied. */
const FACE = styled('div', 'position:absolute;inset:0;box-sizing:border-box');

export class ShapeView extends LayerView<'shape'> {
  private readonly face = this.body.appendChild(FACE.cloneNode() as HTMLElement);
  /** What is drawn where the outline is neither box nor ellipse. */
  private drawing: SVGSVGElement | null = null;

  protected override draw(props: LayerProps): void {
    // Where it stands, and whether it shows, draws nothing anew.
    if (!Object.keys(props).some((name) => DRAWN.has(name))) return;
    const { style } = this.face;
    const { shape, slant, border } = this.props;
    const outline = outlineOf(this.props);
    style.transform = slant ? `skewX(${-numberIn(slant)}deg)` : '';
    const [fill, to] = [colourIn(this.props['fill']), colourIn(this.props['fillTo'])];
    if (outline !== null) {
      style.background = style.border = style.borderRadius = '';
      return this.outlined(outline, fill, to);
    }
    this.drawing?.remove();
    this.drawing = null;
    style.borderRadius =
      shape === 'ellipse'
        ? '50%'
        : radiiOf(this.props)
            .map((r) => `${r}px`)
            .join(' ');
    style.background = to
      ? `linear-gradient(${numberIn(this.props['fillAngle'])}deg, ${fill || 'transparent'}, ${to}) border-box`
      : fill;
    style.border = border ? `${numberIn(border)}px solid ${colourIn(this.props['borderColour'])}` : '';
  }

  override maskImage(): MaskImage {
    const { shape } = this.props;
    const [w, h] = [numberIn(this.props['width']), numberIn(this.props['height'])];
    const outline = outlineOf(this.props);
    const content =
      outline !== null
        ? `<path transform="scale(${w / 100} ${h / 100})" d="${outline}"/>`
        : shape === 'ellipse'
          ? `<ellipse cx="${w / 2}" cy="${h / 2}" rx="${w / 2}" ry="${h / 2}"/>`
          : `<path d="${boxPath(w, h, radiiOf(this.props))}"/>`;
    // By its brightness it masks as its colour is bright.
    const fill = colourIn(this.props['fill']) || '#000';
    return maskDrawing(`<g fill="${fill}">${content}</g>`, this.props);
  }

  private outlined(outline: string, fill: string, to: string): void {
    if (!this.drawing) {
      this.drawing = svg('svg', { viewBox: '0 0 100 100', preserveAspectRatio: 'none' });
      Object.assign(this.drawing.style, {
        position: 'absolute',
        inset: '0',
        width: '100%',
        height: '100%',
        overflow: 'visible',
      });
      this.face.append(this.drawing);
    }
    const border = numberIn(this.props['border']);
    const path = svg('path', {
      d: outline,
      fill: fill || 'none',
      ...(border && {
        stroke: colourIn(this.props['borderColour']),
        'stroke-width': border,
        'vector-effect': 'non-scaling-stroke',
        'stroke-linejoin': 'round',
      }),
    });
    this.drawing.replaceChildren(path);
    if (!to) return;
    const id = `fade${(gradients += 1)}`;
    // CSS counts from upwards to the right, SVG from rightwards down.
    const turn = numberIn(this.props['fillAngle']) - 90;
    const fade = svg('linearGradient', { id, gradientTransform: `rotate(${turn} .5 .5)` });
    fade.append(...stopsOf(fill, to));
    this.drawing.prepend(fade);
    path.setAttribute('fill', `url(#${id})`);
  }
}

/** From the top left on, to the right and round. */
const RADII = ['radius', 'radiusTopRight', 'radiusBottomRight', 'radiusBottomLeft'];

/** The stops of a fade from one colour, or nothing, to another. */
export const stopsOf = (fill: string, to: string): SVGStopElement[] => [
  svg('stop', { offset: 0, 'stop-color': fill || 'transparent' }),
  svg('stop', { offset: 1, 'stop-color': to }),
];

/** The radii of a box's corners. */
export const radiiOf = (props: LayerProps): Radii =>
  RADII.map((name) => numberIn(props[props['corners'] === 'each' ? name : 'radius'])) as unknown as Radii;

const DRAWN = new Set([
  'shape',
  'points',
  'path',
  'fill',
  'fillTo',
  'fillAngle',
  'border',
  'borderColour',
  'corners',
  ...RADII,
  'slant',
]);
