import type { LayerProps } from '../../core/layers/kinds.ts';
import { fitScale, placeText, sharedScale, type Anchor } from '../../core/text/fit.ts';
import { capShift, measureText, type TextStyle } from '../measure.ts';
import { has, numberIn, textIn } from './content.ts';

const STYLED = ['font', 'weight', 'size', 'tracking', 'anchorX', 'anchorY', 'width', 'height'];

/** One line of text fitted into its layer's box. */
export class LineText {
  private readonly span = document.createElement('span');
  private style: TextStyle = {
    font: '',
    weight: 400,
    size: 1,
    tracking: 0,
    anchor: { x: 'left', y: 'top' },
  };
  box = { width: 0, height: 0 };
  /** The texts that it shares its scale with, itself among them. */
  fit: Set<LineText> | null = null;

  constructor(private readonly el: HTMLElement) {
    Object.assign(this.span.style, {
      position: 'absolute',
      left: '0',
      top: '0',
      whiteSpace: 'pre',
      transformOrigin: '0 0',
    });
    el.append(this.span);
  }

  /** Takes what changed of the properties that a text is written by; true where it has to be placed anew. */
  write(changed: LayerProps, props: LayerProps): boolean {
    if ('colour' in changed) this.el.style.color = textIn(props['colour']);
    if (!has(changed, STYLED)) return false;
    const [font, weight, size, tracking] = [
      textIn(props['font']),
      numberIn(props['weight']),
      numberIn(props['size']),
      numberIn(props['tracking']),
    ];
    const anchor = { x: props['anchorX'], y: props['anchorY'] } as Anchor;
    this.style = { font, weight, size, tracking, anchor };
    this.box = { width: numberIn(props['width']), height: numberIn(props['height']) };
    Object.assign(this.span.style, {
      font: `${weight} ${size}px "${font}", sans-serif`,
      fontVariantNumeric: 'tabular-nums',
      letterSpacing: `${tracking}em`,
    });
    this.span.style.lineHeight = `${measureText('', this.style).height}px`;
    return true;
  }

  get text(): string {
    return this.span.textContent ?? '';
  }

  get size() {
    return measureText(this.text, this.style);
  }

  /** Measures a text that will come, so that only the ruler is laid out then, not the picture. */
  foresee(text: string): void {
    measureText(text, this.style);
  }

  set(value: string): void {
    this.span.textContent = value;
    this.fitted();
  }

  /** Places it, and all that share its scale. */
  fitted(): void {
    if (!this.fit) return this.place(fitScale(this.size, this.box));
    const scale = sharedScale([...this.fit].map(({ size, box }) => ({ size, box })));
    for (const line of this.fit) line.place(scale);
  }

  private place(scale: number): void {
    const at = placeText(this.size, this.box, this.style.anchor, scale);
    const shift = this.style.anchor.y === 'middle' ? capShift(this.style) * scale : 0;
    this.span.style.transform = `translate(${at.x}px, ${at.y + shift}px) scale(${scale})`;
  }
}
