import { isByHand } from '../../core/source/source.ts';
import Pause from 'lucide-react/icons/pause';
import Play from 'lucide-react/icons/play';
import Repeat from 'lucide-react/icons/repeat';
import SkipBack from 'lucide-react/icons/skip-back';
import { useEffect, useState } from 'react';
import { clockText, parseClock } from '../../core/clock/clock.ts';
import { SPEEDS } from '../../core/tape/show-time.ts';
import type { Part, TapeInfo, TapeOverview } from '../../core/tape/tape.ts';
import type { DeskSnapshot } from '../../core/wire/wire.ts';
import { Button } from '../../ui/Button.tsx';
import { ConfirmButton } from '../../ui/ConfirmButton.tsx';
import { useKeys } from '../../ui/keys.ts';
import { sizeText } from '../media/usage.ts';
import { usePosition } from '../shared/Deck.tsx';
import type { Desk, Prepared } from '../shared/desk.ts';
import { useKnown } from '../shared/use-desk.ts';
import shell from '../shared/View.module.css';
import css from './TapesView.module.css';
import { Timeline } from './Timeline.tsx';

interface Props {
  desk: Desk;
  snapshot: Prepared;
  tape: TapeInfo;
  date: string;
}

/** One tape: what is on it, and all that can be done with it. */
export function TapePanel({ desk, snapshot, tape, date }: Props) {
  const rehearsal = useKnown(desk, 'rehearsal');
  const playing = rehearsal?.tape === tape.key ? rehearsal : null;
  const position = usePosition(desk, playing);
  const overview = useOverview(tape);
  const [part, setPart] = useState<Part | null>(null);
  return (
    <>
      <section className={shell['panel']} aria-label="Tape">
        <Head desk={desk} tape={tape} date={date} playing={playing !== null} />
        {tape.problem && <p className={shell['refused']}>{tape.problem} What came before is whole.</p>}
        {snapshot.documents.profile.every((p) => p.key !== tape.profile) && (
          <p className={shell['refused']}>
            It was recorded with a sport that is not here ({tape.profile}): fields that this one lacks stay
            blank.
          </p>
        )}
      </section>
      <section className={shell['panel']} aria-label="Play">
        {playing && position !== null ? (
          <Transport
            desk={desk}
            playing={playing}
            position={position}
            part={part}
            overview={overview.found}
          />
        ) : (
          <Start desk={desk} snapshot={snapshot} tape={tape} />
        )}
      </section>
      {!tape.recording && (
        <section className={shell['panel']} aria-label="On the tape">
          {overview.problem && <p className={shell['refused']}>{overview.problem}</p>}
          {!overview.found && !overview.problem && <p className={shell['dim']}>Reading the tape…</p>}
          {overview.found && (
            <Timeline
              overview={overview.found}
              position={position}
              loop={playing?.loop ?? null}
              part={part}
              onPart={setPart}
              onJump={playing ? (to) => void desk.act({ kind: 'rehearse', do: 'jump', to }) : null}
            />
          )}
          {overview.found && <Cut desk={desk} tape={tape} part={part} onPart={setPart} />}
        </section>
      )}
    </>
  );
}

/** What is on a tape, asked for once it is whole. */
function useOverview({ key, recording, length }: TapeInfo) {
  const [answer, setAnswer] = useState<{ found: TapeOverview | null; problem: string | null }>({
    found: null,
    problem: null,
  });
  useEffect(() => {
    if (recording) return;
    let left = false;
    const ask = async () => {
      try {
        const response = await fetch(`/api/tapes/${encodeURIComponent(key)}`);
        const body = (await response.json()) as { ok: boolean; overview?: TapeOverview; reason?: string };
        if (!left) setAnswer({ found: body.overview ?? null, problem: body.reason ?? null });
      } catch {
        if (!left) setAnswer({ found: null, problem: 'The server does not answer; choose the tape again.' });
      }
    };
    void ask();
    return () => {
      left = true;
    };
  }, [key, recording, length]);
  return answer;
}

