import { useState } from 'react';
import { layoutFor } from '../../core/show/layout.ts';
import type { Item } from '../../core/show/item.ts';
import { editedSince, type Lane, type Output, type Zone } from '../../core/show/show.ts';
import type { Template } from '../../core/documents/template.ts';
import { Button, KeyCap } from '../../ui/Button.tsx';
import { useKeys } from '../../ui/keys.ts';
import { later } from '../../ui/Later.tsx';
import { OnAir } from '../../ui/OnAir.tsx';
import type { Desk } from '../shared/desk.ts';
import { counted } from '../../core/text/words.ts';
import { ageText, useSeconds } from '../shared/time.ts';
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
  /** The item that is next here at this desk. */
  chosen: string | null;
  onChoose: (item: string) => void;
}

/** One zone at hand: what is on, what is next, its inputs and how it will look, take and clear. */
export function LaneView({ desk, output, zone, lane, items, templates, keys, chosen, onChoose }: Props) {
  const at = { output: lane.output, zone: lane.zone };
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
              <Time desk={desk} since={onAir.takenAt} length={onAirItem?.length ?? null} />
              {onAirItem && <Elsewhere places={onAirItem.zones.length - 1} />}
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
            {items.map((item) => (
              <li key={item.key}>
                <button
                  type="button"
                  className={css['item']}
                  aria-pressed={item.key === next?.key}
                  onClick={() => onChoose(item.key)}
                  data-item-tile={item.key}
                >
                  <span className={css['number']}>{item.number}</span>
                  <span className={css['name']}>
                    {item.name}
                    {item.key === lane.next && item.key !== next?.key && item.key !== onAir?.item && (
                      <em>next at another desk</em>
                    )}
                  </span>
                  {item.key === onAir?.item ? <OnAir /> : item.hotkey && <KeyCap>{item.hotkey}</KeyCap>}
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

/** How long something has been on, or how long it stays. */
function Time({ desk, since, length }: { desk: Desk; since: number; length: number | null }) {
  const now = useSeconds(desk.link.serverNow);
  const left = length === null ? null : Math.max(0, Math.ceil((since + length * 1000 - now) / 1000));
  return <small className={css['time']}>{left === null ? ageText(now - since) : `${left} s left`}</small>;
}

/** That an item goes to other zones too: what is taken here is taken there. */
const Elsewhere = ({ places }: { places: number }) =>
  places > 0 && <small className={css['time']}>and in {counted(places, 'other zone')}</small>;
