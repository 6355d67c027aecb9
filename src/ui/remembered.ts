import { useMemo, useState } from 'react';

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

/** A list of words that this browser remembers; empty until something is in it. */
export function useRememberedList(name: string): [readonly string[], (list: readonly string[]) => void] {
  const [text, setText] = useRemembered(name, '');
  const list = useMemo(() => text.split('\n').filter(Boolean), [text]);
  return [list, (next) => setText(next.join('\n'))];
}
