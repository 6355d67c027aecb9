import { useEffect } from 'react';
import { useStable } from './stable.ts';

/** True when keys typed at the element are text, not shortcuts. */
function takesText(target: EventTarget | null): boolean {
  const typed =
    'input:not([type=checkbox], [type=radio], [type=range]), textarea, select, [contenteditable="true"]';
  return target instanceof HTMLElement && target.closest(typed) !== null;
}

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

/** Listens for single keys anywhere in the page but where text is typed. Keys are lower case, `ctrl+` or
 * `ctrl+shift+` before them where those are held; a repeat is none. */
export function useKeys(keys: Record<string, () => void>): void {
  const press = useStable((event: KeyboardEvent) => {
    // A control that uses a key for itself has had it already.
    if (event.defaultPrevented || event.altKey || event.repeat || takesText(event.composedPath()[0] ?? null))
      return;
    if (!event.ctrlKey && !event.metaKey && event.key.length === 1 && areOff()) return;
    // What a dialog asks comes first.
    if (document.querySelector('[role="dialog"], [role="alertdialog"]')) return;
    const control = event.ctrlKey || event.metaKey;
    const run =
      keys[`${control ? (event.shiftKey ? 'ctrl+shift+' : 'ctrl+') : ''}${event.key.toLowerCase()}`];
    if (!run) return;
    event.preventDefault();
    run();
  });
  useEffect(() => {
    addEventListener('keydown', press);
    return () => removeEventListener('keydown', press);
  }, [press]);
}
