import { useState } from 'react';
import { layoutFor } from '../../core/show/layout.ts';
import { editedSince } from '../../core/show/show.ts';
import type { Trigger } from '../../core/show/trigger.ts';
import type { Template } from '../../core/documents/template.ts';
import { Button, KeyCap } from '../../ui/Button.tsx';
import { later } from '../../ui/Later.tsx';
import { OnAir } from '../../ui/OnAir.tsx';
import { tip } from '../../ui/tip.ts';
import type { Desk } from '../shared/desk.ts';
import { counted } from '../../core/text/words.ts';
import { capOf, useKeyOf } from '../shared/keymap.ts';
import { InputForm } from './InputForm.tsx';
import type { Lanes, SeenLane } from './lanes.ts';
import { LaneSelf } from './LaneSelf.tsx';
import { OnSince } from './OnSince.tsx';
import { Queue } from './Queue.tsx';
import { Warnings } from './Warnings.tsx';
import css from './LaneView.module.css';

// What reads formulas is large, and taking needs none of it: it comes after the first view.
const Preview = later(() => import('./Preview.tsx').then((m) => m.Preview));

interface Props {
  desk: Desk;
  seen: SeenLane;
  lanes: Lanes;
  templates: readonly Template[];
  triggers: readonly Trigger[];
  nameOf: (item: string) => string;
}

/** The lane under the keys: what is on, what is next, its inputs and how it will look, and all that is done with a lane. */
export function LaneView({ desk, seen, lanes, templates, triggers, nameOf }: Props) {
  const { output, zone, lane, items, next, follows, on } = seen;
  const { inputs, unsaved, edit } = lanes.draft;
  const template = templates.find((t) => t.key === next?.template);
  const [misfits, setMisfits] = useState<readonly string[]>([]);
  const keyOf = useKeyOf();
  const { onAir, before } = lane;
  const same = onAir !== null && next !== undefined && onAir.item === next.key;
  const edited = same && editedSince(onAir, { ...next, inputs });
  const take = () => lanes.take(seen);
  return (
    <section className={css['lane']} aria-label={zone.name} data-lane={zone.key}>
      <header className={css['head']}>
        <KeyCap>{zone.letter || '·'}</KeyCap>
        <h2>
          {zone.name} <small>{output.name}</small>
        </h2>
        <p className={css['state']}>
          {onAir ? (
            <>
              <OnAir /> <span>{on?.name ?? onAir.item}</span>
              {edited && <em>edited since</em>}
              <small className={css['time']}>
                <OnSince desk={desk} since={onAir.takenAt} length={on?.length ?? null} />
              </small>
              {on && on.zones.length > 1 && (
                <small className={css['time']}>and in {counted(on.zones.length - 1, 'other zone')}</small>
              )}
            </>
          ) : (
            <span className={css['dim']}>nothing on</span>
          )}
        </p>
        <Warnings desk={desk} zone={zone} template={template} inputs={inputs} misfits={misfits} />
      </header>
      <div className={css['buttons']}>
        <Button main={!same || edited} shortcut={keyOf('take')} onClick={take} disabled={!next}>
          {same ? (edited ? 'Take edits' : 'Take again') : 'Take'}
        </Button>
        <Button shortcut={capOf(keyOf('clear'))} onClick={() => lanes.clear(seen)} disabled={!onAir}>
          Clear
        </Button>
        <Button
          shortcut={keyOf('follow')}
          onClick={() => lanes.follow(seen)}
          disabled={!follows}
          {...tip(
            follows
              ? `Take ${follows.name}`
              : 'Nothing follows: the queue is empty, and this is the last one',
          )}
        >
          <span>{follows ? `Then ${follows.name}` : 'Nothing follows'}</span>
        </Button>
        <Button
          shortcut={keyOf('back')}
          onClick={() => lanes.back(seen)}
          disabled={!onAir && !before}
          {...tip(before ? `${nameOf(before.item)} again, as it was` : 'Nothing was on before')}
        >
          <span>{before ? `Back to ${nameOf(before.item)}` : 'Back to nothing'}</span>
        </Button>
      </div>
      <LaneSelf desk={desk} seen={seen} triggers={triggers} />
      {lane.queue.length > 0 && <Queue seen={seen} lanes={lanes} nameOf={nameOf} />}
      {items.length === 0 && (
        <p className={css['none']}>
          No item goes to this zone yet. <a href="/rundown">Make one in the rundown</a>
        </p>
      )}
      {items.length > 0 && (
        <div className={css['body']}>
          <ul className={css['items']} aria-label="Items">
            {items.map((item) => (
              <li key={item.key}>
                <button
                  type="button"
                  className={css['item']}
                  aria-pressed={item.key === next?.key}
                  onClick={() => lanes.choose(seen, item.key)}
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
                  key={seen.key}
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
                {unsaved && <span>saving…</span>}
                <Button
                  shortcut={capOf(keyOf('queue'))}
                  disabled={lane.queue.includes(next?.key ?? '')}
                  onClick={() => lanes.enqueue(seen)}
                >
                  Add to the queue
                </Button>
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
                onTake={take}
              />
            )}
          </div>
        </div>
      )}
    </section>
  );
}
