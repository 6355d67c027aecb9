import { useEffect, type ComponentType } from 'react';
import { Guard } from './Guard.tsx';
import { useLoading } from './loaded.ts';
import css from './Later.module.css';

type Load<P> = () => Promise<ComponentType<P>>;

/**
 * A part of a page that its first view does without: its code comes afterwards. Until then `Standing` stands in its place, or
 * nothing. It is shown as soon as it is here: what waits by React's Suspense is held back for 300 ms.
 */
export function later<P extends object>(load: Load<P>, Placeholder?: ComponentType<P>): ComponentType<P> {
  function Part(props: P) {
    const { here: Here, wrong } = useLoading(load);
    if (wrong) throw wrong;
    return Here ? <Here {...props} /> : Placeholder ? <Placeholder {...props} /> : null;
  }
  return function Later(props: P) {
    return (
      <Guard>
        <Part {...props} />
      </Guard>
    );
  };
}

/** A dialog whose code comes afterwards. From the press that opens it on, no key and no press is for what lies under it. */
export const laterDialog = <P extends { onClose: () => void }>(load: Load<P>): ComponentType<P> =>
  later(load, Coming);

function Coming({ onClose }: { onClose: () => void }) {
  useEffect(() => {
    const hold = (event: KeyboardEvent) => {
      event.stopImmediatePropagation();
      // The browser's own, such as loading the page anew, stay.
      if (!event.ctrlKey && !event.metaKey) event.preventDefault();
      if (event.key === 'Escape') onClose();
    };
    addEventListener('keydown', hold, true);
    return () => removeEventListener('keydown', hold, true);
  }, [onClose]);
  return (
    <div role="dialog" aria-label="Loading" aria-busy className={css['coming']}>
      <span>Loading…</span>
    </div>
  );
}
