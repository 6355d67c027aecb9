import { memo, useEffect, useRef, useState } from 'react';
import type { FieldDef } from '../../core/sport/profile.ts';
import type { BoardField, SourceState } from '../../core/wire/wire.ts';
import { KeyCap } from '../../ui/Button.tsx';
import { useKeys } from '../../ui/keys.ts';
import { Digits, valueText } from '../shared/Digits.tsx';
import { ageText, useSeconds } from '../shared/time.ts';
import css from './BoardPanel.module.css';

interface Props {
  defs: FieldDef[];
  fields: ReadonlyMap<string, BoardField>;
  sources: SourceState[];
  now: () => number;
  /** The address of a picture by its path; null where the library has none. */
  picture: (path: string) => string | null;
  selected: string | null;
  onSelect: (key: string) => void;
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
export function BoardPanel({ defs, fields, sources, now, picture, selected, onSelect }: Props) {
  const [search, setSearch] = useState('');
  const time = useSeconds(now);
  const box = useRef<HTMLInputElement>(null);
  useKeys({ '/': () => box.current?.focus() });
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const matches = (d: FieldDef) => words.every((w) => `${d.label} ${d.key}`.toLowerCase().includes(w));
  const shown = defs.filter(matches);

  return (
    <section className={css['board']} aria-label="Board">
      <header className={css['head']}>
        <h2>Board</h2>
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
          <KeyCap>/</KeyCap>
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
                {members.map((def) => {
                  const field = fields.get(def.key);
                  if (!field) return null;
                  const source = sources.find((s) => s.key === field.origin);
                  return (
                    <Row
                      key={def.key}
                      def={def}
                      field={field}
                      origin={source?.name ?? field.origin}
                      age={field.at ? ageText(time - field.at) : ''}
                      now={now}
                      picture={def.kind === 'picture' ? picture(String(field.value ?? '')) : null}
                      selected={selected === def.key}
                      onSelect={onSelect}
                    />
                  );
                })}
              </ul>
            </div>
          );
        })}
      </div>
    </section>
  );
}

interface RowProps {
  def: FieldDef;
  field: BoardField;
  origin: string;
  age: string;
  now: () => number;
  /** The address of the picture that it says. */
  picture: string | null;
  selected: boolean;
  onSelect: (key: string) => void;
}

/** The label without the group's own name: under Home, "Home score" is "Score". */
function shortLabel(def: FieldDef): string {
  const bare = def.label.replace(/^(Home|Away) /, '');
  return bare.charAt(0).toUpperCase() + bare.slice(1);
}

const Row = memo(function Row({ def, field, origin, age, now, picture, selected, onSelect }: RowProps) {
  const ref = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (selected) ref.current?.scrollIntoView({ block: 'nearest' });
  }, [selected]);
  const { pin, quality } = field;
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
        title={`${def.label} (${def.key})`}
      >
        <span className={css['label']}>{shortLabel(def)}</span>
        <span className={css['value']} data-value>
          {def.kind === 'colour' && <i style={{ background: String(field.value ?? 'none') }} />}
          {picture && <img src={picture} alt="" />}
          <Digits def={def} value={pin ? pin.value : field.value} now={now} />
        </span>
        <span className={css['about']}>
          {pin ? (
            <b className={css['pinned']}>pinned · says {valueText(def, field.value, now())}</b>
          ) : silent ? (
            <b className={css['silent']}>
              {origin} {quality}
            </b>
          ) : (
            field.origin && (age ? `${origin} · ${age}` : origin)
          )}
        </span>
      </button>
    </li>
  );
});
