import { lazy, Suspense, type ComponentType } from 'react';
import { Guard } from './Guard.tsx';

/**
 * A part of a page that its first view does without: its code comes afterwards. Until then `Standing` stands in its place, or
 * nothing.
 */
export function later<P extends object>(
  load: () => Promise<ComponentType<P>>,
  Standing?: ComponentType<P>,
): ComponentType<P> {
  const Part = lazy(async () => ({ default: await load() }));
  return function Later(props: P) {
    return (
      <Guard>
        <Suspense fallback={Standing ? <Standing {...props} /> : null}>
          <Part {...props} />
        </Suspense>
      </Guard>
    );
  };
}
