import { useCallback, useEffect, useState } from 'react';
import type { Transport } from '../../core/source/source.ts';
import type { SourceState } from '../../core/wire/wire.ts';

/** How often a line that is being tried is asked how it is, in ms; asking keeps it open. */
const ASK_EVERY = 1000;

/** A line that is open to be looked at before its source is saved. */
export interface Trial {
  /** Its key; null while none is open. */
  key: string | null;
  state: SourceState | undefined;
  /** The line that is open, as text. */
  line: string | null;
  problem: string | null;
  connect: (transport: Transport) => Promise<void>;
  /** Closes it, so that the source can open the same line. */
  end: () => Promise<void>;
}

type Answer = { ok: boolean; reason?: string; key?: string; state?: SourceState };

async function ask(method: string, key = '', body?: object): Promise<Answer> {
  try {
    const response = await fetch(`/api/trials/${encodeURIComponent(key)}`.replace(/\/$/, ''), {
      method,
      ...(body ? { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) } : {}),
      signal: AbortSignal.timeout(20_000),
      keepalive: method === 'DELETE',
    });
    return (await response.json()) as Answer;
  } catch {
    return { ok: false, reason: 'The server does not answer.' };
  }
}

/** Tries a line: open for as long as this page looks at it. */
export function useTrial(): Trial {
  const [open, setOpen] = useState<{ key: string; line: string } | null>(null);
  const [state, setState] = useState<SourceState>();
  const [problem, setProblem] = useState<string | null>(null);
  const key = open?.key ?? null;
  useEffect(() => {
    if (key === null) return;
    let gone = false;
    const timer = setInterval(look, ASK_EVERY);
    function look() {
      void ask('GET', key!).then((answer) => {
        if (gone) return;
        if (answer.state) setState(answer.state);
        setProblem(answer.ok ? null : (answer.reason ?? null));
      });
    }
    look();
    return () => {
      gone = true;
      clearInterval(timer);
      void ask('DELETE', key);
    };
  }, [key]);
  const connect = useCallback(
    async (transport: Transport) => {
      // What is open is closed first: it may be the same port.
      if (key !== null) await ask('DELETE', key);
      setState(undefined);
      const answer = await ask('POST', '', { transport });
      setOpen(answer.key ? { key: answer.key, line: JSON.stringify(transport) } : null);
      setProblem(answer.ok ? null : (answer.reason ?? null));
    },
    [key],
  );
  const end = useCallback(async () => {
    if (key !== null) await ask('DELETE', key);
    setOpen(null);
  }, [key]);
  return { key, state, line: open?.line ?? null, problem, connect, end };
}
