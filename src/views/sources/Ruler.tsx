import { createContext, memo, use, useMemo, useRef } from 'react';
import { ListBox, ListBoxItem, type Selection as Chosen } from 'react-aria-components';
import type { ReadingDef } from '../../core/decode/frame-map.ts';
import type { Parts, Stretch } from '../../core/decode/parts.ts';
import { useSame, useStable } from '../../ui/stable.ts';
import { chosenOf, selectionOf, unitsOf, unitsWithin, type Selection, type Unit } from './ruler-units.ts';
import css from './Ruler.module.css';

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

/** What the bytes say at this moment: it changes ten times a second, the list that they stand in does not. */
const Now = createContext<Pick<Props, 'changedAt' | 'heard'> & { bytes: Uint8Array }>(null!);

function Byte({ at, named, first }: { at: number; named: boolean; first: boolean }) {
  const { bytes, changedAt, heard } = use(Now);
  const byte = bytes[at] ?? 0;
  return (
    <span
      data-byte={at}
      data-lit={performance.now() - (changedAt[at] ?? 0) < LIT}
      data-heard={heard.has(at)}
      data-first={first}
      data-named={named}
      className={css['byte']}
    >
      <i>{at}</i>
      <b>{charOf(byte)}</b>
      <small>{byte.toString(16).padStart(2, '0')}</small>
    </span>
  );
}

interface RowProps {
  label: string;
  units: readonly Unit[];
  chosen: ReadonlySet<number>;
  onChoose: (units: readonly number[]) => void;
  onSelected: () => void;
}

/** The list itself, made anew only when its places or what is chosen of them change. */
const Units = memo(function Units({ label, units, chosen, onChoose, onSelected }: RowProps) {
  /** The byte that a stretch is being drawn from, and what was chosen beside it. */
  const drawn = useRef<{ from: number; kept: readonly number[] } | null>(null);
  // To come to the ruler by Tab selects nothing yet.
  const byPointer = useRef(false);
  const entering = useRef(false);
  const unitAt = (target: EventTarget) => {
    const of = (target as Element).closest<HTMLElement>('[data-unit]')?.dataset['unit'];
    return of === undefined || units[Number(of)]?.off ? null : Number(of);
  };
  return (
    <div
      // Caught on their way down: what is pressed keeps presses to itself.
      onPointerDownCapture={(event) => {
        byPointer.current = true;
        const from = unitAt(event.target);
        if (from === null || event.button !== 0 || event.shiftKey) return;
        const add = event.ctrlKey || event.metaKey;
        drawn.current = { from, kept: add ? [...chosen].filter((n) => n !== from) : [] };
      }}
      onPointerOverCapture={(event) => {
        const to = unitAt(event.target);
        if (!drawn.current || to === null || to === drawn.current.from) return;
        const { from, kept } = drawn.current;
        const stretch = unitsWithin(from, to);
        onChoose([...kept.filter((n) => !stretch.includes(n)), ...stretch]);
      }}
      onPointerUpCapture={() => {
        byPointer.current = false;
        if (drawn.current) onSelected();
        drawn.current = null;
      }}
      onPointerLeave={() => {
        byPointer.current = false;
        drawn.current = null;
      }}
      onFocusCapture={({ currentTarget, relatedTarget }) => {
        entering.current = !byPointer.current && !currentTarget.contains(relatedTarget);
        queueMicrotask(() => (entering.current = false));
      }}
    >
      <ListBox
        aria-label={label}
        layout="grid"
        className={css['ruler']!}
        selectionMode="multiple"
        selectionBehavior="replace"
        selectedKeys={chosen}
        onSelectionChange={(keys: Chosen) => {
          if (entering.current) return;
          onChoose(keys === 'all' ? units.flatMap((u, n) => (u.off ? [] : [n])) : ([...keys] as number[]));
        }}
        onAction={onSelected}
      >
        {units.map((unit, n) => (
          <ListBoxItem
            key={n}
            id={n}
            textValue={unit.name}
            isDisabled={unit.off}
            className={css['unit']!}
            data-unit={n}
            data-tip={unit.name}
          >
            <span className={css['name']}>{unit.name}</span>
            {unit.bytes.map((b) => (
              <Byte key={b.at} {...b} />
            ))}
          </ListBoxItem>
        ))}
      </ListBox>
    </div>
  );
});

/**
 * A frame as a ruler of bytes: what changes lights up, what has a name carries it, and bytes can be selected, by dragging or
 * by the keys; in frames that are cut into fields, whole fields.
 */
export function Ruler({ frame, changedAt, readings, selection, onSelect, onSelected, heard }: Props) {
  const { bytes, fields } = frame;
  const placed = readings.flatMap((r) => {
    const places = frame.placesOf(r);
    return Array.isArray(places) ? places.map((p: Stretch) => ({ ...p, name: r.name })) : [];
  });
  const units = useSame(unitsOf(bytes.length, fields, placed));
  const covered = useSame(chosenOf(selection, units));
  const chosen = useMemo(() => new Set(covered), [covered]);
  return (
    <Now value={{ bytes, changedAt, heard }}>
      <Units
        label={fields.length ? 'Fields of the frame' : 'Bytes of the frame'}
        units={units}
        chosen={chosen}
        onChoose={useStable((of: readonly number[]) => onSelect(selectionOf(of, units)))}
        onSelected={useStable(onSelected)}
      />
    </Now>
  );
}
