import { useEffect, useRef, useState } from 'react';
import { clockText } from '../../core/clock/clock.ts';
import type { TapeInfo } from '../../core/tape/tape.ts';
import { Button } from '../../ui/Button.tsx';
import { useSearch } from '../../ui/search.tsx';
import { sizeText } from '../media/usage.ts';
import { UndoRedo } from '../shared/UndoRedo.tsx';
import shell from '../shared/View.module.css';
import { useKnown } from '../shared/use-desk.ts';
import { LastAction } from '../shared/Said.tsx';
import { deskHeader } from '../shared/identity.ts';
import { View, type Seen } from '../shared/View.tsx';
import { TapePanel } from './TapePanel.tsx';
import css from './TapesView.module.css';

/** When a tape was made, in this browser's own way of writing dates. */
const dateText = (iso: string) =>
  new Date(iso).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' });

/** Tapes: what all sources said, recorded; kept, cut, carried elsewhere, and played in place of the sources. */
export default function TapesView() {
  return (
    <View here="/tapes" columns="360px minmax(0, 1fr)">
      {(seen) => <Tapes {...seen} />}
    </View>
  );
}

function Tapes({ desk, snapshot }: Seen) {
  const tapes = useKnown(desk, 'tapes');
  const rehearsal = useKnown(desk, 'rehearsal');
  const [selected, setSelected] = useState<string | null>(rehearsal?.tape ?? null);
  const [name, setName] = useState('');
  const search = useSearch('Find a tape');
  const [brought, setBrought] = useState<{ ok: boolean; text: string } | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const recording = tapes.find((t) => t.recording);
  const shown = [...tapes]
    .sort((a, b) => b.recorded.localeCompare(a.recorded))
    .filter((t) => search.finds(t.name));
  const current = tapes.find((t) => t.key === selected) ?? (selected === null ? shown[0] : undefined);

  // What was cut or recorded just now is what one looks at next.
  const known = useRef(new Set(tapes.map((t) => t.key)));
  useEffect(() => {
    const fresh = tapes.find((t) => !known.current.has(t.key));
    known.current = new Set(tapes.map((t) => t.key));
    if (fresh) setSelected(fresh.key);
  }, [tapes]);

  const bring = async (one: File) => {
    setBrought({ ok: true, text: `Reading ${one.name}…` });
    try {
      const response = await fetch('/api/tapes', { method: 'POST', headers: deskHeader(), body: one });
      const answer = (await response.json()) as { ok: boolean; reason?: string; name?: string };
      setBrought({
        ok: answer.ok,
        text: answer.ok ? `Imported ${answer.name}` : `${one.name}: ${answer.reason}`,
      });
    } catch {
      setBrought({ ok: false, text: `${one.name} did not reach the server.` });
    }
  };
  return (
    <>
      <aside className={shell['side']} aria-label="Tapes">
        <form
          className={css['record']}
          onSubmit={(event) => {
            event.preventDefault();
            void desk.act({ kind: 'tape', do: 'record', ...(name.trim() ? { name: name.trim() } : {}) });
            setName('');
          }}
        >
          {recording ? (
            <>
              <span>
                <b>{clockText(recording.length)}</b> {recording.name}
              </span>
              <Button main onClick={() => void desk.act({ kind: 'tape', do: 'stop' })}>
                Stop recording
              </Button>
            </>
          ) : (
            <>
              <input
                value={name}
                maxLength={80}
                placeholder="Name of the recording"
                aria-label="Name of the recording"
                onChange={(e) => setName(e.target.value)}
              />
              <Button type="submit" disabled={rehearsal !== null}>
                Record
              </Button>
            </>
          )}
        </form>
        {tapes.length > 5 && search.box}
        <ul>
          {shown.map((t) => (
            <li key={t.key}>
              <button
                type="button"
                aria-pressed={t.key === current?.key}
                data-tape={t.name}
                onClick={() => setSelected(t.key)}
              >
                <b>{t.name}</b>
                <em>{stateOf(t, rehearsal?.tape)}</em>
                <span>
                  {clockText(t.length)} · {sizeText(t.size)} · {dateText(t.recorded)}
                </span>
              </button>
            </li>
          ))}
        </ul>
        {tapes.length === 0 && (
          <p className={shell['dim']}>
            No tape yet. Record while the sources speak, and rehearse with it later.
          </p>
        )}
        <div className={shell['bar']}>
          <Button onClick={() => file.current?.click()}>Import a tape…</Button>
          <UndoRedo desk={desk} />
        </div>
        <input
          ref={file}
          type="file"
          hidden
          aria-label="Tape to import"
          accept=".jsonl,.gz,.jsonl.gz"
          onChange={(e) => {
            const [one] = e.target.files ?? [];
            e.target.value = '';
            if (one) void bring(one);
          }}
        />
        {brought && <p className={shell[brought.ok ? 'dim' : 'refused']}>{brought.text}</p>}
        <LastAction desk={desk} />
      </aside>
      <div className={shell['editor']}>
        {current ? (
          <TapePanel
            key={current.key}
            desk={desk}
            snapshot={snapshot}
            tape={current}
            date={dateText(current.recorded)}
          />
        ) : (
          <p className={shell['waiting']}>Choose a tape, or record one.</p>
        )}
      </div>
    </>
  );
}

function stateOf(tape: TapeInfo, playing: string | undefined): string {
  if (tape.recording) return 'recording';
  return tape.key === playing ? 'plays' : '';
}
