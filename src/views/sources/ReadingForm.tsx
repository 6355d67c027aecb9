import { useEffect, useRef, useState } from 'react';
import { kindFor } from '../../core/decode/discover.ts';
import type { ReadingDef } from '../../core/decode/frame-map.ts';
import type { Parts } from '../../core/decode/parts.ts';
import { asciiText } from '../../core/decode/reading.ts';
import { Button } from '../../ui/Button.tsx';
import { isNameless, readPlaces, readingOfKind, writePlaces } from './draft.ts';
import { KINDS, valueOf } from './ReadingTable.tsx';
import type { Selection } from './ruler-units.ts';
import { tip } from '../../ui/tip.ts';
import { Switch } from '../../ui/Switch.tsx';
import css from './SourcesView.module.css';

interface Props {
  frame: Parts;
  selection: Selection;
  /** The reading that is changed; none: a new one is made. */
  known: ReadingDef | null;
  /** The names that other readings have. */
  taken: readonly string[];
  /** Each time that this counts up, the name is to be typed next. */
  asked: number;
  /** Whether a byte belongs to another reading. */
  isTaken: (byte: number) => boolean;
  /** Takes what is selected as what tells messages apart; null where it cannot. */
  onAddress: ((selection: Selection) => void) | null;
  onSelect: (selection: Selection) => void;
  onDone: (reading: ReadingDef) => void;
  onCancel: () => void;
}

/** One reading: its name, its kind and what belongs to that, with what it says at once. */
export function ReadingForm({
  frame,
  selection,
  known,
  taken,
  asked,
  isTaken,
  onAddress,
  onSelect,
  onDone,
  onCancel,
}: Props) {
  const box = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (asked) box.current?.select();
  }, [asked]);
  const { bytes } = frame;
  const raw = [selection, ...(selection.more ?? [])]
    .map((p) => asciiText(bytes, p.offset, Math.min(bytes.length, p.offset + p.length)))
    .join('');
  // What stood there when it was selected is guessed by: a guess must not turn with the bytes while one types.
  const where = JSON.stringify(selection);
  const [first, setFirst] = useState({ where, raw });
  if (first.where !== where) setFirst({ where, raw });
  const place = placeOf(selection, known ? known.address : (frame.address ?? undefined));
  const [name, setName] = useState(known?.name ?? '');
  // Until a kind is chosen by hand, the bytes and the name say which it is likely to be.
  const [chosen, setChosen] = useState<ReadingDef | null>(known && !isNameless(known.name) ? known : null);
  const base = chosen ?? readingOfKind(kindFor(name, first.raw), { name, ...place }, first.raw);
  const reading = { ...base, ...place, name: name.trim() } as ReadingDef;
  const width = [selection, ...(selection.more ?? [])].reduce((sum, p) => sum + p.length, 0);
  const isField = selection.field !== undefined;
  const set = (part: object) => setChosen({ ...reading, ...part } as ReadingDef);
  // A score of two digits has a blank before it until it has three.
  const before = selection.offset - 1;
  const mayBeWider =
    !isField &&
    !selection.more &&
    /^[ \d]*\d$/.test(raw) &&
    before >= 0 &&
    [0x20, 0x30].includes(bytes[before]!) &&
    !isTaken(before);
  const problem = !reading.name
    ? 'Give it a name.'
    : taken.includes(reading.name)
      ? 'That name is taken.'
      : reading.kind === 'flag' && !reading.on
        ? 'Say which character means yes.'
        : reading.kind === 'bit' && !isField && width !== 1
          ? 'One bit is in one byte.'
          : reading.kind === 'binary' && !isField && width > 4
            ? 'A binary number has four bytes at most.'
            : null;
  return (
    <form
      className={css['new']}
      aria-label={known ? `Reading ${known.name}` : 'New reading'}
      onSubmit={(event) => {
        event.preventDefault();
        if (!problem) onDone(reading);
      }}
      onKeyDown={(event) => event.key === 'Escape' && onCancel()}
    >
      {isField ? (
        <span>
          Field {selection.field} “{raw}”
        </span>
      ) : (
        <>
          <PlacesInput selection={selection} longest={bytes.length} onSelect={onSelect} />
          <span>“{raw}”</span>
        </>
      )}
      <label>
        Name <input ref={box} value={name} onChange={(e) => setName(e.target.value)} maxLength={80} />
      </label>
      <label>
        Kind{' '}
        <select
          value={reading.kind}
          onChange={(e) =>
            setChosen(readingOfKind(e.target.value as ReadingDef['kind'], { name, ...place }, raw))
          }
        >
          {Object.entries(KINDS)
            .filter(
              ([k]) =>
                k === reading.kind ||
                isField ||
                ((k !== 'bit' || width === 1) && (k !== 'binary' || width <= 4)),
            )
            .map(([k, label]) => (
              <option key={k} value={k}>
                {label}
              </option>
            ))}
        </select>
      </label>
      <Extras reading={reading} onSet={set} />
      <span className={css['now']}>→ {valueOf(frame, reading)}</span>
      {mayBeWider && (
        <Button
          {...tip('It may be the place of a further digit, which is blank now.')}
          onClick={() => onSelect({ offset: before, length: selection.length + 1 })}
        >
          Byte {before} too?
        </Button>
      )}
      <span className={css['actions']}>
        <Button type="submit" main disabled={problem !== null} {...tip(problem)}>
          {known ? 'Change reading' : 'Add reading'}
        </Button>
        {onAddress && !known && (
          <Button
            {...tip('For devices whose messages carry one item each: what stands here says which')}
            onClick={() => onAddress(selection)}
          >
            It tells messages apart
          </Button>
        )}
        <Button onClick={onCancel} shortcut="Esc">
          Cancel
        </Button>
        {name && problem && <small className={css['counts']}>{problem}</small>}
      </span>
    </form>
  );
}

