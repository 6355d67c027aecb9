/**
 * Puts a text on the clipboard. From another machine a page has no clipboard of its own (the address is no safe one): there the
 * text is selected and copied as a press of Ctrl+C would. Gives whether it is there.
 */
export async function copyText(text: string): Promise<boolean> {
  try {
    await navigator.clipboard.writeText(text);
    return true;
  } catch {
    const box = document.createElement('textarea');
    box.value = text;
    box.style.position = 'fixed';
    const before = document.activeElement;
    document.body.append(box);
    box.select();
    // What is out of date here is the only way that is left, and goes on working.
    const done = document.execCommand('copy');
    box.remove();
    if (before instanceof HTMLElement) before.focus();
    return done;
  }
}
