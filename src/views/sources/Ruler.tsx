import { useId, useState, type KeyboardEvent } from 'react';
import type { ReadingDef } from '../../core/decode/frame-map.ts';
import type { Parts, Stretch } from '../../core/decode/parts.ts';
import css from './Ruler.module.css';

/** Bytes that were selected: several places where further ones were added, or the field that they are. */
export interface Selection {
  offset: number;
  length: number;
  more?: { offset: number; length: number }[];
  field?: number | string;
}

interface Props {
  frame: Parts;
  changedAt: readonly number[];
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

const charOf = (byte: number) =>
  byte > 0x20 && byte < 0x7f ? String.fromCharCode(byte) : byte === 0x20 ? '\u2423' : '\u00b7';
const covers = (p: { offset: number; length: number }, at: number) =>
  at >= p.offset && at < p.offset + p.length;

/**
 * A frame as a ruler of bytes: what changes lights up, what has a name carries it, and bytes can be selected; in frames
 * that are cut into fields, whole fields.
 */
export function Ruler({ frame, changedAt, readings, selection, onSelect, onSelected, heard }: Props) {
  const [from, setFrom] = useState<number | null>(null);
  const id = useId();
  const now = performance.now();
  const { bytes, fields } = frame;
  const placed = readings.flatMap((r) => {
    const places = frame.placesOf(r);
    return Array.isArray(places) ? places.map((p: Stretch) => ({ ...p, name: r.name })) : [];
  });

  /** Selects from one byte to another, or the field that a byte is in. `add` keeps the places that are selected. */
  const to = (i: number, start: number, add = false) => {
    const n = fields.findIndex((f) => i >= f.from && i < f.to);
    const field = fields[n];
    if (field)
      return onSelect({ offset: field.from, length: field.to - field.from, field: field.name ?? n + 1 });
    if (fields.length > 0) return;
    const place = { offset: Math.min(i, start), length: Math.abs(i - start) + 1 };
    if (!add || !selection) return onSelect(place);
    const kept = (selection.more ?? []).filter((p) => !covers(p, start));
    onSelect({ ...selection, more: [...kept, place] });
  };
  const step = (by: number, wider: boolean) => {
    if (fields.length > 0) {
      const at = selection ? fields.findIndex((f) => f.from === selection.offset) : -1;
      const next = fields[Math.min(fields.length - 1, Math.max(0, at + by))];
      return next && to(next.from, next.from);
    }
    const { offset, length } = selection ?? { offset: by > 0 ? -1 : 1, length: 1 };
    if (wider && selection)
      return onSelect({ offset, length: Math.min(bytes.length - offset, Math.max(1, length + by)) });
    onSelect({ offset: Math.min(bytes.length - length, Math.max(0, offset + by)), length });
  };
  const keys = (event: KeyboardEvent) => {
    if (event.key === 'Escape') return onSelect(null);
    if (event.key === 'Enter' && selection) {
      event.preventDefault();
      return onSelected();
    }
    const by = { ArrowRight: 1, ArrowLeft: -1, Home: -bytes.length, End: bytes.length }[event.key];
    if (!by) return;
    event.preventDefault();
    step(by, event.shiftKey);
  };
  const all = selection ? [selection, ...(selection.more ?? [])] : [];
  return (
    <div
      className={css['ruler']}
      role="listbox"
      aria-label={fields.length ? 'Fields of the frame' : 'Bytes of the frame'}
      aria-multiselectable="true"
      aria-orientation="horizontal"
      aria-activedescendant={
        selection ? `${id}-${selection.offset + (fields.length ? 0 : selection.length - 1)}` : undefined
      }
      tabIndex={0}
      onKeyDown={keys}
      onMouseUp={() => {
        if (from !== null) onSelected();
        setFrom(null);
      }}
      onMouseLeave={() => setFrom(null)}
    >
      {[...bytes].map((byte, i) => {
        const reading = placed.find((r) => i >= r.from && i < r.to);
        const at = `byte ${i}${reading ? `: ${reading.name}` : ''}`;
        const hex = byte.toString(16).padStart(2, '0');
        return (
          <span
            key={i}
            id={`${id}-${i}`}
            role="option"
            aria-selected={all.some((p) => covers(p, i))}
            data-byte={i}
            data-lit={now - (changedAt[i] ?? 0) < LIT}
            data-heard={heard.has(i)}
            data-first={reading?.from === i || fields.some((f) => f.from === i)}
            data-named={reading !== undefined}
            className={css['byte']}
            title={at}
            onMouseDown={(event) => {
              if (event.button !== 0) return;
              setFrom(i);
              to(i, i, event.ctrlKey || event.metaKey);
            }}
            onMouseEnter={(event) => from !== null && to(i, from, event.ctrlKey || event.metaKey)}
          >
            <i>{i}</i>
            <b>{charOf(byte)}</b>
            <small>{hex}</small>
          </span>
        );
      })}
    </div>
  );
}
