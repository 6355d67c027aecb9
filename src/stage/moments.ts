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

/** Brings an element into sight. */
export function enter(el: Element, m: Moment | undefined, wait = 0): Animation | null {
  if (lengthOf(m) === 0) return null;
  return el.animate(coming(m!), {
    duration: m!.ms,
    delay: (m!.delay ?? 0) + wait,
    easing: EASE_OUT,
    fill: 'backwards',
  });
}

/** Takes an element out of sight and leaves it there; the caller removes or hides it as the animation finishes. */
export function exit(el: Element, m: Moment | undefined): Animation | null {
  if (lengthOf(m) === 0) return null;
  return el.animate(coming(m!).reverse(), {
    duration: m!.ms,
    delay: m!.delay ?? 0,
    easing: EASE_IN,
    fill: 'forwards',
  });
}

/** Keeps an element moving for as long as it shows, from where it is after so many ms: in step with all other pages. */
export function idle(el: Element, m: Moment | undefined, after = 0): Animation | null {
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
export function hold(el: Element, name: MomentName, m: Moment | undefined, ms: number): Animation | null {
  if (lengthOf(m) === 0) return null;
  const held = name === 'change' ? changing(el, m!, ms) : { enter, exit, idle }[name](el, m);
  held?.pause();
  if (held) held.currentTime = ms;
  return held;
}

function changing(el: Element, m: Moment, ms: number): Animation | null {
  const { leaves, comes, half } = halvesOf(m);
  return ms < half ? exit(el, leaves) : enter(el, comes, half);
}
