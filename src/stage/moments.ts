import type { Moment, MomentName } from '../core/layers/kinds.ts';

type Frames = Keyframe[];

const FAR = { left: '-100%, 0', right: '100%, 0', top: '0, -100%', bottom: '0, 100%' } as const;
const NEAR = { left: '-40%, 0', right: '40%, 0', top: '0, -40%', bottom: '0, 40%' } as const;
const CUT_OFF = {
  left: 'inset(0 100% 0 0)',
  right: 'inset(0 0 0 100%)',
  top: 'inset(0 0 100% 0)',
  bottom: 'inset(100% 0 0 0)',
} as const;

/** By how much of its size a wipe's window is moved to where nothing of the element is in it: across, down. */
const BESIDE = { left: [-1, 0], right: [1, 0], top: [0, -1], bottom: [0, 1] } as const;

/** From unseen to seen, by the moment's kind. What it says nothing of is as the layer has it. */
function coming(m: Moment): Frames {
  const from = m.from ?? 'bottom';
  switch (m.kind) {
    case 'slide':
      return [{ transform: `translate(${FAR[from]})` }, { transform: 'none' }];
    case 'wipe':
      return [{ clipPath: CUT_OFF[m.from ?? 'left'] }, { clipPath: 'inset(0 0 0 0)' }];
    case 'roll':
      return [{ transform: `translate(${NEAR[from]})`, opacity: 0 }, { transform: 'none' }];
    default:
      return [{ opacity: 0 }, {}];
  }
}

const EASE_IN = 'cubic-bezier(0.5, 0, 0.9, 0.4)';
const EASE_OUT = 'cubic-bezier(0.15, 0.8, 0.25, 1)';

/** How long a moment takes with its delay, in ms; a cut, or none, takes no time. */
export function lengthOf(m: Moment | undefined): number {
  return !m || m.kind === 'cut' ? 0 : m.ms + (m.delay ?? 0);
}

/** Marks what all content of an element is in that comes, goes or changes by a wipe. */
export const BODY = 'data-body';

/** How an element comes into sight, or leaves it. */
interface Movement {
  by: Moment;
  back: boolean;
  timing: KeyframeAnimationOptions;
}

const comes = (by: Moment, wait = 0): Movement => ({
  by,
  back: false,
  timing: { duration: by.ms, delay: (by.delay ?? 0) + wait, easing: EASE_OUT, fill: 'backwards' },
});
const leaves = (by: Moment): Movement => ({
  by,
  back: true,
  timing: { duration: by.ms, delay: by.delay ?? 0, easing: EASE_IN, fill: 'forwards' },
});

const run = (el: Element, frames: Frames, { back, timing }: Movement) =>
  el.animate(back ? frames.reverse() : frames, timing);

/**
 * Moves an element. A wipe is drawn as a window that moves over what stands still: the element is shifted, and its body is
 * shifted back by as much. A growing clip looks the same, but is painted anew in every frame, which on a large board takes
 * longer than a frame. A mask or a shadow would move with the window: what has one is clipped.
 */
function move(el: HTMLElement, movement: Movement): Animation {
  const { by } = movement;
  const body = el.firstElementChild;
  if (by.kind !== 'wipe' || !body?.hasAttribute(BODY) || el.style.mask || el.style.filter)
    return run(el, coming(by), movement);
  const [across, down] = BESIDE[by.from ?? 'left'];
  // Both are of one size. It is not asked for: the page would have to be laid out for each layer that comes.
  const shift = (sign: number): Frames => [
    { transform: `translate(${100 * sign * across}%, ${100 * sign * down}%)` },
    { transform: 'none' },
  ];
  // Clipping stands apart from the shift: no compositor would run the two as one.
  const clip = (): Frames => [{ overflow: 'clip' }, { overflow: 'clip' }];
  const along = [run(el, clip(), movement), run(body, clip(), movement), run(body, shift(-1), movement)];
  const window = run(el, shift(1), movement);
  window.cancel = () => {
    for (const animation of along) animation.cancel();
    Animation.prototype.cancel.call(window);
  };
  return window;
}

/** Brings an element into sight. */
export const enter = (el: HTMLElement, m: Moment | undefined, wait = 0): Animation | null =>
  lengthOf(m) === 0 ? null : move(el, comes(m!, wait));

/** Takes an element out of sight and leaves it there; the caller removes or hides it as the animation finishes. */
export const exit = (el: HTMLElement, m: Moment | undefined): Animation | null =>
  lengthOf(m) === 0 ? null : move(el, leaves(m!));

/** Keeps an element moving for as long as it shows, from where it is after so many ms: in step with all other pages. */
export function idle(el: HTMLElement, m: Moment | undefined, after = 0): Animation | null {
  if (lengthOf(m) === 0) return null;
  const moving = el.animate([{}, { opacity: 0.4 }, {}], {
    duration: m!.ms,
    iterations: Infinity,
    easing: 'ease-in-out',
  });
  moving.currentTime = after;
  return moving;
}

/** The halves of a change: the old leaves by the first, the new comes by the second. */
export function halvesOf(m: Moment): { leaves: Moment; comes: Moment; half: number } {
  const half = lengthOf(m) / 2;
  const comes = { ...m, ms: half, delay: 0 };
  return { leaves: { ...comes, from: m.from === 'top' ? 'bottom' : 'top' }, comes, half };
}

/** Holds an element where it is `ms` into a moment, its delay counted, until the animation is cancelled. */
export function hold(el: HTMLElement, name: MomentName, m: Moment | undefined, ms: number): Animation | null {
  if (lengthOf(m) === 0) return null;
  const movement = movementIn(name, m!, ms);
  const held = name === 'idle' ? idle(el, m)! : run(el, coming(movement.by), movement);
  held.pause();
  held.currentTime = ms;
  return held;
}

function movementIn(name: MomentName, m: Moment, ms: number): Movement {
  if (name !== 'change') return name === 'enter' ? comes(m) : leaves(m);
  const halves = halvesOf(m);
  return ms < halves.half ? leaves(halves.leaves) : comes(halves.comes, halves.half);
}
