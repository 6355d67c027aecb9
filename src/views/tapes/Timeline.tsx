import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { clockText } from '../../core/clock/clock.ts';
import type { Part, TapeOverview } from '../../core/tape/tape.ts';
import { tip } from '../../ui/tip.ts';
import css from './Timeline.module.css';

/** Less movement than this, in px, is a press and not a drag. */
const STEADY = 4;

/** Steps that one counts time in, in ms. */
const STEPS = [1, 2, 5, 10, 20, 30, 60, 120, 300, 600, 1200, 1800, 3600].map((s) => s * 1000);

/** At most eight round times along a tape. */
function ticksOf(length: number): number[] {
  const step = STEPS.find((s) => length / s <= 8) ?? 7_200_000;
  return Array.from({ length: Math.floor(length / step) + 1 }, (_, i) => i * step);
}

/** The end of a part that the keys move: the one that is not where they began. */
const edge = (part: Part, anchor: number | null) => (part.from === anchor ? part.to : part.from);

interface Props {
  overview: TapeOverview;
  position: number | null;
  loop: Part | null;
  part: Part | null;
  onPart: (part: Part | null) => void;
  /** Goes to a moment; null while the tape is not played. */
  onJump: ((to: number) => void) | null;
}

/** What is on a tape, over its time: how much each source says, where scores and periods changed, and the part chosen. */
export function Timeline({ overview, position, loop, part, onPart, onJump }: Props) {
  const area = useRef<HTMLDivElement>(null);
  const [from, setFrom] = useState<{ x: number; at: number } | null>(null);
  /** Where the keys are, while nothing plays; and where they began to choose a part. */
  const [cursor, setCursor] = useState(0);
  const [anchor, setAnchor] = useState<number | null>(null);
  const { length, lanes, moments } = overview;
  const percent = (at: number) => `${(at / Math.max(1, length)) * 100}%`;
  const atOf = (event: PointerEvent) => {
    const { left, width } = area.current!.getBoundingClientRect();
    return Math.max(0, Math.min(1, (event.clientX - left) / width)) * length;
  };
  const at = position ?? cursor;
  const keys = (event: KeyboardEvent) => {
    if (event.key === 'Escape' && part) return onPart(null);
    const step = { ArrowLeft: -1000, ArrowRight: 1000, PageUp: -10_000, PageDown: 10_000 }[event.key];
    const to =
      event.key === 'Home'
        ? 0
        : event.key === 'End'
          ? length
          : step && Math.max(0, Math.min(length, (event.shiftKey && part ? edge(part, anchor) : at) + step));
    if (to === undefined) return;
    event.preventDefault();
    if (!event.shiftKey) {
      setAnchor(null);
      setCursor(to);
      return onJump?.(to);
    }
    const begin = anchor ?? at;
    setAnchor(begin);
    if (!onJump) setCursor(to);
    onPart({ from: Math.min(begin, to), to: Math.max(begin, to) });
  };
  const span = (p: Part) => ({ left: percent(p.from), width: percent(p.to - p.from) });
  return (
    <>
      <div className={css['timeline']}>
        <div className={css['names']}>
          {lanes.map((lane) => (
            <span key={lane.key}>{lane.name}</span>
          ))}
        </div>
        <div
          ref={area}
          className={css['area']}
          role="slider"
          tabIndex={0}
          aria-label="Timeline"
          aria-valuemin={0}
          aria-valuemax={Math.round(length / 1000)}
          aria-valuenow={Math.round(at / 1000)}
          aria-valuetext={`${clockText(at)}${part ? `, part from ${clockText(part.from)} to ${clockText(part.to)}` : ''}`}
          {...tip('Arrow keys go along, with Shift they choose a part')}
          onKeyDown={keys}
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            setFrom({ x: event.clientX, at: atOf(event) });
          }}
          onPointerMove={(event) => {
            if (!from || Math.abs(event.clientX - from.x) < STEADY) return;
            const at = atOf(event);
            onPart({ from: Math.min(from.at, at), to: Math.max(from.at, at) });
          }}
          onPointerUp={(event) => {
            if (from && Math.abs(event.clientX - from.x) < STEADY) onJump?.(from.at);
            setFrom(null);
          }}
        >
          {lanes.map((lane) => {
            const most = Math.max(1, ...lane.counts);
            return (
              <svg key={lane.key} viewBox={`0 0 ${lane.counts.length} 1`} preserveAspectRatio="none">
                {lane.counts.map((n, i) => (
                  <rect key={i} x={i} y={1 - n / most} width={1} height={n / most} />
                ))}
              </svg>
            );
          })}
          {moments.map((m, i) => (
            <i key={i} className={css[m.kind]} style={{ left: percent(m.at) }} />
          ))}
          {part && <span className={css['part']} style={span(part)} />}
          {loop && <span className={css['loop']} style={span(loop)} />}
          {(position !== null || cursor > 0) && (
            <span className={css['head']} style={{ left: percent(at) }} />
          )}
        </div>
        <div />
        <div className={css['times']}>
          {ticksOf(length).map((at) => (
            <span key={at} style={{ left: percent(at) }}>
              {clockText(at)}
            </span>
          ))}
        </div>
      </div>
      {moments.length > 0 && (
        <ol className={css['moments']} aria-label="Moments" tabIndex={0}>
          {moments.map((m, i) => (
            <li key={i}>
              <button type="button" disabled={!onJump} onClick={() => onJump?.(Math.max(0, m.at - 3000))}>
                <span>{clockText(m.at)}</span> <b>{m.text}</b>
              </button>
            </li>
          ))}
        </ol>
      )}
    </>
  );
}
