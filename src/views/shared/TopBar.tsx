import { useEffect, useState } from 'react';
import Moon from 'lucide-react/icons/moon';
import Sun from 'lucide-react/icons/sun';
import UserRound from 'lucide-react/icons/user-round';
import type { Unread } from '../../core/documents/kinds.ts';
import { counted } from '../../core/text/words.ts';
import { Button } from '../../ui/Button.tsx';
import { laterDialog } from '../../ui/Later.tsx';
import { Tips } from '../../ui/Tips.tsx';
import { useRemembered } from '../../ui/remembered.ts';
import type { Desk, Prepared } from './desk.ts';
import { RecordingSign, RehearsalSign } from './Deck.tsx';
import { HandOverNotice } from './HandOverNotice.tsx';
import { StatusLine } from './StatusLine.tsx';
import { VIEWS } from './views.ts';
import { NAME } from './identity.ts';
import { tip } from '../../ui/tip.ts';
import css from './TopBar.module.css';

const NameDialog = laterDialog(() => import('./NameDialog.tsx').then((m) => m.NameDialog));
const UnreadDialog = laterDialog(() => import('./UnreadDialog.tsx').then((m) => m.UnreadDialog));

/** What the page is, for who hears it; where its content begins. */
export function Heading({ here }: { here: string }) {
  return (
    <h1 id="main" tabIndex={-1} className={css['unseen']}>
      {VIEWS.find((v) => v.href === here)?.name}
    </h1>
  );
}

/** Says that documents could not be read, and leads to what can be done about it. */
function UnreadSign({ desk, unread }: { desk: Desk; unread: Unread[] }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button className={css['unread']} onClick={() => setOpen(true)}>
        {counted(unread.length, 'document')} cannot be read…
      </Button>
      {open && <UnreadDialog desk={desk} unread={unread} onClose={() => setOpen(false)} />}
    </>
  );
}

/** Who sits at this desk, and the way to say it. */
function NameSign() {
  const [name, setName] = useRemembered(NAME, '');
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button
        className={css['who']}
        aria-label={name ? `You: ${name}` : 'Say who you are'}
        {...tip(name || 'Say who you are: the log shows who made each change')}
        onClick={() => setOpen(true)}
      >
        <UserRound size={16} />
        {name && <span>{name}</span>}
      </Button>
      {open && <NameDialog name={name} onName={setName} onClose={() => setOpen(false)} />}
    </>
  );
}

/** What every view has at its top: the way to the others, the game, the health of everything, the surfaces. */
export function TopBar({ desk, snapshot, here }: { desk: Desk; snapshot: Prepared; here: string }) {
  const [theme, setTheme] = useRemembered('theme', 'dark');
  useEffect(() => {
    document.documentElement.dataset['theme'] = theme;
  }, [theme]);
  const game = snapshot.documents.game.find((g) => g.key === snapshot.playing);
  return (
    <>
      <Tips />
      <RehearsalSign desk={desk} />
      <header className={css['top']}>
        <a href="/" className={css['brand']}>
          <img src="/icon.svg" alt="" width="24" height="24" /> Foothill
        </a>
        <nav className={css['views']} aria-label="Views">
          {VIEWS.map((v) => (
            <a key={v.href} href={v.href} aria-current={v.href === here ? 'page' : undefined}>
              {v.name}
            </a>
          ))}
        </nav>
        <p className={css['game']}>
          <b>{game ? `${game.home.name} v ${game.away.name}` : 'No game chosen'}</b>
          <span>
            {game?.competition}
            {game?.venue && `, ${game.venue}`}
          </span>
        </p>
        <RecordingSign desk={desk} />
        <StatusLine desk={desk} snapshot={snapshot} />
        {snapshot.unread.length > 0 && <UnreadSign desk={desk} unread={snapshot.unread} />}
        <HandOverNotice desk={desk} snapshot={snapshot} />
        <NameSign />
        <Button
          onClick={() => setTheme(theme === 'dark' ? 'light' : 'dark')}
          aria-label={theme === 'dark' ? 'Light surfaces' : 'Dark surfaces'}
          className={css['theme']}
        >
          {theme === 'dark' ? <Sun size={16} /> : <Moon size={16} />}
        </Button>
      </header>
    </>
  );
}
