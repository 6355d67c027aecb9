import { later } from '../../ui/Later.tsx';
import { useMemo, useRef, useState } from 'react';
import type { MediaIndex } from '../../core/media/media.ts';
import type { Player, Side, Team } from '../../core/show/game.ts';
import { matchColumns, planRoster, ROSTER_PARTS, type RosterPart } from '../../core/show/roster.ts';
import { Button } from '../../ui/Button.tsx';
import { PicturePicker } from '../shared/PicturePicker.tsx';
import { download } from '../../ui/download.ts';
import { HEADINGS, readSheet, rosterCsv, rosterWorkbook } from './sheets.ts';
import { useFieldError, FieldError } from '../shared/ValidatedForm.tsx';
import { tip } from '../../ui/tip.ts';
import { Switch } from '../../ui/Switch.tsx';
import shell from '../shared/View.module.css';
import css from './GameView.module.css';

// What can be done without it at first comes after the first view.
const Suggest = later(() => import('../../ui/ComboBox.tsx').then((m) => m.Suggest));

interface Props {
  side: Side;
  team: Team;
  library: MediaIndex;
  onChange: (team: Team) => void;
}

const TEXTS = [
  ['name', 'Name', 22],
  ['short', 'Short', 12],
  ['abbr', 'Abbr.', 5],
  ['nickname', 'Nickname', 16],
] as const;

/** One team: what it is called, its colours and kits, its players. */
export function TeamPanel({ side, team, library, onChange }: Props) {
  const set = (part: Partial<Team>) => onChange({ ...team, ...part });
  const { alternate } = team;
  const colour = (label: string, value: string, change: (value: string) => void) => (
    <label>
      {label} <input type="color" value={value} onChange={(e) => change(e.target.value)} />
    </label>
  );
  return (
    <section
      className={`${shell['panel']} ${css['team']}`}
      aria-label={side === 'home' ? 'Home team' : 'Away team'}
    >
      <h2 style={{ borderColor: team.colour }}>{side === 'home' ? 'Home' : 'Away'}</h2>
      <div className={shell['fields']}>
        {TEXTS.map(([part, label, size]) => (
          <label key={part}>
            {label}{' '}
            <input
              value={team[part]}
              size={size}
              maxLength={part === 'abbr' ? 5 : 80}
              onChange={(e) => set({ [part]: e.target.value })}
            />
            <FieldError at={`${side}.${part}`} />
          </label>
        ))}
        <PicturePicker label="Mark" path={team.mark} library={library} onChange={(mark) => set({ mark })} />
        <FieldError at={`${side}.mark`} />
        {colour('Colour', team.colour, (value) => set({ colour: value }))}
        {colour('Second', team.second, (second) => set({ second }))}
        {alternate ? (
          <>
            {colour('Alternate kit', alternate.colour, (value) =>
              set({ alternate: { ...alternate, colour: value } }),
            )}
            {colour('Second colour', alternate.second ?? team.second, (second) =>
              set({ alternate: { ...alternate, second } }),
            )}
            <Switch on={team.wearsAlternate} onChange={(wearsAlternate) => set({ wearsAlternate })}>
              worn
            </Switch>
            <Button onClick={() => set({ alternate: null, wearsAlternate: false })}>No alternate</Button>
          </>
        ) : (
          <Button
            onClick={() =>
              set({ alternate: { name: 'Alternate', colour: team.second, second: team.colour } })
            }
          >
            Alternate kit
          </Button>
        )}
      </div>
      <FieldError at={`${side}.players`} />
      <Players
        side={side}
        library={library}
        players={team.players}
        name={team.short}
        onChange={(players) => set({ players })}
      />
    </section>
  );
}

