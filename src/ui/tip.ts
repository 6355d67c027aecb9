/** Attributes of what says more about itself at the mouse, at the focus, and to those who hear the page; none for no words. */
export const tip = (words: string | null | undefined): { 'data-tip'?: string; 'aria-description'?: string } =>
  words ? { 'data-tip': words, 'aria-description': words } : {};
