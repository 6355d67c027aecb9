import { useState, type KeyboardEvent } from 'react';
import type { ReadingDef } from '../../core/decode/frame-map.ts';
import css from './Ruler.module.css';

export interface Selection {
  offset: number;
  length: number;
}

interface Props {
  frame: Uint8Array;
  changedAt: number[];
  readings: ReadingDef[];
  selection: Selection | null;
  onSelect: (selection: Selection | null) => void;
  /** The selection is as it was meant: the mouse was let go, or Enter pressed. */
  onSelected: () => void;
  /** Bytes that a button of the controller changed. */
  heard: ReadonlySet<number>;
}

/** How long a byte stays lit after it changed, in ms. */
const LIT = 700;

/** A frame as a ruler of bytes: what changes lights up, what has a name carries it, and bytes can be selected. */
export function Ruler({ frame, changedAt, readings, selection, onSelect, onSelected, heard }: Props) {
  const [from, setFrom] = useState<number | null>(null);
  const now = performance.now();
  const to = (i: number, start: number) =>
    onSelect({ offset: Math.min(i, start), length: Math.abs(i - start) + 1 });
  const keys = (event: KeyboardEvent) => {
    const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    if (event.key === 'Escape') return onSelect(null);
    if (event.key === 'Enter' && selection) {
      event.preventDefault();
      return onSelected();
    }
    if (!step) return;
    event.preventDefault();
    const { offset, length } = selection ?? { offset: 0, length: 1 };
    if (event.shiftKey)
      onSelect({ offset, length: Math.min(frame.length - offset, Math.max(1, length + step)) });
    else onSelect({ offset: Math.min(frame.length - length, Math.max(0, offset + step)), length });
  };
  return (
    <div
      className={css['ruler']}
      role="listbox"
      aria-label="Bytes of the frame"
      tabIndex={0}
      onKeyDown={keys}
      onMouseUp={() => {
        if (from !== null) onSelected();
        setFrom(null);
      }}
      onMouseLeave={() => setFrom(null)}
    >
      {[...frame].map((byte, i) => {
        const reading = readings.find((r) => i >= r.offset && i < r.offset + r.length);
        const selected =
          selection !== null && i >= selection.offset && i < selection.offset + selection.length;
        return (
          <span
            key={i}
            role="option"
            aria-selected={selected}
            data-byte={i}
            data-lit={now - (changedAt[i] ?? 0) < LIT}
            data-heard={heard.has(i)}
            data-first={reading?.offset === i}
            data-named={reading !== undefined}
            className={css['byte']}
            title={reading ? `byte ${i}: ${reading.name}` : `byte ${i}`}
            onMouseDown={(event) => {
              if (event.button !== 0) return;
              setFrom(i);
              to(i, i);
            }}
            onMouseEnter={() => from !== null && to(i, from)}
          >
            <i>{i}</i>
            <b>
              {byte > 0x20 && byte < 0x7f ? String.fromCharCode(byte) : byte === 0x20 ? '\u2423' : '\u00b7'}
            </b>
            <small>{byte.toString(16).padStart(2, '0')}</small>
          </span>
        );
      })}
    </div>
  );
}
