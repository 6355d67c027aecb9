import { useMemo, useState } from 'react';
import type { Item } from '../../core/show/item.ts';
import { neverQuiet, QUIET } from '../../core/show/quiet.ts';
import { Button } from '../../ui/Button.tsx';
import { Guard } from '../../ui/Guard.tsx';
import { KEYS, useKeys } from '../../ui/keys.ts';
import { useRemembered, useRememberedList } from '../../ui/remembered.ts';
import { BoardPanel } from './BoardPanel.tsx';
import { Desk } from '../shared/desk.ts';
import { Connecting } from '../shared/View.tsx';
import { useDesk, useKnown, usePrepared } from '../shared/use-desk.ts';
import { Failures } from './Failures.tsx';
import { LaneView } from './LaneView.tsx';
import { useLanes } from './lanes.ts';
import { HoldEdits } from './HoldEdits.tsx';
import { LaneList } from './LaneList.tsx';
import { ClearAll } from './ClearAll.tsx';
import { Looks } from './Looks.tsx';
import { Pictures } from './Pictures.tsx';
import { useCommands, useKeyOf } from '../shared/keymap.ts';
import { Palette } from '../shared/Palette.tsx';
import { Recall } from '../shared/Recall.tsx';
import { doAgain, takeBack, UndoRedo } from '../shared/UndoRedo.tsx';
import { Heading, TopBar } from '../shared/TopBar.tsx';
import { layoutsUsed } from '../shared/layouts-used.ts';
import { itemName } from '../shared/rundown.ts';
import { Tracing } from '../shared/trace/Tracing.tsx';
import { useTrail } from '../shared/trace/trail.ts';
import { laterDialog } from '../../ui/Later.tsx';
import { TestCards } from './TestCards.tsx';
import { TwoStrokes } from './TwoStrokes.tsx';
import { saveDocument } from '../shared/save.ts';
import { TracePanel } from './TracePanel.tsx';
import { ageText, useSeconds } from '../shared/time.ts';
import { tip } from '../../ui/tip.ts';
import css from './LiveView.module.css';

const KeysDialog = laterDialog(() => import('./KeysDialog.tsx').then((m) => m.KeysDialog));
const RulesDialog = laterDialog(() => import('./RulesDialog.tsx').then((m) => m.RulesDialog));
const LettersDialog = laterDialog(() => import('./LettersDialog.tsx').then((m) => m.LettersDialog));

