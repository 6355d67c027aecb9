import { useState } from 'react';
import type { Game, Side } from '../../core/show/game.ts';
import { swapSides } from '../../core/show/game.ts';
import type { SportProfile } from '../../core/sport/profile.ts';
import { Button } from '../../ui/Button.tsx';
import { later, laterDialog } from '../../ui/Later.tsx';
import { ConfirmButton } from '../../ui/ConfirmButton.tsx';
import { useSearch } from '../../ui/search.tsx';
import type { Desk, Prepared } from '../shared/desk.ts';
import { LastAction } from '../shared/Said.tsx';
import { View, type Seen } from '../shared/View.tsx';
import { freshKey } from '../../core/text/keys.ts';
import { PeoplePanel } from './PeoplePanel.tsx';
import { TeamPanel } from './TeamPanel.tsx';
import { UndoRedo } from '../shared/UndoRedo.tsx';
import { FormErrors, ValidatedForm, FieldError } from '../shared/ValidatedForm.tsx';
import { useEditing } from '../shared/editing.ts';
import { SavedElsewhere } from '../shared/SavedElsewhere.tsx';
import { VersionsButton } from '../shared/Versions.tsx';
import shell from '../shared/View.module.css';
import { useKnown } from '../shared/use-desk.ts';
import css from './GameView.module.css';

const SwapDialog = laterDialog(() => import('./GameDialogs.tsx').then((m) => m.SwapDialog));
const PlayDialog = laterDialog(() => import('./GameDialogs.tsx').then((m) => m.PlayDialog));
const SportEditor = later(() => import('./SportEditor.tsx').then((m) => m.SportEditor));

function newGame(profile: string): Game {
  const team = (name: string, short: string, abbr: string, colour: string) => ({
    name,
    short,
    abbr,
    nickname: '',
    colour,
    second: '#ffffff',
    alternate: null,
    wearsAlternate: false,
    mark: '',
    players: [],
    staff: [],
  });
  return {
    schema: 1,
    key: '',
    competition: 'Competition',
    venue: 'Venue',
    date: '',
    profile,
    home: team('Home team', 'Home', 'HOM', '#27506b'),
    away: team('Away team', 'Away', 'AWY', '#7a4b2a'),
    officials: [],
    commentators: [],
  };
}

/** Choose or make a game: who plays, where, when, by which sport. What is played shows on every template. */
export default function GameView() {
  return (
    <View here="/game" columns="230px minmax(0, 1fr)">
      {(seen) => <Games {...seen} />}
    </View>
  );
}

function Games({ desk, snapshot }: Seen) {
  const [selected, setSelected] = useState<string | null>(null);
  const [fresh, setFresh] = useState<Game | null>(null);
  const search = useSearch('Find a game');
  const shown = snapshot.documents.game.filter((g) =>
    search.finds(g.home.name, g.away.name, g.competition, g.venue, g.date),
  );
  const current =
    fresh ??
    snapshot.documents.game.find((g) => g.key === (selected ?? snapshot.playing)) ??
    snapshot.documents.game.find((g) => g.key === snapshot.playing) ??
    snapshot.documents.game[0];
  const select = (key: string) => {
    setFresh(null);
    setSelected(key);
  };
  return (
    <>
      <aside className={shell['side']} aria-label="Games">
        {search.box}
        <ul>
          {shown.map((g) => (
            <li key={g.key}>
              <button
                type="button"
                aria-pressed={!fresh && g.key === current?.key}
                data-game={g.key}
                onClick={() => select(g.key)}
              >
                <b>
                  {g.home.short} v {g.away.short}
                </b>
                {g.key === snapshot.playing && <em>played now</em>}
                <span>
                  {g.competition}
                  {g.date && `, ${g.date}`}
                </span>
              </button>
            </li>
          ))}
        </ul>
        <Button
          main={snapshot.documents.game.length === 0}
          onClick={() => setFresh(newGame(snapshot.documents.profile[0]?.key ?? ''))}
        >
          New game
        </Button>
        <UndoRedo desk={desk} />
        <LastAction desk={desk} />
      </aside>
      {current ? (
        <Editor
          key={fresh ? 'new' : current.key}
          desk={desk}
          snapshot={snapshot}
          saved={current}
          isNew={fresh !== null}
          onSelect={select}
        />
      ) : (
        <p className={shell['waiting']}>
          There is no game yet. Make one: two teams and the sport are enough.
        </p>
      )}
    </>
  );
}

interface EditorProps {
  desk: Desk;
  snapshot: Prepared;
  saved: Game;
  isNew: boolean;
  onSelect: (key: string) => void;
}

const read = async (game: Game) => (await import('../../core/show/game-doc.ts')).parseGame(game);

