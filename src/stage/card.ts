import type { Card } from '../core/wire/wire.ts';
import type { Link } from './link.ts';

/** How long the bar takes across the picture, in ms. */
const CROSSING = 4000;
/** The bar's width, and how far the lines of the grid lie apart, in px. */
const BAR = 12;
const GRID = 100;
/** How long the marks in the corners of a zone are, in px; at most a fifth of it. */
const MARK = 60;
/** The colours of zones, one after the other: far apart, and none of them the grid's. */
const COLOURS = ['#ffd23f', '#4cc9f0', '#ff6b6b', '#7ae582', '#c77dff', '#ff9f1c'];

const SVG = 'http://www.w3.org/2000/svg';
function draw(name: string, props: Record<string, string | number>, text?: string): SVGElement {
  const el = document.createElementNS(SVG, name);
  for (const [key, value] of Object.entries(props)) el.setAttribute(key, String(value));
  if (text !== undefined) el.textContent = text;
  return el;
}

/** A text as large as its box lets it be, in its middle. */
function words(text: string, x: number, y: number, room: number, most: number, fill: string): SVGElement {
  const size = Math.max(6, Math.min(most, room / (text.length * 0.56)));
  return draw(
    'text',
    {
      ...{ x, y, fill, 'text-anchor': 'middle', 'dominant-baseline': 'central' },
      ...{ 'font-family': 'Barlow Condensed, sans-serif', 'font-weight': 700, 'font-size': size },
    },
    text,
  );
}

/** The names, sizes, edges and corners of the zones over a grid of pixels: what does not move. */
function still({ output, zones }: Card): SVGElement[] {
  const { width, height } = output;
  const lines: SVGElement[] = [];
  for (let x = 0; x <= width; x += GRID)
    lines.push(draw('path', { d: `M${x + 0.5} 0V${height}`, stroke: x % 500 ? '#3d4a55' : '#6d7f8d' }));
  for (let y = 0; y <= height; y += GRID)
    lines.push(draw('path', { d: `M0 ${y + 0.5}H${width}`, stroke: y % 500 ? '#3d4a55' : '#6d7f8d' }));
  return [
    draw('rect', { width, height, fill: '#12181d' }),
    ...lines,
    ...zones.flatMap(({ name, x, y, width: w, height: h, all }, i) => {
      const colour = COLOURS[i % COLOURS.length]!;
      // The outermost pixels of the zone, neither more nor less: what of them is not seen is cut off.
      const edge = { x: x + 0.5, y: y + 0.5, width: w - 1, height: h - 1 };
      const mark = Math.min(MARK, w / 5, h / 5);
      const thick = Math.max(1, mark / 10);
      const corner = (cx: number, cy: number, dx: number, dy: number) =>
        draw('path', {
          d: `M${cx + dx * mark} ${cy + (dy * thick) / 2}H${cx + (dx * thick) / 2}V${cy + dy * mark}`,
          ...{ stroke: colour, 'stroke-width': thick, fill: 'none' },
        });
      const size = `${w} × ${h} at ${x}, ${y}`;
      const [big, small] = [Math.min(h * 0.3, 120), Math.min(h * 0.2, 72)];
      // One over all others leaves their middles to them.
      const middle = { x: x + w / 2, y: y + (all ? big + small : h / 2) };
      return [
        draw('rect', { ...edge, fill: all ? 'none' : `${colour}1a`, stroke: colour }),
        corner(x, y, 1, 1),
        corner(x + w, y, -1, 1),
        corner(x, y + h, 1, -1),
        corner(x + w, y + h, -1, -1),
        words(name, middle.x, middle.y - big * 0.6, w * 0.9, big, colour),
        words(size, middle.x, middle.y + small * 0.7, w * 0.9, small, '#ffffff'),
      ];
    }),
  ];
}

/**
 * The test card over all of a picture, on every page at the same moment the same: a bar that crosses it evenly (a stutter is a
 * frame that was not shown), and how far the server's word is. Gives what takes it away.
 */
export function drawCard(
  root: HTMLElement,
  card: Card,
  { realNow, delay }: Pick<Link, 'realNow' | 'delay'>,
): () => void {
  const { name, width, height } = card.output;
  const svg = draw('svg', { width, height, viewBox: `0 0 ${width} ${height}`, 'data-card': name });
  Object.assign(svg.style, { position: 'absolute', inset: '0', zIndex: '900' });
  // One pixel on, one off: grey where the picture is made larger or smaller on its way.
  const stripes = draw('pattern', {
    id: 'card-stripes',
    width: 2,
    height: 2,
    patternUnits: 'userSpaceOnUse',
  });
  stripes.append(draw('rect', { width: 1, height: 2, fill: '#ffffff' }));
  const side = Math.min(64, Math.floor(height / 4));
  const patch = { x: Math.floor(width / 2) - side / 2, y: 0, width: side, height: side };
  const bar = draw('rect', { width: BAR, height, fill: '#ffffff', 'data-card-bar': '' });
  const size = Math.min(36, height / 4);
  const foot = {
    x: size,
    y: height - size,
    fill: '#ffffff',
    'font-size': size,
  };
  const said = draw('text', {
    ...foot,
    ...{ 'font-family': 'Barlow Condensed, sans-serif', 'font-weight': 600 },
    style: 'font-variant-numeric: tabular-nums',
  });
  svg.append(stripes, ...still(card), draw('rect', { ...patch, fill: 'url(#card-stripes)' }), bar, said);
  root.append(svg);
  let frame = 0;
  const move = () => {
    const now = realNow();
    bar.setAttribute('x', String(((now % CROSSING) / CROSSING) * (width + BAR) - BAR));
    const late = delay();
    const time = new Date(now).toISOString().slice(11, 21);
    said.textContent = `${name}, ${width} × ${height} · ${time} UTC · ${late === null ? '…' : `${Math.round(late)} ms`} to the server`;
    frame = requestAnimationFrame(move);
  };
  move();
  return () => {
    cancelAnimationFrame(frame);
    svg.remove();
  };
}