function Head({ desk, tape, date, playing }: { desk: Desk; tape: TapeInfo; date: string; playing: boolean }) {
  const [name, setName] = useState<string | null>(null);
  const rename = () => {
    const next = name?.trim();
    setName(null);
    if (next && next !== tape.name) void desk.act({ kind: 'tape', do: 'rename', tape: tape.key, name: next });
  };
  const busy = tape.recording || playing;
  return (
    <>
      <div className={shell['bar']}>
        <form
          className={css['name']}
          onSubmit={(event) => {
            event.preventDefault();
            rename();
          }}
        >
          <input
            value={name ?? tape.name}
            maxLength={80}
            disabled={tape.recording}
            aria-label="Name of the tape"
            onChange={(e) => setName(e.target.value)}
            onBlur={rename}
          />
        </form>
        {!tape.recording && (
          <a className={css['export']} href={`/tapes/${tape.key}.jsonl.gz`} download>
            Export
          </a>
        )}
        <ConfirmButton
          says="It is gone for good."
          disabled={busy}
          onYes={() => void desk.act({ kind: 'tape', do: 'delete', tape: tape.key })}
        />
      </div>
      <p className={shell['dim']}>
        {date} · {clockText(tape.length)} · {tape.entries.toLocaleString('en')} entries ·{' '}
        {sizeText(tape.size)} · {tape.sources.join(', ')}
      </p>
    </>
  );
}

/** Before a tape is played: what it takes the place of is said, and asked where something is lost by it. */
function Start({ desk, snapshot, tape }: { desk: Desk; snapshot: Prepared; tape: TapeInfo }) {
  const [maps, setMaps] = useState<'tape' | 'today'>('tape');
  const byHand = new Set(snapshot.bundles.filter((b) => isByHand(b.source)).map((b) => b.source.key));
  const live = useKnown(desk, 'sources').filter((s) => s.health === 'live' && !byHand.has(s.key)).length;
  const onAir = snapshot.lanes.filter((l) => l.onAir).length;
  const other = useKnown(desk, 'rehearsal') !== null;
  const start = () => void desk.act({ kind: 'rehearse', do: 'start', tape: tape.key, maps });
  const warn = [
    live > 0 && `shuts ${live === 1 ? 'one live source' : `${live} live sources`}`,
    onAir > 0 && `what is on air shows the tape`,
  ].filter(Boolean);
  return (
    <>
      <div className={shell['fields']}>
        {warn.length > 0 ? (
          <ConfirmButton
            label="Rehearse with this tape…"
            main
            disabled={tape.recording || other}
            says={`The rehearsal ${warn.join(', and ')}.`}
            yes="Rehearse now"
            no="Not now"
            onYes={start}
          />
        ) : (
          <Button main disabled={tape.recording || other} onClick={start}>
            Rehearse with this tape
          </Button>
        )}
        <label>
          read by
          <select
            value={maps}
            aria-label="Read by"
            onChange={(e) => setMaps(e.target.value as 'tape' | 'today')}
          >
            <option value="tape">the maps on the tape</option>
            <option value="today">today’s maps and patches</option>
          </select>
        </label>
      </div>
      <p className={shell['dim']}>
        {other
          ? 'Another tape is played; end that rehearsal first.'
          : 'The tape speaks in place of the real sources, and every view and picture says so. At its end the board says again what it said before.'}
      </p>
    </>
  );
}

interface TransportProps {
  desk: Desk;
  playing: NonNullable<DeskSnapshot['rehearsal']>;
  position: number;
  part: Part | null;
  overview: TapeOverview | null;
}

