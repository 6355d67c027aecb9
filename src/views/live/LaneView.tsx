import { useState } from 'react';
import { layoutFor } from '../../core/show/layout.ts';
import type { Item } from '../../core/show/item.ts';
import { editedSince, laneKey, type Lane, type Output, type Zone } from '../../core/show/show.ts';
import type { Template } from '../../core/documents/template.ts';
import { Button, KeyCap } from '../../ui/Button.tsx';
import { useKeys } from '../../ui/keys.ts';
import { later } from '../../ui/Later.tsx';
import { OnAir } from '../../ui/OnAir.tsx';
import type { Desk } from '../shared/desk.ts';
import { useDraft } from './drafts.ts';
import { InputForm } from './InputForm.tsx';
import { Warnings } from './Warnings.tsx';
import css from './LaneView.module.css';

// What reads formulas is large, and taking needs none of it: it comes after the first view.
const Preview = later(() => import('./Preview.tsx').then((m) => m.Preview));

interface Props {
  desk: Desk;
  output: Output;
  zone: Zone;
  lane: Lane;
  items: Item[];
  templates: Template[];
  /** The letters of this lane; there are more lanes than letters. */
  keys: { take: string; clear: string } | undefined;
  /** Whether the keys 1 to 9 choose among this lane's items. */
  digits: boolean;
}

/** One zone at hand: what is on, what is next, its inputs and how it will look, take and clear. */
export function LaneView({ desk, output, zone, lane, items, templates, keys, digits }: Props) {
  const at = { output: lane.output, zone: lane.zone };
  const [chosen, choose] = useChosen(lane, (item) => void desk.act({ kind: 'next', ...at, item }));
  const next = items.find((i) => i.key === chosen) ?? items[0];
  const template = templates.find((t) => t.key === next?.template);
  const { inputs, unsaved, edit, flush } = useDraft(desk, next);
  const [misfits, setMisfits] = useState<readonly string[]>([]);
  const onAir = lane.onAir;
  const onAirItem = items.find((i) => i.key === onAir?.item);
  const same = onAir !== null && next !== undefined && onAir.item === next.key;
  const edited = same && editedSince(onAir, { ...next, inputs });

  const take = async () => {
    if (!next) return;
    const saved = await flush();
    if (saved && !saved.ok) return;
    await desk.act({ kind: 'take', item: next.key });
  };
  const clear = () => void desk.act({ kind: 'clear', ...at });
  const many = items.length > 1;
  useKeys({
    ...(keys && { [keys.take.toLowerCase()]: () => void take(), [keys.clear.toLowerCase()]: clear }),
    ...(digits
      ? Object.fromEntries(items.slice(0, 9).map((item, i) => [String(i + 1), () => choose(item.key)]))
      : {}),
  });

  return (
    <section className={css['lane']} aria-label={zone.name} data-lane={zone.key}>
      <header className={css['head']}>
        <h2>{zone.name}</h2>
        <p className={css['state']}>
          {onAir ? (
            <>
              <OnAir /> <span>{onAirItem?.name ?? onAir.item}</span>
              {edited && <em>edited since</em>}
            </>
          ) : (
            <span className={css['dim']}>nothing on</span>
          )}
        </p>
        <Warnings desk={desk} zone={zone} template={template} inputs={inputs} misfits={misfits} />
        <div className={css['buttons']}>
          <Button main={!same || edited} shortcut={keys?.take} onClick={() => void take()} disabled={!next}>
            {same ? (edited ? 'Take edits' : 'Take again') : 'Take'}
          </Button>
          <Button shortcut={keys?.clear} onClick={clear} disabled={!onAir}>
            Clear
          </Button>
        </div>
      </header>
      {many && (
        <div className={css['body']}>
          <ul className={css['items']} aria-label="Items">
            {items.map((item, i) => (
              <li key={item.key}>
                <button
                  type="button"
                  className={css['item']}
                  aria-pressed={item.key === next?.key}
                  onClick={() => choose(item.key)}
                  data-item-tile={item.key}
                >
                  <span className={css['number']}>{item.number}</span>
                  <span className={css['name']}>
                    {item.name}
                    {item.key === lane.next && item.key !== next?.key && <em>next at another desk</em>}
                  </span>
                  {item.key === onAir?.item ? <OnAir /> : digits && i < 9 && <KeyCap>{i + 1}</KeyCap>}
                </button>
              </li>
            ))}
          </ul>
          <div className={css['filling']}>
            <div className={css['preview']}>
              {template && (
                <Preview
                  desk={desk}
                  template={template}
                  zone={zone}
                  inputs={inputs}
                  pictureHeight={output.height}
                  onFit={setMisfits}
                />
              )}
              <p className={css['caption']}>
                <span>
                  Preview{next && ` of ${next.name}`}
                  {!same && ', not on air'}
                </span>
                <span>{unsaved ? 'saving…' : 'Ctrl+Enter takes · Esc back to the keys'}</span>
              </p>
            </div>
            {template && (
              <InputForm
                key={next!.key}
                desk={desk}
                template={template}
                layout={layoutFor(template, zone)}
                inputs={inputs}
                onEdit={edit}
                onTake={() => void take()}
              />
            )}
          </div>
        </div>
      )}
    </section>
  );
}

/**
 * The item that is next in a lane at this desk, and the way to choose another. Each desk has a choice of its own, which
 * nobody else moves; what was chosen last anywhere is told to all.
 */
function useChosen(lane: Lane, send: (item: string) => void): [string | null, (item: string) => void] {
  const place = `foothill.next.${laneKey(lane)}`;
  const [mine, setMine] = useState<string | null>(() => {
    try {
      return sessionStorage.getItem(place) ?? lane.next;
    } catch {
      return lane.next;
    }
  });
  const choose = (item: string) => {
    setMine(item);
    try {
      sessionStorage.setItem(place, item);
    } catch {
      // Where nothing can be stored the choice lasts as long as the page.
    }
    send(item);
  };
  return [mine ?? lane.next, choose];
}
