import { useState } from 'react';
import { isClock } from '../../core/board/values.ts';
import { clockAt, clockText } from '../../core/clock/clock.ts';
import type { Item } from '../../core/show/item.ts';
import { wrongWithPage } from '../../core/show/pages.ts';
import type { OpenPage } from '../../core/wire/wire.ts';
import { Button } from '../../ui/Button.tsx';
import { useKeys } from '../../ui/keys.ts';
import { itemName } from '../shared/rundown.ts';
import { padOf } from '../shared/HandOverNotice.tsx';
import { useKeyOf } from '../shared/keymap.ts';
import { ageText, useSeconds } from '../shared/time.ts';
import { useDesk, useField } from '../shared/use-desk.ts';
import type { Seen } from '../shared/View.tsx';
import css from './Failures.module.css';

/** What an operator must know of now: the controller lost in play, and pages that do not show what is on air. */
export function Failures(seen: Seen) {
  return (
    <div className={css['failures']}>
      <Lost {...seen} />
      <Pages {...seen} />
    </div>
  );
}

/** The clock's source is lost: the clock by hand, or wait, each by one key. */
function Lost({ desk, snapshot }: Seen) {
  const clock = snapshot.defs.find((d) => d.kind === 'clock');
  const field = useField(desk, clock?.key);
  const name = useDesk(desk, (s) => s.desk!.sources.find((x) => x.key === field?.origin)?.name ?? '');
  // Each loss is answered for itself: the clock stood since then.
  const [waited, wait] = useState<number | null>(null);
  const lost = field?.quality === 'lost' && name !== '' && isClock(field.value);
  const shown = lost && waited !== field.at;
  const pad = padOf(snapshot);
  const keyOf = useKeyOf();
  const run = () => {
    if (pad && clock) void desk.act({ kind: 'hand', source: pad.key, field: clock.key, do: 'start' });
  };
  useKeys(shown ? { escape: () => wait(field.at) } : {});
  if (!shown) return null;
  return (
    <p role="alert" aria-label="Controller lost">
      <span>
        <b>{name} is lost.</b> {clock!.label} stands at{' '}
        {clockText(isClock(field.value) ? clockAt(field.value, desk.link.serverNow()) : 0)}, its last certain
        value.
      </span>
      {pad ? (
        <Button main shortcut={keyOf('by-hand')} onClick={run}>
          Run it by hand
        </Button>
      ) : (
        <a href="/sources">Add a pad to run it by hand</a>
      )}
      <Button shortcut="Esc" onClick={() => wait(field.at)}>
        Wait
      </Button>
    </p>
  );
}

/** What is wrong with a page, in words; null where nothing is. */
function wrongWith(page: OpenPage, now: number, items: readonly Item[]): string | null {
  return page.state === 'gone'
    ? `has been gone for ${ageText(now - page.since)}`
    : wrongWithPage(page, (item) => itemName(items, item));
}

/** The pages that are gone, silent, behind or late, each with its output; one that was closed on purpose is dismissed. */
function Pages({ desk, snapshot }: Seen) {
  const now = useSeconds(desk.link.realNow);
  const [dismissed, dismiss] = useState<readonly string[]>([]);
  const nameOf = (key: string) => snapshot.documents.output.find((o) => o.key === key)?.name;
  const wrong = [...snapshot.gone, ...snapshot.pages].flatMap((page) => {
    const says = wrongWith(page, now, snapshot.documents.item);
    const key = `${page.id} ${page.state} ${page.fault?.layer ?? ''}`;
    const output = nameOf(page.output);
    return says && output && !dismissed.includes(key) ? [{ key, says, page, output }] : [];
  });
  return wrong.slice(0, 3).map(({ key, says, page, output }) => (
    <p key={key} role="alert" aria-label="Page of an output">
      <span>
        <b>{output}:</b> the page at {page.from} {says}.
      </span>
      <Button onClick={() => dismiss([...dismissed, key])}>Dismiss</Button>
    </p>
  ));
}
