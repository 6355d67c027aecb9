import type { Painted } from '../core/wire/wire.ts';

/** Draws what is behind all zones of an output. What is the same stays: a clip goes on where it is. */
export function paint(root: HTMLElement, { colour = 'transparent', address, clip }: Painted): void {
  root.style.backgroundColor = colour;
  const there = root.querySelector<HTMLElement>(':scope > [data-background]');
  if (there?.dataset['background'] === (address ?? '')) return;
  there?.remove();
  if (!address) return;
  const el = document.createElement(clip ? 'video' : 'img');
  el.dataset['background'] = address;
  if (el instanceof HTMLVideoElement) Object.assign(el, { muted: true, loop: true, autoplay: true });
  Object.assign(el.style, {
    position: 'absolute',
    inset: '0',
    width: '100%',
    height: '100%',
    objectFit: 'cover',
  });
  if (el instanceof HTMLImageElement) el.alt = '';
  el.src = address;
  root.prepend(el);
}
