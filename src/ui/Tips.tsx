import { useEffect, useState } from 'react';
import { later } from './Later.tsx';

const Tip = later(() => import('./Tip.tsx').then((m) => m.Tip));

/** How long the mouse rests before a tip comes, and how long it stays when the mouse went (maybe onto the tip), in ms. */
const REST = 500;
const STAY = 200;

/** What a tip belongs to: the element itself, or the box of the label that the mouse is at. */
function tipped(target: EventTarget | null): HTMLElement | null {
  if (!(target instanceof Element)) return null;
  const box = target.closest('label')?.control;
  return target.closest<HTMLElement>('[data-tip]') ?? (box?.dataset['tip'] ? box : null);
}

/**
 * Shows the words of whatever has `tip`: where the mouse rests, or where the keys are. One for the page, so that what has a
 * tip costs nothing until it is asked. Escape puts it away; the mouse may go onto it to read it.
 */
export function Tips() {
  const [at, setAt] = useState<HTMLElement | null>(null);
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const go = (to: HTMLElement | null, after: number) => {
      clearTimeout(timer);
      timer = setTimeout(() => setAt(to), after);
    };
    const over = ({ target }: Event) => {
      if (target instanceof Element && target.closest('[role=tooltip]')) return clearTimeout(timer);
      const to = tipped(target);
      go(to, to ? REST : STAY);
    };
    const focus = ({ target }: Event) =>
      target instanceof Element && target.matches(':focus-visible') && go(tipped(target), REST);
    const away = () => go(null, 0);
    const keys = ({ key }: KeyboardEvent) => key === 'Escape' && away();
    const all = { capture: true, passive: true };
    const listeners: [string, (event: never) => void][] = [
      ['pointerover', over],
      ['focusin', focus],
      ['focusout', away],
      ['pointerdown', away],
      ['keydown', keys],
      ['scroll', away],
    ];
    for (const [name, listener] of listeners) document.addEventListener(name, listener as EventListener, all);
    return () => {
      clearTimeout(timer);
      for (const [name, listener] of listeners)
        document.removeEventListener(name, listener as EventListener, all);
    };
  }, []);
  const words = at?.isConnected ? at.dataset['tip'] : undefined;
  return at && words ? <Tip key={words} at={at} words={words} /> : null;
}
