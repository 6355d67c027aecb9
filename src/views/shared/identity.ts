/** Who sits at this desk: the browser's own id, and the name that the person gave. */
export interface Identity {
  desk: string;
  name: () => string;
}

/** Under these names a browser remembers who sits at it. */
const DESK = 'foothill.desk';
/** As `useRemembered` keeps it. */
export const NAME = 'name';

/** An id that nobody else makes: for an action, so that a request that arrives twice is done once, or for a desk. */
export function newId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(12));
  return [...bytes].map((b) => b.toString(16).padStart(2, '0')).join('');
}

/** Who sits here. Where nothing can be stored it is somebody new with each page. */
export function identity(): Identity {
  const made = newId();
  let desk = made;
  try {
    desk = localStorage.getItem(DESK) ?? made;
    if (desk === made) localStorage.setItem(DESK, made);
  } catch {
    // Private windows may refuse to store.
  }
  return {
    desk,
    name: () => {
      try {
        return (localStorage.getItem(`foothill.${NAME}`) ?? '').trim().slice(0, 80);
      } catch {
        return '';
      }
    },
  };
}

/** Says with a request which desk asks: what it takes of the server's room is its own. */
export const deskHeader = (): Record<string, string> => ({ 'foothill-desk': identity().desk });
