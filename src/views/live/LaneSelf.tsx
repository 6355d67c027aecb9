import { placesIn } from '../../core/show/item.ts';
import type { Automatic } from '../../core/show/show.ts';
import type { Trigger } from '../../core/show/trigger.ts';
import { Switch } from '../../ui/Switch.tsx';
import type { Desk } from '../shared/desk.ts';
import { saveDocument } from '../shared/save.ts';
import type { SeenLane } from './lanes.ts';
import css from './LaneView.module.css';

/** What happens in a lane by itself, each switched on or off: items go off, what follows is taken, triggers take theirs. */
export function LaneSelf({
  desk,
  seen,
  triggers,
}: {
  desk: Desk;
  seen: SeenLane;
  triggers: readonly Trigger[];
}) {
  const { lane, items } = seen;
  const { output, zone, off } = lane;
  const has = {
    length: items.some((i) => i.length !== null),
    follows: items.some((i) => i.length !== null && i.follows !== null),
  };
  const own = triggers.filter((t) => items.some((i) => i.key === t.item && placesIn(i, lane)));
  const turn = (what: Automatic, on: boolean) =>
    void desk.act({ kind: 'lane-automatic', output, zone, what, on });
  if (!has.length && !has.follows && own.length === 0) return null;
  return (
    <div className={css['self']} role="group" aria-label="By itself">
      <span>By itself</span>
      {has.length && (
        <Switch on={!off.includes('length')} onChange={(on) => turn('length', on)}>
          goes off
        </Switch>
      )}
      {has.follows && (
        <Switch on={!off.includes('follows')} onChange={(on) => turn('follows', on)}>
          what follows
        </Switch>
      )}
      {own.map((t) => (
        <Switch key={t.key} on={t.on} onChange={(on) => void saveDocument(desk, 'trigger', { ...t, on })}>
          {t.name}
        </Switch>
      ))}
    </div>
  );
}
