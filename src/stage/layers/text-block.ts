import type { LayerProps } from '../../core/layers/kinds.ts';
import { lineOf, rulesOf, stylesOf, type RunStyle } from '../../core/layers/written.ts';
import {
  fitScale,
  placeText,
  sharedScale,
  writeText,
  type Anchor,
  type FitRules,
  type Scale,
} from '../../core/text/fit.ts';
import { fontStack } from '../../core/text/font-stack.ts';
import { capShift, measureText, verticalsOf } from '../measure.ts';
import { colourIn, styled, has, numberIn } from './content.ts';

const STYLED = /^(font|weight|size|tracking|anchor|width|height|margin|fit|least|narrowest|lineHeight)/;

/** What every text stands in, to be copied. */
const LINE = styled(
  'span',
  'position:absolute;left:0;top:0;white-space:pre;transform-origin:0 0;font-variant-numeric:tabular-nums',
);

/** A text fitted into its layer's box: in one line or more, in one style or several one after another. */
export class TextBlock {
  private readonly span = LINE.cloneNode() as HTMLSpanElement;
  /** Of each run, the first of which is the text itself. */
  private styles: RunStyle[] = [{ font: '', weight: 400, size: 1, tracking: 0 }];
  private colours: string[] = [];
  private anchor: Anchor = { x: 'left', y: 'top' };
  private margin = { x: 0, y: 0 };
  private props: LayerProps = {};
  private rules: FitRules = rulesOf({}, 1);
  private runs: readonly string[] = [''];
  /** What stands in the page: it is written anew only where it is another. */
  private written = '';
  /** The texts that it shares its scale with, itself among them. */
  fit: Set<TextBlock> | null = null;

  constructor(
    private readonly el: HTMLElement,
    body: HTMLElement,
  ) {
    body.append(this.span);
  }

  /** Takes what changed of the properties that a text is written by; true where it has to be placed anew. */
  write(changed: LayerProps, props: LayerProps): boolean {
    if ('colour' in changed) this.el.style.color = colourIn(props['colour']);
    if (has(changed, ['outline', 'outlineColour'])) {
      const outline = numberIn(props['outline']);
      // The stroke lies half inside the letters, where the fill covers it.
      this.span.style.webkitTextStroke = outline
        ? `${outline * 2}px ${colourIn(props['outlineColour'])}`
        : '';
      this.span.style.setProperty('paint-order', outline ? 'stroke fill' : '');
    }
    const coloured = Object.keys(changed).some((name) => /^colour\d/.test(name));
    if (!coloured && !Object.keys(changed).some((name) => STYLED.test(name))) return false;
    this.props = props;
    this.styles = stylesOf(props);
    this.colours = ['', ...[2, 3, 4].map((n) => colourIn(props[`colour${n}`]))];
    this.anchor = { x: props['anchorX'], y: props['anchorY'] } as Anchor;
    this.margin = { x: numberIn(props['marginX']), y: numberIn(props['marginY']) };
    const [main] = this.styles;
    const { style } = this.span;
    // The short form sets back what figures are drawn with.
    style.font = `${main!.weight} ${main!.size}px ${fontStack(main!.font)}`;
    style.fontVariantNumeric = 'tabular-nums';
    if (main!.tracking || style.letterSpacing) style.letterSpacing = `${main!.tracking}em`;
    if (this.anchor.x !== 'left' || style.textAlign)
      style.textAlign = { left: 'left', centre: 'center', right: 'right' }[this.anchor.x];
    this.measured();
    this.written = '\u0001';
    return true;
  }

  /** How far above its own top the tallest run of a line reaches, in px. */
  private above = 0;

  /** Is measured and placed anew, as after a font came in. */
  refit(): void {
    this.measured();
    this.fitted();
  }

  private measured(): void {
    // Only styles that something is written in make a line higher.
    const used = this.styles.filter((_, run) => run === 0 || this.runs[run]);
    const { height, above } = lineOf(used.map(verticalsOf));
    this.above = above;
    this.rules = rulesOf(this.props, height);
    this.span.style.lineHeight = `${this.rules.line}px`;
  }

  /** What it says, without what was done to make it fit. */
  get text(): string {
    return this.runs.join('\0');
  }

  private readonly measure = (text: string, run: number) => measureText(text, this.styles[run]!);

  /** Measures a text that will come, so that only the ruler is laid out then, not the picture. */
  foresee(runs: readonly string[]): void {
    runs.forEach(this.measure);
  }

  set(runs: readonly string[]): void {
    const plain = this.runs.length === 1 && runs.length === 1;
    this.runs = runs;
    if (!plain) this.measured();
    this.fitted();
  }

  /** The scale that it would have by itself. */
  private get own(): Scale {
    return fitScale(this.runs, this.measure, this.rules);
  }

  /** Places it, and all that share its scale. */
  fitted(): void {
    if (!this.fit) return this.place(this.own);
    const scale = sharedScale([...this.fit].map((t) => t.own));
    for (const text of this.fit) text.place(scale);
  }

  /** How it is drawn: its scale, across and down, and whether its end is cut off. */
  drawn: { scale: Scale; cut: boolean } = { scale: { x: 1, y: 1 }, cut: false };

  private place(scale: Scale): void {
    const { lines, size, cut } = writeText(this.runs, this.measure, this.rules, scale);
    this.drawn = { scale, cut };
    const written = lines.map((l) => l.map((p) => `${p.run}\0${p.text}`).join('\0')).join('\n');
    if (written !== this.written) {
      this.written = written;
      const [first = [], ...more] = lines;
      if (more.length === 0 && first.every((p) => p.run === 0)) this.span.textContent = first[0]?.text ?? '';
      else
        this.span.replaceChildren(
          ...lines.map((line) => {
            const row = document.createElement('div');
            row.append(...line.map((p) => this.piece(p.text, p.run)));
            return row;
          }),
        );
    }
    const { width, height } = this.rules.box;
    const at = placeText(size, { width, height }, this.anchor, scale, this.below);
    const middle = this.anchor.y === 'middle' ? capShift(this.styles[0]!, this.above) * scale.y : 0;
    const [x, y] = [at.x + this.margin.x, at.y + this.margin.y + middle + this.above * scale.y];
    this.span.style.transform = `translate(${x}px, ${y}px) scale(${scale.x === scale.y ? scale.x : `${scale.x}, ${scale.y}`})`;
  }

  /** How far the base of the last line is above its lower edge, in px at the set size. */
  private get below(): number {
    const { ascent, descent } = verticalsOf(this.styles[0]!);
    return descent + (this.rules.line - ascent - descent - this.above) / 2;
  }

  private piece(text: string, run: number): Node {
    if (run === 0) return document.createTextNode(text);
    const style = this.styles[run]!;
    const part = document.createElement('span');
    part.textContent = text;
    Object.assign(part.style, {
      font: `${style.weight} ${style.size}px/0 ${fontStack(style.font)}`,
      fontVariantNumeric: 'tabular-nums',
      color: this.colours[run]!,
    });
    return part;
  }
}
