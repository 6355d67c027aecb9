import { useState } from 'react';
import type { Layout } from '../../core/layers/kinds.ts';
import * as tree from '../../core/workshop/tree.ts';

/** The layout without what is hidden at this desk. */
export function without(layout: Layout, hidden: ReadonlySet<string>): Layout {
  if (hidden.size === 0) return layout;
  const copy = structuredClone(layout);
  tree.remove(copy, hidden);
  return copy;
}

/** Ids that are on, and what turns one on or off. */
export function useToggled(): [ReadonlySet<string>, (id: string) => void] {
  const [set, change] = useState<ReadonlySet<string>>(new Set());
  return [
    set,
    (id) =>
      change((was) => {
        const next = new Set(was);
        if (!next.delete(id)) next.add(id);
        return next;
      }),
  ];
}
