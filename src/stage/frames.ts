/** Longer than a frame takes, in ms. */
const FRAME = 20;

/**
 * Calls `look` in the first frame that comes after `wait` ms, or in one a little before it: who looks asks again then. Until that
 * nothing is drawn: a page that draws each frame anew, to find what it drew before, costs ten times as much. Gives what ends it.
 */
export function inFrameAfter(wait: number, look: () => void): () => void {
  let frame = 0;
  const ask = () => (frame = requestAnimationFrame(look));
  let timer: ReturnType<typeof setTimeout> | undefined;
  if (wait > FRAME) timer = setTimeout(ask, wait - FRAME);
  else ask();
  return () => {
    clearTimeout(timer);
    cancelAnimationFrame(frame);
  };
}

/** After what is at hand in a page was done, in ms, where its browser does not say when it is. */
const SOON = 200;

/** Does work when the page has nothing else to do; gives what calls it off. */
export function whenIdle(work: () => void): () => void {
  if (!('requestIdleCallback' in window)) {
    const timer = setTimeout(work, SOON);
    return () => clearTimeout(timer);
  }
  const asked = requestIdleCallback(work);
  return () => cancelIdleCallback(asked);
}
