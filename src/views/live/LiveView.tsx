import { useState } from 'react';
import { goesTo, type Item } from '../../core/show/item.ts';
import { laneKey } from '../../core/show/show.ts';
import { Button } from '../../ui/Button.tsx';
import { Guard } from '../../ui/Guard.tsx';
import { KEYS, useKeys } from '../../ui/keys.ts';
import { useRemembered } from '../../ui/remembered.ts';
import { BoardPanel } from './BoardPanel.tsx';
import { Desk } from '../shared/desk.ts';
import { Connecting } from '../shared/View.tsx';
import { useDesk, useKnown, usePrepared } from '../shared/use-desk.ts';
import { LaneView } from './LaneView.tsx';
import { useChoices } from './choices.ts';
import { Looks } from './Looks.tsx';
import { Picture } from './Picture.tsx';
import { Recall } from '../shared/Recall.tsx';
import { takeBack, UndoRedo, useUndoKeys } from '../shared/UndoRedo.tsx';
import { Heading, TopBar } from '../shared/TopBar.tsx';
import { layoutsUsed } from '../shared/layouts-used.ts';
import { orderOf } from '../shared/rundown.ts';
import { Tracing } from '../shared/trace/Tracing.tsx';
import { useTrail } from '../shared/trace/trail.ts';
import { TestCards } from './TestCards.tsx';
import { TracePanel } from './TracePanel.tsx';
import { ageText, useSeconds } from '../shared/time.ts';
import { tip } from '../../ui/tip.ts';
import css from './LiveView.module.css';

/**
 * Keys of the lanes, top to bottom: take above, clear below it on the keyboard, where neither does anything else in this view.
 * A lane beyond them is worked by its buttons: no key may ever stand for two.
 */
const LANE_KEYS = ['QA', 'WS', 'ED', 'YH', 'UJ', 'OL'].map(([take, clear]) => ({
  take: take!,
  clear: clear!,
}));

