import { useState } from 'react';

/** A choice that this browser remembers under `name`. Where nothing can be stored it lasts as long as the page. */
export function useRemembered(name: string, otherwise: string): [string, (value: string) => void] {
  const [value, set] = useState(() => {
    try {
      return localStorage.getItem(`foothill.${name}`) ?? otherwise;
    } catch {
      return otherwise;
    }
  });
  return [
    value,
    (next) => {
      set(next);
      try {
        localStorage.setItem(`foothill.${name}`, next);
      } catch {
        // Private windows may refuse to store; the choice still holds for this page.
      }
    },
  ];
}
