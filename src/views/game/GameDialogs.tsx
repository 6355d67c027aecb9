import { useState } from 'react';
import { isClock, type FieldValue } from '../../core/board/values.ts';
import { clockText } from '../../core/clock/clock.ts';
import type { Game } from '../../core/show/game.ts';
import { feedsSides, sidesOf, swapLines } from '../../core/show/swap.ts';
import { Button } from '../../ui/Button.tsx';
import { Choice, Dialog } from '../../ui/Dialog.tsx';
import { useDesk } from '../shared/use-desk.ts';
import type { Desk, Prepared } from '../shared/desk.ts';
import css from './GameDialogs.module.css';

const words = (value: FieldValue) =>
  isClock(value)
    ? clockText(value.value)
    : value === null || value === ''
      ? '–'
      : typeof value === 'boolean'
        ? value
          ? 'yes'
          : 'no'
        : String(value);

interface Props {
  desk: Desk;
  snapshot: Prepared;
  game: Game;
  onClose: () => void;
  /** It was done. */
  onDone?: () => void;
}

/** Shows what an exchange of the sides changes, and asks what it must know. */
export function SwapDialog({ desk, snapshot, game, onClose, onDone }: Props) {
  // What the board says goes on while one looks.
  useDesk(desk, (s) => s.fields);
  const { defs, bundles } = snapshot;
  const sides = sidesOf(defs);
  const feeding = bundles.filter((b) => b.source.enabled && feedsSides(sides, b.patch));
  const [scorer, setScorer] = useState<'swapped' | 'not' | null>(null);
  const { pairs, names } = swapLines(defs, desk.read);
  // The teams themselves need no row each for their colours and marks.
  const shown = pairs.filter(
    (p) => !/^(short name|abbreviation|nickname|colour|second colour|mark)$/i.test(p.label),
  );
  const swap = async () => {
    const answer = await desk.act({ kind: 'swap-sides', ...(scorer ? { scorer } : {}) });
    onClose();
    if (answer.ok) onDone?.();
  };
  return (
    <Dialog
      title="Swap sides"
      onClose={onClose}
      actions={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button main disabled={feeding.length > 0 && scorer === null} onClick={() => void swap()}>
            Swap sides
          </Button>
        </>
      }
    >
      <table className={css['table']}>
        <caption>What changes on the board</caption>
        <thead>
          <tr>
            <th />
            <th>Home now</th>
            <th>Home then</th>
            <th>Away now</th>
            <th>Away then</th>
          </tr>
        </thead>
        <tbody>
          {shown.map(({ label, home, away }) => (
            <tr key={label}>
              <th scope="row">{label}</th>
              <td>{words(home)}</td>
              <td className={css['then']}>{words(away)}</td>
              <td>{words(away)}</td>
              <td className={css['then']}>{words(home)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {names.map(({ label, was, will }) => (
        <p key={label}>
          {label}: {words(was)} becomes {words(will)}.
        </p>
      ))}
      {feeding.length > 0 && (
        <Choice
          label={`${feeding.map((b) => b.source.name).join(' and ')} ${feeding.length > 1 ? 'feed' : 'feeds'} both sides. Has the scorer changed them there?`}
          value={scorer}
          onChange={setScorer}
          options={[
            { value: 'swapped', label: 'Yes, the scorer has swapped too', hint: 'The patch stays as it is.' },
            {
              value: 'not',
              label: 'No, the scorer goes on as before',
              hint: `The patch is swapped: what the controller calls home feeds ${game.home.short}, who are away then.`,
            },
          ]}
        />
      )}
    </Dialog>
  );
}

/** Shows what playing a game does, and asks what becomes of the board and of what is on air. */
export function PlayDialog({ desk, snapshot, game, onClose }: Props) {
  const profile = snapshot.documents.profile.find((p) => p.key === game.profile);
  const now = snapshot.documents.game.find((g) => g.key === snapshot.playing);
  const sameSport = now?.profile === game.profile;
  const [board, setBoard] = useState<'clear' | 'keep'>('clear');
  const [air, setAir] = useState<'clear' | 'keep'>('keep');
  const onAir = snapshot.lanes.flatMap((lane) => {
    const item = lane.onAir && snapshot.documents.item.find((i) => i.key === lane.onAir!.item);
    return item ? [item.name] : [];
  });
  const fields = new Set(profile?.fields.map((f) => f.key) ?? []);
  const sources = snapshot.bundles
    .filter((b) => b.source.enabled && b.patch?.links.length)
    .map((b) => ({ name: b.source.name, feeds: b.patch!.links.filter((l) => fields.has(l.field)).length }));
  const play = async () => {
    await desk.act({ kind: 'choose-game', game: game.key, board: sameSport ? board : 'clear', air });
    onClose();
  };
  return (
    <Dialog
      title={`Play ${game.home.short} v ${game.away.short}`}
      onClose={onClose}
      actions={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button main onClick={() => void play()}>
            Play this game
          </Button>
        </>
      }
    >
      <ul className={css['list']}>
        <li>
          The teams, their colours, marks and players become those of {game.home.name} and {game.away.name}.
        </li>
        {!sameSport && profile && <li>The sport becomes {profile.name}; the board has its fields then.</li>}
        {sources.map(({ name, feeds }) => (
          <li key={name}>
            {feeds > 0
              ? `${name} goes on and feeds ${feeds} ${feeds === 1 ? 'field' : 'fields'}.`
              : `${name} feeds nothing of this sport and is switched off.`}
          </li>
        ))}
      </ul>
      <Choice
        label="The board"
        value={sameSport ? board : 'clear'}
        onChange={setBoard}
        options={[
          {
            value: 'clear',
            label: 'Start with first values',
            hint: 'Scores at 0, clocks full, pins released. What a source says that is live stays.',
          },
          {
            value: 'keep',
            label: 'Keep what the board says',
            ...(sameSport ? {} : { disabled: true, hint: 'Not from one sport to another.' }),
          },
        ]}
      />
      {onAir.length > 0 && (
        <Choice
          label={`On air: ${onAir.join(', ')}`}
          value={air}
          onChange={setAir}
          options={[
            { value: 'keep', label: 'Keep on air', hint: 'With the new game’s names and values.' },
            { value: 'clear', label: 'Clear' },
          ]}
        />
      )}
    </Dialog>
  );
}