function Players({
  side,
  players,
  name,
  library,
  onChange,
}: {
  side: Side;
  players: Player[];
  library: MediaIndex;
  name: string;
  onChange: (players: Player[]) => void;
}) {
  const [sheet, setSheet] = useState<{ headings: string[]; rows: string[][] } | null>(null);
  const [problem, setProblem] = useState('');
  const file = useRef<HTMLInputElement>(null);
  const paths = useMemo(() => library.list().map((m) => ({ value: m.path })), [library]);
  const change = (at: number, part: Partial<Player>) =>
    onChange(players.map((p, i) => (i === at ? { ...p, ...part } : p)));
  const numbers = players.map((p) => p.number);
  const wrong = useFieldError();
  const numberWrong = (i: number) => {
    const { number } = players[i]!;
    const twice = number !== '' && numbers.indexOf(number) !== i;
    return twice ? `The number ${number} is there twice.` : wrong(`${side}.players.${i}.number`);
  };
  return (
    <>
      <div className={shell['fields']}>
        <h3>{players.length} players</h3>
        <Button
          onClick={() =>
            onChange([...players, { number: '', first: '', last: '', position: '', class: '', headshot: '' }])
          }
        >
          Add a player
        </Button>
        <Button onClick={() => file.current?.click()}>Import…</Button>
        <Button
          disabled={players.length === 0}
          onClick={() => download(new Blob([rosterCsv(players)], { type: 'text/csv' }), `${name}.csv`)}
        >
          CSV
        </Button>
        <Button
          disabled={players.length === 0}
          onClick={() => void rosterWorkbook(players).then((b) => download(b, `${name}.xlsx`))}
        >
          XLSX
        </Button>
        <input
          ref={file}
          type="file"
          accept=".csv,.tsv,.xlsx,text/csv"
          hidden
          aria-label={`Roster of ${name}`}
          onChange={(e) => {
            const [chosen] = e.target.files ?? [];
            e.target.value = '';
            setProblem('');
            if (chosen) readSheet(chosen).then(setSheet, (error: Error) => setProblem(error.message));
          }}
        />
      </div>
      {problem && <p className={shell['refused']}>{problem}</p>}
      {sheet && (
        <Import
          players={players}
          sheet={sheet}
          onDone={(next) => {
            if (next) onChange(next);
            setSheet(null);
          }}
        />
      )}
      {players.length > 0 && (
        <table className={css['players']}>
          <thead>
            <tr>
              {ROSTER_PARTS.map((part) => (
                <th key={part} data-part={part}>
                  {HEADINGS[part].replace(' name', '')}
                </th>
              ))}
              <th />
            </tr>
          </thead>
          <tbody>
            {players.map((p, i) => (
              <tr key={i}>
                {ROSTER_PARTS.map((part) => (
                  <td key={part}>
                    {part === 'headshot' ? (
                      <Suggest
                        label={labelOf(part, p, i)}
                        value={p.headshot}
                        suggestions={paths}
                        maxLength={300}
                        onChange={(headshot) => change(i, { headshot })}
                      />
                    ) : (
                      <input
                        value={p[part]}
                        data-part={part}
                        aria-label={labelOf(part, p, i)}
                        aria-invalid={part === 'number' && numberWrong(i) !== null}
                        {...tip(part === 'number' ? numberWrong(i) : null)}
                        maxLength={part === 'number' ? 3 : 80}
                        onChange={(e) => change(i, { [part]: e.target.value })}
                      />
                    )}
                  </td>
                ))}
                <td>
                  <button
                    type="button"
                    className={shell['out']}
                    aria-label={`Remove ${p.first} ${p.last}`}
                    onClick={() => onChange(players.filter((_, j) => j !== i))}
                  >
                    ×
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  );
}

const labelOf = (part: RosterPart, { last }: Player, i: number) =>
  `${HEADINGS[part]} of ${last || `player ${i + 1}`}`;

/** A sheet on its way in: which column says what, and what would change. */
function Import({
  players,
  sheet,
  onDone,
}: {
  players: Player[];
  sheet: { headings: string[]; rows: string[][] };
  onDone: (players: Player[] | null) => void;
}) {
  const [match, setMatch] = useState(() => matchColumns(sheet.headings));
  const [replace, setReplace] = useState(false);
  const plan = planRoster(players, sheet.rows, match, replace);
  const set = (part: RosterPart, at: number) => setMatch({ ...match, [part]: at });
  const named = (p: Player) => [p.number, p.first, p.last].filter(Boolean).join(' ');
  return (
    <div className={css['import']} role="group" aria-label="Import">
      <div className={shell['fields']}>
        {ROSTER_PARTS.map((part) => (
          <label key={part}>
            {HEADINGS[part]}{' '}
            <select value={match[part]} onChange={(e) => set(part, Number(e.target.value))}>
              <option value={-1}>stays</option>
              {sheet.headings.map((h, i) => (
                <option key={i} value={i}>
                  {h || `column ${i + 1}`}
                </option>
              ))}
            </select>
          </label>
        ))}
        <label>
          <input type="checkbox" checked={replace} onChange={(e) => setReplace(e.target.checked)} /> Remove
          players not in the file
        </label>
      </div>
      <ul className={css['changes']}>
        {plan.changes.length === 0 && <li>Nothing would change.</li>}
        {plan.changes.map((c, i) => (
          <li key={i} data-kind={c.kind}>
            <b>{c.kind}</b> {named(c.player)} {c.says && <span>{c.says}</span>}
          </li>
        ))}
      </ul>
      <div className={shell['fields']}>
        <Button
          main
          disabled={plan.changes.every((c) => c.kind === 'refused')}
          onClick={() => onDone(plan.players)}
        >
          Take {plan.changes.filter((c) => c.kind !== 'refused').length} changes
        </Button>
        <Button onClick={() => onDone(null)}>Cancel</Button>
      </div>
    </div>
  );
}