function Editor({ desk, snapshot, saved, isNew, onSelect }: EditorProps) {
  const taken = snapshot.documents.game.map((g) => g.key);
  const key = isNew ? '' : saved.key;
  const find = (of: string) => desk.store.getState().desk?.documents.game.find((g) => g.key === of);
  const editing = useEditing({ desk, kind: 'game', key, saved, isNew, current: () => find(saved.key), read });
  const { draft, dirty, set: setDraft } = editing;
  const [sportEdited, setSportEdited] = useState<SportProfile | null>(null);
  const playing = snapshot.playing === saved.key && !isNew;
  const save = async (over = false) => {
    const named = isNew
      ? freshKey(`${draft.home.short} ${draft.away.short} ${draft.date}`, taken, 'game')
      : saved.key;
    const put = (body: Game) =>
      ({ kind: 'put-document', what: 'game', body: { ...body, key: named } }) as const;
    const { ok } = await editing.save(put, over);
    if (ok && isNew) onSelect(named);
  };
  const [asking, setAsking] = useState<'swap' | 'play' | null>(null);
  const duplicate = async () => {
    const game = { ...saved, key: freshKey(`${saved.key} copy`, taken, 'game') };
    const answer = await desk.act({ kind: 'put-document', what: 'game', body: game, revision: 0 });
    if (answer.ok) onSelect(game.key);
  };
  const set = (part: Partial<Game>) => setDraft({ ...draft, ...part });
  const sport = snapshot.documents.profile.find((p) => p.key === draft.profile);
  if (sportEdited)
    return (
      <SportEditor
        desk={desk}
        snapshot={snapshot}
        profile={sportEdited}
        onClose={() => setSportEdited(null)}
        onSaved={(profile) => {
          setSportEdited(null);
          set({ profile });
        }}
      />
    );
  return (
    <ValidatedForm editing={editing}>
      <div className={shell['editor']}>
        <header className={shell['bar']}>
          <h2>
            {draft.home.name} v {draft.away.name}
          </h2>
          <Button main={dirty && !editing.clash} disabled={!dirty} onClick={() => void save()}>
            {isNew ? 'Make this game' : 'Save'}
          </Button>
          {!isNew && (
            <>
              {!playing && (
                <Button main={!dirty} disabled={dirty} onClick={() => setAsking('play')}>
                  Play this game…
                </Button>
              )}
              <Button onClick={() => (playing ? setAsking('swap') : setDraft(swapSides(draft)))}>
                {playing ? 'Swap sides…' : 'Swap sides'}
              </Button>
              <Button disabled={!dirty} onClick={editing.discard}>
                Discard changes
              </Button>
              <Button onClick={() => void duplicate()}>Duplicate</Button>
              <VersionsButton
                {...{ desk, kind: 'game', documentKey: saved.key, now: saved }}
                name={`${saved.home.short} v ${saved.away.short}`}
              />
              {!playing && <Delete desk={desk} game={saved} />}
            </>
          )}
        </header>
        {asking === 'swap' && (
          <SwapDialog
            desk={desk}
            snapshot={snapshot}
            game={saved}
            onClose={() => setAsking(null)}
            // What is being changed moves with its side.
            onDone={() => dirty && setDraft(swapSides(draft))}
          />
        )}
        {asking === 'play' && (
          <PlayDialog desk={desk} snapshot={snapshot} game={saved} onClose={() => setAsking(null)} />
        )}
        <SavedElsewhere editing={editing} onKeep={() => void save(true)} />
        <FormErrors />
        <section className={shell['panel']} aria-label="Game">
          <div className={shell['fields']}>
            <label>
              Competition{' '}
              <input
                value={draft.competition}
                maxLength={80}
                onChange={(e) => set({ competition: e.target.value })}
              />
              <FieldError at="competition" />
            </label>
            <label>
              Venue{' '}
              <input value={draft.venue} maxLength={80} onChange={(e) => set({ venue: e.target.value })} />
              <FieldError at="venue" />
            </label>
            <label>
              Date <input type="date" value={draft.date} onChange={(e) => set({ date: e.target.value })} />
              <FieldError at="date" />
            </label>
            <label>
              Sport{' '}
              <select value={draft.profile} onChange={(e) => set({ profile: e.target.value })}>
                {snapshot.documents.profile.map((p) => (
                  <option key={p.key} value={p.key}>
                    {p.name}
                  </option>
                ))}
              </select>
            </label>
            {sport && (
              <>
                <Button onClick={() => setSportEdited(sport)}>Edit the sport…</Button>
                <Button
                  onClick={() =>
                    setSportEdited({
                      ...sport,
                      key: freshKey(
                        `${sport.name}, own rules`,
                        snapshot.documents.profile.map((p) => p.key),
                        'sport',
                      ),
                      name: `${sport.name}, own rules`,
                    })
                  }
                >
                  Copy the sport…
                </Button>
              </>
            )}
          </div>
        </section>
        {playing && <Missing desk={desk} snapshot={snapshot} />}
        <div className={css['teams']}>
          {(['home', 'away'] as const).map((side: Side) => (
            <TeamPanel
              key={side}
              side={side}
              team={draft[side]}
              library={desk.media}
              onChange={(team) => set({ [side]: team })}
            />
          ))}
        </div>
        <PeoplePanel game={draft} onChange={set} />
      </div>
    </ValidatedForm>
  );
}

/** The keyed pictures that this game wants and the library lacks: known before the day, not on air. */
function Missing({ desk, snapshot }: { desk: Desk; snapshot: Prepared }) {
  const tables = useKnown(desk, 'tables');
  const rows = snapshot.derived
    .filter(({ doc }) => doc.what === 'pictures')
    .flatMap(({ doc }) => tables.find((t) => t.key === doc.key)?.rows ?? []);
  const missing = rows.filter(([, row]) => row['found'] === false);
  if (missing.length === 0) return null;
  const names = missing.slice(0, 4).map(([, row]) => String(row['name'] ?? row['path']));
  return (
    <p className={css['missing']} role="status" aria-label="Missing pictures">
      {missing.length} of {rows.length} keyed pictures {missing.length === 1 ? 'is' : 'are'} missing:{' '}
      {names.join(', ')}
      {missing.length > names.length && '…'}. <a href="/data">See their paths</a>,{' '}
      <a href="/media">import them</a>.
    </p>
  );
}

function Delete({ desk, game }: { desk: Desk; game: Game }) {
  return (
    <ConfirmButton
      says="Its rosters go with it."
      onYes={() => void desk.act({ kind: 'remove-document', what: 'game', key: game.key })}
    />
  );
}
