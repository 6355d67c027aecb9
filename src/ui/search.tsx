import { useState } from 'react';

/** A search box, and the test that goes with it: whether texts have every word that is typed in it, whatever its case. */
export function useSearch(label: string, autoFocus = false) {
  const [typed, setTyped] = useState('');
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  return {
    active: words.length > 0,
    clear: () => setTyped(''),
    finds: (...texts: string[]) => {
      const all = texts.join(' ').toLowerCase();
      return words.every((w) => all.includes(w));
    },
    box: (
      <input
        type="search"
        autoFocus={autoFocus}
        value={typed}
        placeholder={label}
        aria-label={label}
        onChange={(e) => setTyped(e.target.value)}
      />
    ),
  };
}
