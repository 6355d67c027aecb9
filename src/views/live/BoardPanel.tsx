import { memo, useEffect, useRef, useState } from 'react';
import type { FieldDef } from '../../core/sport/profile.ts';
import { KeyCap } from '../../ui/Button.tsx';
import { Digits, valueText } from '../shared/Digits.tsx';
import type { Desk } from '../shared/desk.ts';
import { useHeld } from './held.ts';
import { useCommands, useKeyOf } from '../shared/keymap.ts';
import { useAge } from '../shared/time.ts';
import { useDesk, useField } from '../shared/use-desk.ts';
import { tip } from '../../ui/tip.ts';
import css from './BoardPanel.module.css';

interface Props {
  desk: Desk;
  defs: FieldDef[];
  selected: string | null;
  onSelect: (key: string) => void;
  /** What stands at its head beside the search. */
  children?: React.ReactNode;
}

const GROUPS = [
  { key: 'clocks', name: 'Clocks' },
  { key: 'situation', name: 'Situation' },
  { key: 'home', name: 'Home' },
  { key: 'away', name: 'Away' },
  { key: 'derived', name: 'Calculated' },
  { key: 'game', name: 'Game' },
] as const;

/** The board in groups: each value with where it comes from and how long it has stood, in a quiet way. */
export function BoardPanel({ desk, defs, selected, onSelect, children }: Props) {
  const [search, setSearch] = useState('');
  const box = useRef<HTMLInputElement>(null);
  const keyOf = useKeyOf();
  useCommands({ find: () => box.current?.focus() });
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const matches = (d: FieldDef) => words.every((w) => `${d.label} ${d.key}`.toLowerCase().includes(w));
  const shown = defs.filter(matches);

  return (
    <section className={css['board']} aria-label="Board">
      <header className={css['head']}>
        <h2>Board</h2>
        {children}
        <label className={css['search']}>
          <input
            ref={box}
            type="search"
            placeholder="Find a field"
            value={search}
            onChange={(e) => setSearch(e.target.value)}
            onKeyDown={(e) => {
              if (e.key === 'Escape') {
                setSearch('');
                e.currentTarget.blur();
              }
              if (e.key === 'Enter' && shown[0]) onSelect(shown[0].key);
            }}
            aria-label="Find a field"
          />
          <KeyCap>{keyOf('find')}</KeyCap>
        </label>
      </header>
      {shown.length === 0 && (
        <p className={css['none']}>No field is named “{search}”. Escape shows them all.</p>
      )}
      <div className={css['groups']}>
        {GROUPS.map((group) => {
          const members = shown.filter((d) => d.group === group.key);
          if (members.length === 0) return null;
          return (
            <div key={group.key} className={css['group']}>
              <h3>{group.name}</h3>
              <ul>
                {members.map((def) => (
                  <Row
                    key={def.key}
                    desk={desk}
                    def={def}
                    selected={selected === def.key}
                    onSelect={onSelect}
                  />
                ))}
              </ul>
            </div>
          );
        })}
      </div>
    </section>
  );
}

interface RowProps {
  desk: Desk;
  def: FieldDef;
  selected: boolean;
  onSelect: (key: string) => void;
}

/** The label without the group's own name: under Home, "Home score" is "Score". */
function shortLabel(def: FieldDef): string {
  const bare = def.label.replace(/^(Home|Away) /, '');
  return bare.charAt(0).toUpperCase() + bare.slice(1);
}

/** How long ago a field was said last. Each second it alone is drawn again, not the row around it. */
function Age({ now, at }: { now: () => number; at: number }) {
  const age = useAge(now, at);
  return age && ` · ${age}`;
}

/** One field: it is drawn again when that field is another. */
const Row = memo(function Row({ desk, def, selected, onSelect }: RowProps) {
  const now = desk.link.serverNow;
  const field = useField(desk, def.key);
  const origin = useDesk(
    desk,
    (s) => s.desk!.sources.find((x) => x.key === field?.origin)?.name ?? field?.origin ?? '',
  );
  const held = useHeld(desk, def.key);
  const ref = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (selected) ref.current?.scrollIntoView({ block: 'nearest' });
  }, [selected]);
  if (!field) return null;
  const { pin, quality } = field;
  const picture = def.kind === 'picture' ? desk.picture(String(field.value ?? '')) : null;
  const silent = quality === 'late' || quality === 'lost';
  return (
    <li>
      <button
        ref={ref}
        type="button"
        className={css['row']}
        aria-pressed={selected}
        data-field={def.key}
        data-quality={quality}
        data-kind={def.kind}
        onClick={() => onSelect(def.key)}
        {...tip(`${def.label} (${def.key})`)}
      >
        <span className={css['label']}>{shortLabel(def)}</span>
        <span className={css['value']} data-value>
          {def.kind === 'colour' && <i style={{ background: String(field.value ?? 'none') }} />}
          {picture && <img src={picture} alt="" />}
          <Digits def={def} value={pin ? pin.value : field.value} now={now} />
        </span>
        <span className={css['about']}>
          {held !== undefined ? (
            <b className={css['held']}>held at {held || 'blank'}, not sent</b>
          ) : pin ? (
            <b className={css['pinned']}>pinned · says {valueText(def, field.value, now())}</b>
          ) : silent ? (
            <b className={css['silent']}>
              {origin} {quality}
            </b>
          ) : (
            field.origin && (
              <>
                {origin}
                <Age now={now} at={field.at} />
              </>
            )
          )}
        </span>
      </button>
    </li>
  );
});
