import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { DocMap } from '../../core/tree/doc-map.ts';
import { fromJson } from '../../core/tree/json.ts';
import { pruned, type PrunedNode } from '../../core/tree/node.ts';
import { readDocument, type DocumentRead } from '../../core/tree/read.ts';

/** A source's newest good document, cut down to be looked at, with what a map finds in it. */
export interface Looked extends DocumentRead {
  format: string;
  tree: PrunedNode;
}

export interface DocumentLook {
  looked: Looked | null;
  /** Why there is nothing to look at, or why the map was refused. */
  problem: string | null;
  fetchNow: () => Promise<void>;
  fetching: boolean;
}

async function ask(key: string, body: object): Promise<{ ok: boolean; reason?: string } & Partial<Looked>> {
  const response = await fetch(`/api/sources/${encodeURIComponent(key)}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
    signal: AbortSignal.timeout(70_000),
  });
  return (await response.json()) as { ok: boolean };
}

/** Looks at a source's documents: again whenever one came, and whenever the map that is being made changed. */
export function useDocument(
  key: string | null,
  map: DocMap | null,
  changedAt: number | null,
  most: number,
): DocumentLook {
  const [looked, setLooked] = useState<Looked | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [fetching, setFetching] = useState(false);
  const number = useRef(0);
  const text = JSON.stringify(map);
  useEffect(() => {
    // Before anything good came there is nothing to look at.
    if (!key || changedAt === null) return;
    const mine = ++number.current;
    // Typing in the map asks once it rests; a document that came is shown at once on the next turn.
    const timer = setTimeout(() => {
      void ask(key, { map: JSON.parse(text) as DocMap | null, most })
        .catch(() => ({ ok: false, reason: 'The server does not answer.' }))
        .then((answer) => {
          if (mine !== number.current) return;
          setProblem(answer.ok ? null : (answer.reason ?? ''));
          if (answer.ok) setLooked(answer as Looked);
        });
    }, 120);
    return () => clearTimeout(timer);
  }, [key, text, changedAt, most]);
  const fetchNow = useCallback(async () => {
    if (!key) return;
    setFetching(true);
    await ask(key, { fetch: true }).catch(() => null);
    setFetching(false);
  }, [key]);
  return { looked, problem, fetchNow, fetching };
}

/** The newest whole line of JSON among the bytes of a stream, as a document; null where there is none. */
export function lastJsonLine(bytes: Uint8Array, most?: number): PrunedNode | null {
  const lines = new TextDecoder().decode(bytes).split('\n').slice(0, -1);
  for (const line of lines.reverse().slice(0, 3)) {
    try {
      const value: unknown = JSON.parse(line);
      if (typeof value === 'object' && value !== null) return pruned(fromJson(value), most);
    } catch {
      // Half a line, or no JSON at all.
    }
  }
  return null;
}

/** A stream of JSON lines as a document that is looked at. */
export function useJsonLines(bytes: Uint8Array, map: DocMap | null, most: number): Looked | null {
  const tree = useMemo(() => lastJsonLine(bytes, most), [bytes, most]);
  return useMemo(
    () =>
      tree && {
        format: 'JSON lines',
        tree,
        ...(map ? readDocument(tree, map) : { readings: [], tables: [] }),
      },
    [tree, map],
  );
}
