import { expect, it } from 'vitest';
import { isColour } from './colour-text.ts';

it.each([
  ...['#fff', '#fffa', '#102030', '#10203040', 'red', 'transparent', 'currentColor'],
  ...['rgb(1, 2, 3)', 'rgba(1 2 3 / 40%)', 'hsl(120deg 30% 40%)', 'color(display-p3 1 .5 0)', ' #abc '],
])('%s is a colour', (text) => expect(isColour(text)).toBe(true));

it.each([
  ...['', '#12', '#ggg', '7', 'url(http://203.0.113.9/x)', 'url(#fade)', 'image-set("x" 1x)', 'var(--x)'],
  ...['red; background: url(x)', 'rgb(url(x))', 'linear-gradient(red, blue)', 'element(#a)', 'r\\65 d'],
  'rgb(' + '1'.repeat(200) + ')',
])('%s is none', (text) => expect(isColour(text)).toBe(false));
