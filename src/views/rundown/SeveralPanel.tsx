import { placesIn, type Item } from '../../core/show/item.ts';
import { isOnAir } from '../../core/show/show.ts';
import { placed, without, type Group } from '../../core/show/rundown.ts';
import { counted } from '../../core/text/words.ts';
import { Button } from '../../ui/Button.tsx';
import { ConfirmButton } from '../../ui/ConfirmButton.tsx';
import type { Seen } from '../shared/View.tsx';
import shell from '../shared/View.module.css';
import { changeZones, withoutZone, withZone } from './change-zones.ts';
import { ZoneChoice } from './Zones.tsx';
import css from './RundownView.module.css';

/** What is done with several items at once. */
export function SeveralPanel({
  desk,
  snapshot,
  items,
  groups,
  onDuplicate,
  onOrder,
}: Seen & {
  items: readonly Item[];
  groups: readonly Group[];
  onDuplicate: () => void;
  onOrder: (groups: Group[]) => void;
}) {
  const keys = items.map((i) => i.key);
  const onAir = items.filter((i) => isOnAir(snapshot.lanes, i.key)).length;
  return (
    <aside className={shell['side']} aria-label="Items chosen">
      <section className={shell['panel']}>
        <h2>{counted(items.length, 'item')} chosen</h2>
        <label className={css['named']}>
          Move to
          <select
            value=""
            onChange={(e) =>
              onOrder(e.target.value === '-' ? without(groups, keys) : placed(groups, keys, e.target.value))
            }
          >
            <option value="" disabled>
              Choose a group
            </option>
            {groups.map((g) => (
              <option key={g.key} value={g.key}>
                {g.name}
              </option>
            ))}
            <option value="-">no group</option>
          </select>
        </label>
        <p className={shell['fields']}>
          <Button shortcut="Ctrl+D" onClick={onDuplicate}>
            Duplicate
          </Button>
          <ConfirmButton
            label="Delete…"
            disabled={onAir > 0}
            says={`${counted(items.length, 'item')} go, and what is filled in.`}
            onYes={() => void desk.act({ kind: 'remove-item', items: keys })}
          />
        </p>
        {onAir > 0 && <p className={shell['dim']}>{onAir} of them on air: these are not deleted.</p>}
      </section>
      <section className={`${shell['panel']} ${css['zones']}`} aria-label="Where they go">
        <b>Where they go</b>
        <ZoneChoice
          label="Add a zone to all"
          outputs={snapshot.documents.output}
          offered={(place) => items.some((i) => !placesIn(i, place))}
          onChoose={(place) => void changeZones(desk, keys, withZone(place))}
        />
        <ZoneChoice
          label="Take a zone from all"
          outputs={snapshot.documents.output}
          offered={(place) => items.some((i) => placesIn(i, place))}
          onChoose={(place) => void changeZones(desk, keys, withoutZone(place))}
        />
      </section>
    </aside>
  );
}