/** The operator's view: the true picture, the zones' lanes, the board, and why each value is what it is. */
export default function LiveView() {
  const [desk] = useState(() => new Desk('live'));
  const snapshot = usePrepared(desk);
  const here = useDesk(desk, (s) => s.here);
  const trail = useTrail(desk);
  const [letters, setLetters] = useRemembered(KEYS, 'on');
  const [pictures, setPictures] = useRememberedList('pictures');
  const [lettering, letter] = useState(false);
  const [ruling, rule] = useState(false);
  const [keying, key] = useState(false);
  const [zones, setZones] = useRemembered('zones', 'off');

  const lanes = useLanes(desk, snapshot);
  const { under } = lanes;
  const looks = snapshot?.documents.look.filter((l) => l.hotkey !== '') ?? [];
  const hot = snapshot?.documents.item.filter((i) => i.hotkey !== '') ?? [];

  const keyOf = useKeyOf();
  const quiet = snapshot?.documents.quiet.find((q) => q.key === QUIET) ?? neverQuiet();
  const turnQuiet = () => void saveDocument(desk, 'quiet', { ...quiet, on: !quiet.on });
  const toggleZones = () => setZones(zones === 'on' ? 'off' : 'on');
  useCommands({
    undo: () => void takeBack(desk),
    redo: () => void doAgain(desk),
    zones: toggleZones,
    quiet: turnQuiet,
    'lane-up': () => lanes.step(-1),
    'lane-down': () => lanes.step(1),
    'item-up': () => lanes.stepItem(-1),
    'item-down': () => lanes.stepItem(1),
    ...(under && {
      take: () => lanes.take(under),
      clear: () => lanes.clear(under),
      follow: () => lanes.follow(under),
      back: () => lanes.back(under),
      queue: () => lanes.enqueue(under),
    }),
  });
  useKeys({
    'ctrl+shift+z': () => void doAgain(desk),
    ...Object.fromEntries(
      lanes.lanes.flatMap((l) =>
        l.zone.letter.length === 1 ? [[l.zone.letter.toLowerCase(), () => lanes.select(l.key)]] : [],
      ),
    ),
    ...Object.fromEntries(hot.map((i) => [i.hotkey.toLowerCase(), () => lanes.hot(i)])),
    ...Object.fromEntries(
      looks.map((l) => [l.hotkey.toLowerCase(), () => void desk.act({ kind: 'recall-look', look: l.key })]),
    ),
  });

  const select = (key: string | null) => (key === null ? trail.close() : trail.start({ field: key }));

  if (!snapshot) return <Connecting desk={desk} />;
  const nameOf = (id: string) => itemName(snapshot.documents.item, id);
  const outputs = snapshot.documents.output;
  const chosen = outputs.filter((o) => pictures.includes(o.key));
  // Until somebody chose: the first one. A blank name stands for none at all.
  const shown = pictures.length ? chosen : outputs.slice(0, 1);
  const toggle = (key: string) => {
    const keys = shown.map((o) => o.key);
    const next = keys.includes(key) ? keys.filter((k) => k !== key) : [...keys, key];
    setPictures(next.length ? next : ['-']);
  };
  const selected = trail.at && 'field' in trail.at ? trail.at.field : null;
  const def = selected ? desk.def(selected) : undefined;

  return (
    <div className={css['view']} data-here={here}>
      <div className={css['top']}>
        <Guard name="The top bar">
          <TopBar desk={desk} snapshot={snapshot} here="/live" />
          <Palette desk={desk} snapshot={snapshot} onNext={lanes.chosen} />
        </Guard>
      </div>
      <main className={css['main']}>
        <Heading here="/live" />
        <div className={css['lanes']}>
          <Guard name="The lanes">
            <LaneList
              desk={desk}
              outputs={outputs}
              lanes={lanes}
              pictures={shown.map((o) => o.key)}
              onPicture={toggle}
              quiet={snapshot.quiet}
            >
              <ClearAll desk={desk} snapshot={snapshot} />
              <Button
                shortcut={keyOf('quiet')}
                aria-pressed={quiet.on}
                onClick={turnQuiet}
                {...tip('While it is quiet nothing moves on boards in the venue')}
              >
                Quiet
              </Button>
              <Button onClick={() => rule(true)}>Rules…</Button>
              <Button onClick={() => letter(true)}>Letters…</Button>
              <Button shortcut={keyOf('zones')} aria-pressed={zones === 'on'} onClick={toggleZones}>
                {zones === 'on' ? 'Hide zones' : 'Show zones'}
              </Button>
              <Button onClick={() => key(true)}>{letters === 'on' ? 'Keys…' : 'Keys off…'}</Button>
            </LaneList>
          </Guard>
          {keying && (
            <KeysDialog
              snapshot={snapshot}
              single={letters === 'on'}
              onSingle={(on) => setLetters(on ? 'on' : 'off')}
              onClose={() => key(false)}
            />
          )}
          {ruling && <RulesDialog desk={desk} snapshot={snapshot} onClose={() => rule(false)} />}
          {lettering && <LettersDialog desk={desk} outputs={outputs} onClose={() => letter(false)} />}
        </div>
        <div className={css['left']}>
          <Guard name="The picture">
            <Pictures
              layouts={() => layoutsUsed(snapshot)}
              outputs={shown}
              lanes={snapshot.lanes}
              nameOf={nameOf}
              zones={zones === 'on'}
              under={under ? under.lane : null}
              onTrace={trail.start}
            />
          </Guard>
          <LastWord desk={desk} items={snapshot.documents.item} onNext={lanes.chosen}>
            <TwoStrokes lanes={lanes} />
            <UndoRedo desk={desk} />
          </LastWord>
          <Looks desk={desk} snapshot={snapshot} />
          <TestCards desk={desk} snapshot={snapshot} />
          <Failures desk={desk} snapshot={snapshot} />
          {under && (
            <Guard name={`The lane ${under.zone.name}`}>
              <LaneView
                desk={desk}
                seen={under}
                lanes={lanes}
                templates={snapshot.documents.template}
                triggers={snapshot.documents.trigger}
                nameOf={nameOf}
              />
            </Guard>
          )}
        </div>
        <div className={css['right']}>
          <Guard name="The board">
            <BoardPanel desk={desk} defs={snapshot.defs} selected={selected} onSelect={select}>
              <HoldEdits desk={desk} draft={lanes.draft} items={snapshot.documents.item} />
            </BoardPanel>
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

/** A refusal is read in this time, ms; after it what was done later at another desk is news again. */
const READ_WITHIN = 5000;

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
  // The time at which it was said.
  const saidAt = useMemo(() => (said ? desk.link.realNow() : 0), [desk, said]);
  const overtaken = last !== undefined && last.at > saidAt && time - saidAt > READ_WITHIN;
  const refused = said && !said.ok && !overtaken ? said.text : null;
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
