import { lazy, Suspense, type ComponentType } from 'react';
import { Guard } from './Guard.tsx';

/** A part of a page that its first view does without: its code comes afterwards, and nothing stands there until then. */
export function later<P extends object>(load: () => Promise<ComponentType<P>>): ComponentType<P> {
  const Part = lazy(async () => ({ default: await load() }));
  return function Later(props: P) {
    return (
      <Guard>
        <Suspense fallback={null}>
          <Part {...props} />
        </Suspense>
      </Guard>
    );
  };
}