/** Where a reading stands that is made of what is selected. */
function placeOf(
  { offset, length, more, field }: Selection,
  address: string | undefined,
): Pick<ReadingDef, 'offset' | 'length' | 'more' | 'field' | 'address'> {
  const by = { address };
  return field === undefined
    ? { offset, length, more: more?.length ? more : undefined, field: undefined, ...by }
    : { offset: 0, length: 0, more: undefined, field, ...by };
}

/** The bytes that are selected, as text that can be changed: `13–14, 17`. */
function PlacesInput({
  selection,
  longest,
  onSelect,
}: {
  selection: Selection;
  longest: number;
  onSelect: (selection: Selection) => void;
}) {
  const written = writePlaces([selection, ...(selection.more ?? [])]);
  const [typed, setTyped] = useState<string | null>(null);
  const read = typed === null ? null : readPlaces(typed);
  const bad = typed !== null && (!read || read.some((p) => p.offset + p.length > longest));
  return (
    <label>
      Bytes{' '}
      <input
        {...tip('Several places with commas; dragging with Ctrl adds one')}
        value={typed ?? written}
        size={Math.max(5, (typed ?? written).length)}
        aria-invalid={bad}
        onChange={(e) => {
          const { value } = e.target;
          setTyped(value);
          const [first, ...more] = readPlaces(value) ?? [];
          if (first && [first, ...more].every((p) => p.offset + p.length <= longest))
            onSelect({ ...first, ...(more.length ? { more } : {}) });
        }}
        onBlur={() => setTyped(null)}
      />
    </label>
  );
}

const WRITTEN = {
  '': '12:34',
  digits: '1234',
  'digits tenths': '12345, last is tenths',
  bcd: 'BCD 12 34',
  'bcd tenths': 'BCD, last is tenths',
  bytes: 'a byte each: minutes, seconds',
  'bytes tenths': 'a byte each: minutes, seconds, tenths',
};
const PAGES = {
  '': 'ASCII',
  'utf-8': 'UTF-8',
  'windows-1252': 'Windows 1252',
  'iso-8859-2': 'ISO 8859-2',
  'windows-1251': 'Windows 1251',
  ibm866: 'IBM 866',
};
const BLANKS = { blank: 'nothing', zero: 'zero', keep: 'what it said before' };
const BITS = Object.fromEntries(
  Array.from({ length: 8 }, (_, n) => [n, n === 0 ? '0, lowest' : n === 7 ? '7, highest' : String(n)]),
);

/** What its kind asks besides. */
function Extras({ reading, onSet }: { reading: ReadingDef; onSet: (part: object) => void }) {
  const choose = (label: string, value: string | number, options: object, set: (v: string) => void) => (
    <label>
      {label}{' '}
      <select value={value} aria-label={label} onChange={(e) => set(e.target.value)}>
        {Object.entries(options).map(([v, text]) => (
          <option key={v} value={v}>
            {text}
          </option>
        ))}
      </select>
    </label>
  );
  const tick = (label: string, part: 'signed' | 'littleEnd' | 'reversed' | 'unpacked', on: boolean) => (
    <Switch
      on={on}
      onChange={(to) =>
        onSet({ [part]: to || (part === 'reversed' || part === 'unpacked' ? undefined : false) })
      }
    >
      {label}
    </Switch>
  );
  const reversed = (
    <>
      {(reading.kind === 'bcd' || (reading.kind === 'clock' && reading.written === 'bcd')) &&
        tick('one digit a byte', 'unpacked', reading.unpacked === true)}
      {tick('last digit first', 'reversed', reading.reversed === true)}
    </>
  );
  const blank = choose('Blank is', reading.blank, BLANKS, (to) => onSet({ blank: to }));
  switch (reading.kind) {
    case 'flag':
      return (
        <label>
          Yes is{' '}
          <input value={reading.on} onChange={(e) => onSet({ on: e.target.value })} size={2} maxLength={8} />
        </label>
      );
    case 'text':
      return choose('Code page', reading.page ?? '', PAGES, (page) => onSet({ page: page || undefined }));
    case 'clock': {
      const how = [reading.written, reading.written && reading.tenths && 'tenths'].filter(Boolean).join(' ');
      return (
        <>
          {choose('Written', how, WRITTEN, (to) => {
            const [written, tenths] = to.split(' ');
            onSet({ written: written || undefined, tenths: tenths ? true : undefined });
          })}
          {reversed}
          {blank}
        </>
      );
    }
    case 'bit':
      return choose('Bit', reading.bit, BITS, (bit) => onSet({ bit: Number(bit) }));
    case 'binary':
      return (
        <>
          {tick('signed', 'signed', reading.signed)}
          {tick('little end first', 'littleEnd', reading.littleEnd)}
        </>
      );
    default:
      return (
        <>
          {reversed}
          {blank}
        </>
      );
  }
}