/** The operator's view: the true picture, the zones' lanes, the board, and why each value is what it is. */
export default function LiveView() {
  const [desk] = useState(() => new Desk('live'));
  const snapshot = usePrepared(desk);
  const here = useDesk(desk, (s) => s.here);
  const trail = useTrail(desk);
  const [letters, setLetters] = useRemembered(KEYS, 'on');
  const [shown, setShown] = useRemembered('output', '');
  const [zones, setZones] = useRemembered('zones', 'off');

  const choices = useChoices(desk);
  const looks = snapshot?.documents.look.filter((l) => l.hotkey !== '') ?? [];
  const hot = snapshot?.documents.item.filter((i) => i.hotkey !== '') ?? [];

  useUndoKeys({ undo: () => takeBack(desk), redo: desk.redo });
  useKeys({
    z: () => setZones(zones === 'on' ? 'off' : 'on'),
    ...Object.fromEntries(
      hot.map((i) => [i.hotkey.toLowerCase(), () => void desk.act({ kind: 'take', item: i.key })]),
    ),
    ...Object.fromEntries(
      looks.map((l) => [l.hotkey.toLowerCase(), () => void desk.act({ kind: 'recall-look', look: l.key })]),
    ),
  });

  const select = (key: string | null) => (key === null ? trail.close() : trail.start({ field: key }));

  if (!snapshot) return <Connecting desk={desk} />;
  const nameOf = (id: string) => snapshot.documents.item.find((i) => i.key === id)?.name ?? id;
  const output = snapshot.documents.output.find((o) => o.key === shown) ?? snapshot.documents.output[0]!;
  const order = orderOf(snapshot);
  const itemsOf = (zone: string) => order.filter((item) => goesTo(item, { output: output.key, zone }));
  const selected = trail.at && 'field' in trail.at ? trail.at.field : null;
  const def = selected ? desk.def(selected) : undefined;

  return (
    <div className={css['view']} data-here={here}>
      <div className={css['top']}>
        <Guard name="The top bar">
          <TopBar desk={desk} snapshot={snapshot} here="/live" />
        </Guard>
      </div>
      <main className={css['main']}>
        <Heading here="/live" />
        <div className={css['left']}>
          <Guard name="The picture">
            <Picture
              layouts={() => layoutsUsed(snapshot)}
              output={output}
              lanes={snapshot.lanes}
              nameOf={nameOf}
              zones={zones === 'on'}
              onTrace={trail.start}
            />
          </Guard>
          <LastWord desk={desk} items={snapshot.documents.item} onNext={choices.chosen}>
            {snapshot.documents.output.length > 1 && (
              <select
                aria-label="Output"
                value={output.key}
                onChange={(e) => setShown(e.target.value)}
                className={css['output']}
              >
                {snapshot.documents.output.map((o) => (
                  <option key={o.key} value={o.key}>
                    {o.name}
                  </option>
                ))}
              </select>
            )}
            <UndoRedo desk={desk} />
          </LastWord>
          <div className={css['choices']}>
            <Looks desk={desk} snapshot={snapshot} />
            <Button
              shortcut="Z"
              aria-pressed={zones === 'on'}
              onClick={() => setZones(zones === 'on' ? 'off' : 'on')}
            >
              {zones === 'on' ? 'Hide zones' : 'Show zones'}
            </Button>
            <Button
              aria-pressed={letters === 'on'}
              {...tip('Whether single keys work here, on every view: Q takes, A clears')}
              onClick={() => setLetters(letters === 'on' ? 'off' : 'on')}
            >
              {letters === 'on' ? 'Keys on' : 'Keys off'}
            </Button>
          </div>
          <TestCards desk={desk} snapshot={snapshot} />
          {output.zones.map((zone, i) => {
            const lane = snapshot.lanes.find((l) => l.output === output.key && l.zone === zone.key);
            if (!lane) return null;
            return (
              <Guard key={laneKey(lane)} name={`The lane ${zone.name}`}>
                <LaneView
                  desk={desk}
                  output={output}
                  zone={zone}
                  lane={lane}
                  items={itemsOf(zone.key)}
                  templates={snapshot.documents.template}
                  chosen={choices.of(lane)}
                  onChoose={(item) => choices.choose(lane, item)}
                  keys={LANE_KEYS[i]}
                />
              </Guard>
            );
          })}
        </div>
        <div className={css['right']}>
          <Guard name="The board">
            <BoardPanel desk={desk} defs={snapshot.defs} selected={selected} onSelect={select} />
            {def ? (
              <TracePanel key={def.key} desk={desk} def={def} trail={trail} />
            ) : trail.at ? (
              <Tracing desk={desk} trail={trail} />
            ) : (
              <p className={css['hint']}>
                Choose a field, or click on the picture, to see where a value comes from; a field can be held
                by a pin.
              </p>
            )}
          </Guard>
        </div>
      </main>
    </div>
  );
}

/** What was done last, here or at another desk, and why, when it was refused; over it a number that is typed. */
function LastWord({
  desk,
  items,
  onNext,
  children,
}: {
  desk: Desk;
  items: readonly Item[];
  onNext: (item: Item) => void;
  children: React.ReactNode;
}) {
  const time = useSeconds(desk.link.realNow);
  const last = useKnown(desk, 'log').at(-1);
  const said = useDesk(desk, (s) => s.said);
  const refused = said && !said.ok ? said.text : null;
  const pending = said?.pending ? said.text : null;
  return (
    <div className={css['word']}>
      <Recall desk={desk} items={items} onNext={onNext} over />
      <p className={refused ? css['refused'] : undefined}>
        <span role="status" aria-label="Last action">
          {refused ?? pending ?? (last ? last.text : 'Nothing was done yet.')}
        </span>
        {!refused && !pending && last && `${last.who && ` · ${last.who}`} · ${ageText(time - last.at)} ago`}
      </p>
      {children}
    </div>
  );
}
