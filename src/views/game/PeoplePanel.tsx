import type { Game } from '../../core/show/game.ts';
import { Button } from '../../ui/Button.tsx';
import shell from '../shared/View.module.css';
import css from './GameView.module.css';

interface Person {
  name: string;
  [second: string]: string;
}

/** Staff of both sides, officials, commentators. */
export function PeoplePanel({ game, onChange }: { game: Game; onChange: (part: Partial<Game>) => void }) {
  const lists = [
    [
      'Home staff',
      'role',
      game.home.staff,
      (staff: Person[]) => onChange({ home: { ...game.home, staff: staff as never } }),
    ],
    [
      'Away staff',
      'role',
      game.away.staff,
      (staff: Person[]) => onChange({ away: { ...game.away, staff: staff as never } }),
    ],
    [
      'Officials',
      'role',
      game.officials,
      (officials: Person[]) => onChange({ officials: officials as never }),
    ],
    [
      'Commentators',
      'handle',
      game.commentators,
      (list: Person[]) => onChange({ commentators: list as never }),
    ],
  ] as const;
  return (
    <div className={css['teams']}>
      {lists.map(([title, second, people, change]) => (
        <People
          key={title}
          title={title}
          second={second}
          people={people.map((p) => ({ ...p }))}
          onChange={change}
        />
      ))}
    </div>
  );
}

function People({
  title,
  second,
  people,
  onChange,
}: {
  title: string;
  second: string;
  people: readonly Person[];
  onChange: (people: Person[]) => void;
}) {
  return (
    <section className={`${shell['panel']} ${css['team']}`} aria-label={title}>
      <div className={shell['fields']}>
        <h3>{title}</h3>
        <Button onClick={() => onChange([...people, { name: 'New person', [second]: '' }])}>Add</Button>
      </div>
      {people.map((p, i) => (
        <div key={i} className={shell['fields']}>
          {['name', second].map((part) => (
            <input
              key={part}
              value={p[part] ?? ''}
              placeholder={part}
              maxLength={80}
              aria-label={`${part} of ${title.toLowerCase()} ${i + 1}`}
              onChange={(e) =>
                onChange(people.map((q, j) => (j === i ? { ...q, [part]: e.target.value } : q)))
              }
            />
          ))}
          <button
            type="button"
            className={shell['out']}
            aria-label={`Remove ${p.name}`}
            onClick={() => onChange(people.filter((_, j) => j !== i))}
          >
            ×
          </button>
        </div>
      ))}
    </section>
  );
}
