import type { LayerProps } from '../../core/layers/kinds.ts';
import { numberIn } from './content.ts';

/** A picture that another layer shows only where it is: a CSS image, and its box from the left and top of whose it is. */
export interface MaskImage {
  image: string;
  x: number;
  y: number;
  width: number;
  height: number;
}

/** A layer's drawing as an image for a mask, from the content of an SVG of the layer's size; turned as the layer is. */
export function maskDrawing(content: string, props: LayerProps): MaskImage {
  const [width, height] = [numberIn(props['width']), numberIn(props['height'])];
  const turn = numberIn(props['rotation']);
  const lean = numberIn(props['slant']);
  // What is turned or leans reaches beyond its box, at most as far as the longer of its sides.
  const beyond = turn || lean ? Math.max(width, height) : 0;
  const [w, h] = [width + 2 * beyond, height + 2 * beyond];
  const transform = `translate(${beyond} ${beyond}) rotate(${turn} ${width / 2} ${height / 2}) translate(0 ${height / 2}) skewX(${-lean}) translate(0 ${-height / 2})`;
  const drawing = `<svg xmlns="http://www.w3.org/2000/svg" width="${w}" height="${h}"><g transform="${transform}">${content}</g></svg>`;
  return {
    image: `url("data:image/svg+xml,${encodeURIComponent(drawing)}")`,
    x: -beyond,
    y: -beyond,
    width: w,
    height: h,
  };
}

interface MaskLayer {
  image: string;
  place: string;
  mode: string;
}

const WHOLE = '0 0 / 100% 100%';

/** An edge that fades, from side to side: opaque but for so many px at each end. */
const fading = (to: string, from: number, until: number): MaskLayer[] =>
  from || until
    ? [
        {
          image: `linear-gradient(to ${to}, transparent, #000 ${from}px, #000 calc(100% - ${until}px), transparent)`,
          place: WHOLE,
          mode: 'alpha',
        },
      ]
    : [];

/**
 * Writes a layer's mask (CSS Masking, level 1): its soft edges, and another layer's picture where it has one.
 * @param source null: it has none, or none that is there
 */
export function writeMask(style: CSSStyleDeclaration, props: LayerProps, source: MaskImage | null): void {
  const side = (name: string) => numberIn(props[name]);
  const layers: MaskLayer[] = [
    ...fading('right', side('softLeft'), side('softRight')),
    ...fading('bottom', side('softTop'), side('softBottom')),
  ];
  const composite = layers.map(() => 'intersect');
  if (source) {
    layers.push({
      image: source.image,
      place: `${source.x}px ${source.y}px / ${source.width}px ${source.height}px`,
      mode: props['maskBy'] === 'brightness' ? 'luminance' : 'alpha',
    });
    composite.push('add');
    if (props['maskInvert'] === true) {
      composite[composite.length - 1] = 'exclude';
      layers.push({ image: 'linear-gradient(#000, #000)', place: WHOLE, mode: 'alpha' });
      composite.push('add');
    }
  }
  const mask = layers.map((l) => `${l.image} ${l.place} no-repeat ${l.mode}`).join(', ');
  style.mask = mask;
  style.maskComposite = composite.join(', ');
}