/** Play and pause, back and on, how fast, again and again. */
function Transport({ desk, playing, position, part, overview }: TransportProps) {
  const toggle = () => void desk.act({ kind: 'rehearse', do: playing.playing ? 'pause' : 'play' });
  const jump = (to: number) => void desk.act({ kind: 'rehearse', do: 'jump', to: Math.max(0, to) });
  const moments = overview?.moments ?? [];
  const next = moments.find((m) => m.at - 4000 > position);
  const before = moments.findLast((m) => m.at - 4000 < position - 2000);
  // A moment is seen from a little before it.
  const toMoment = (m: { at: number } | undefined) => m && jump(m.at - 3000);
  useKeys({
    ' ': toggle,
    arrowleft: () => jump(position - 5000),
    arrowright: () => jump(position + 5000),
    n: () => toMoment(next),
    b: () => toMoment(before),
  });
  return (
    <div className={css['transport']}>
      <strong className={css['now']} data-seeking={playing.seeking}>
        {clockText(position)}
      </strong>
      <Button aria-label="To the beginning" onClick={() => jump(0)}>
        <SkipBack size={16} />
      </Button>
      <Button main shortcut="Space" onClick={toggle} aria-label={playing.playing ? 'Pause' : 'Play'}>
        {playing.playing ? <Pause size={16} /> : <Play size={16} />}
        {playing.playing ? 'Pause' : 'Play'}
      </Button>
      <Button shortcut="←" onClick={() => jump(position - 5000)}>
        −5 s
      </Button>
      <Button shortcut="→" onClick={() => jump(position + 5000)}>
        +5 s
      </Button>
      <Button shortcut="B" disabled={!before} onClick={() => toMoment(before)}>
        Moment back
      </Button>
      <Button shortcut="N" disabled={!next} onClick={() => toMoment(next)}>
        Next moment
      </Button>
      <span className={css['speeds']} role="group" aria-label="Speed">
        {SPEEDS.map((s) => (
          <Button
            key={s}
            aria-pressed={playing.speed === s}
            onClick={() => void desk.act({ kind: 'rehearse', do: 'speed', to: s })}
          >
            {s}×
          </Button>
        ))}
      </span>
      <Button
        aria-pressed={playing.loop !== null}
        onClick={() =>
          void desk.act({
            kind: 'rehearse',
            do: 'loop',
            part: playing.loop ? null : (part ?? { from: 0, to: playing.length }),
          })
        }
      >
        <Repeat size={16} />
        {playing.loop
          ? `${clockText(playing.loop.from)} to ${clockText(playing.loop.to)}`
          : part
            ? 'Loop the part'
            : 'Loop'}
      </Button>
    </div>
  );
}

interface CutProps {
  desk: Desk;
  tape: TapeInfo;
  part: Part | null;
  onPart: (part: Part | null) => void;
}

/** A part of the tape, as typed or drawn: kept as a tape of its own, or left out of one. */
function Cut({ desk, tape, part, onPart }: CutProps) {
  const [typed, setTyped] = useState<{ from?: string; to?: string }>({});
  const [busy, setBusy] = useState(false);
  const set = (which: 'from' | 'to', text: string) => {
    setTyped({ ...typed, [which]: text });
    const read = parseClock(text);
    if (!read) return;
    const next = {
      from: part?.from ?? 0,
      to: part?.to ?? tape.length,
      [which]: Math.min(read.ms, tape.length),
    };
    if (next.to > next.from) onPart(next);
  };
  const cut = async (parts: Part[], name: string) => {
    setBusy(true);
    await desk.act({ kind: 'tape', do: 'cut', tape: tape.key, parts, name: name.slice(0, 80) });
    setBusy(false);
  };
  const box = (which: 'from' | 'to') => (
    <label>
      {which}
      <input
        size={6}
        aria-label={`Part ${which}`}
        placeholder={which === 'from' ? '0:00' : clockText(tape.length)}
        value={typed[which] ?? (part ? clockText(part[which]) : '')}
        onChange={(e) => set(which, e.target.value)}
        onBlur={() => setTyped({})}
      />
    </label>
  );
  return (
    <div className={shell['fields']}>
      <b>Part</b>
      {box('from')}
      {box('to')}
      <Button
        disabled={!part || busy}
        onClick={() =>
          part && void cut([part], `${tape.name}, ${clockText(part.from)} to ${clockText(part.to)}`)
        }
      >
        Save as a new tape
      </Button>
      <Button
        disabled={!part || busy || (part.from === 0 && part.to >= tape.length)}
        onClick={() =>
          part &&
          void cut(
            [
              { from: 0, to: part.from },
              { from: part.to, to: tape.length },
            ].filter((p) => p.to > p.from),
            `${tape.name}, shortened`,
          )
        }
      >
        Cut it out
      </Button>
      {part && <Button onClick={() => onPart(null)}>Forget it</Button>}
      <span className={shell['dim']}>
        {busy
          ? 'Cutting…'
          : 'Draw a part above, or type it. Cutting makes a new tape; this one stays as it is.'}
      </span>
    </div>
  );
}
