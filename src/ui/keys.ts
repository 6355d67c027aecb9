import { useEffect, useRef } from 'react';

/** True when keys typed at the element are text, not shortcuts. */
function takesText(target: EventTarget | null): boolean {
  const typed =
    'input:not([type=checkbox], [type=radio], [type=range]), textarea, select, [contenteditable="true"]';
  return target instanceof HTMLElement && target.closest(typed) !== null;
}

/** Listens for single keys anywhere in the page but where text is typed. Keys are lower case, `ctrl+` before
 * them where it is held; a repeat is none. */
export function useKeys(keys: Record<string, () => void>): void {
  const latest = useRef(keys);
  useEffect(() => {
    latest.current = keys;
  });
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.altKey || event.repeat || takesText(event.target)) return;
      // What a dialog asks comes first.
      if (document.querySelector('[role="dialog"], [role="alertdialog"]')) return;
      const run =
        latest.current[`${event.ctrlKey || event.metaKey ? 'ctrl+' : ''}${event.key.toLowerCase()}`];
      if (!run) return;
      event.preventDefault();
      run();
    };
    addEventListener('keydown', press);
    return () => removeEventListener('keydown', press);
  }, []);
}
