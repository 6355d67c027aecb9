import { useEffect } from 'react';
import { useStable } from './stable.ts';

/** True when keys typed at the element are text, not shortcuts. */
function takesText(target: EventTarget | null): boolean {
  const typed =
    'input:not([type=checkbox], [type=radio], [type=range]), textarea, select, [contenteditable="true"]';
  return target instanceof HTMLElement && target.closest(typed) !== null;
}

/** The control that the mouse pressed last, for as long as it has the focus: Enter and the arrows are still the view's. */
let pressed: Element | null = null;
if (typeof addEventListener === 'function') {
  addEventListener('focusin', () => (pressed = null), true);
  addEventListener('pointerup', () => (pressed = document.activeElement), true);
}

const CONTROLS =
  'a, button, input, summary, [role=switch], [role=option], [role=row], [role=treeitem], [role=tab], [role=radiogroup], [role=slider], [role=separator], [role=menu]';

/** True where the control that has the focus has a use for the key itself: somebody came to it by the keyboard. */
const isItsOwn = (key: string, target: EventTarget | null): boolean =>
  /^(enter|arrow\w+)$/.test(key) &&
  target instanceof Element &&
  target !== pressed &&
  target.closest(CONTROLS) !== null;

/** Under this name a browser remembers that single keys are to do nothing (WCAG 2.1.4). */
export const KEYS = 'keys';

/** True where single keys were switched off here; keys with Ctrl go on. */
function areOff(): boolean {
  try {
    return localStorage.getItem(`foothill.${KEYS}`) === 'off';
  } catch {
    return false;
  }
}

/** Ctrl+S is no text: what is being typed is done with first, as if its box was left, and is then what is saved. */
function saveFrom(box: HTMLElement, event: KeyboardEvent, keys: Record<string, () => void>): void {
  const { key, ctrlKey, metaKey } = event;
  if (key.toLowerCase() !== 's' || event.shiftKey || !(ctrlKey || metaKey) || !keys['ctrl+s']) return;
  event.preventDefault();
  box.blur();
  setTimeout(() => {
    document.body.dispatchEvent(new KeyboardEvent('keydown', { key, ctrlKey, metaKey, bubbles: true }));
    box.focus();
  });
}

/** Listens for single keys anywhere in the page but where text is typed. Keys are lower case, `ctrl+`, `shift+` or
 * `ctrl+shift+` before them where those are held (Shift before letters alone); a repeat is none. `first`: before any control that has a use for them. */
export function useKeys(keys: Record<string, () => void>, first = false): void {
  const press = useStable((event: KeyboardEvent) => {
    // A control that uses a key for itself has had it already.
    if (event.defaultPrevented || event.altKey || event.repeat) return;
    const target = event.composedPath()[0] ?? null;
    if (takesText(target)) return saveFrom(target as HTMLElement, event, keys);
    if (!event.ctrlKey && !event.metaKey && event.key.length === 1 && areOff()) return;
    const control = event.ctrlKey || event.metaKey;
    // With Shift a letter is another key than without.
    const shift = event.shiftKey && (control || /^\p{L}$/u.test(event.key));
    if (!first && isItsOwn(event.key.toLowerCase(), target)) return;
    const run = keys[`${control ? 'ctrl+' : ''}${shift ? 'shift+' : ''}${event.key.toLowerCase()}`];
    // What a dialog asks comes first. Looked for last: to look through a whole page takes longer than all the rest.
    if (!run || document.querySelector('[role="dialog"], [role="alertdialog"]')) return;
    event.preventDefault();
    if (first) event.stopPropagation();
    run();
  });
  useEffect(() => {
    addEventListener('keydown', press, first);
    return () => removeEventListener('keydown', press, first);
  }, [press, first]);
}

/**
 * Leaves what waits for certain keys as soon as somebody does something else: presses another one, or the mouse. Keys that `stays` matches
 * are what it waits for.
 */
export function useLeave(waits: boolean, stays: RegExp, leave: () => void): void {
  const left = useStable(leave);
  const pressed = useStable(({ key }: KeyboardEvent) => {
    if (!stays.test(key)) left();
  });
  useEffect(() => {
    if (!waits) return;
    addEventListener('keydown', pressed, true);
    addEventListener('pointerdown', left, true);
    return () => {
      removeEventListener('keydown', pressed, true);
      removeEventListener('pointerdown', left, true);
    };
  }, [waits, pressed, left]);
}

/** How far an arrow key goes, across and down: 1, with Shift 10; null for any other key. */
export function arrowOf({
  key,
  shiftKey,
}: {
  key: string;
  shiftKey: boolean;
}): [x: number, y: number] | null {
  const by = shiftKey ? 10 : 1;
  switch (key) {
    case 'ArrowLeft':
      return [-by, 0];
    case 'ArrowRight':
      return [by, 0];
    case 'ArrowUp':
      return [0, -by];
    case 'ArrowDown':
      return [0, by];
    default:
      return null;
  }
}
