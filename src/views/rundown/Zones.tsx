import type { Template } from '../../core/documents/template.ts';
import { goesTo, placeKey, type Place } from '../../core/show/item.ts';
import { goesOf, type Goes } from '../../core/show/item-state.ts';
import type { Output } from '../../core/show/show.ts';
import shell from '../shared/View.module.css';
import css from './RundownView.module.css';

/** The zones of all outputs, to choose where something goes; at each, which layout stands in it there. */
export function Zones({
  outputs,
  template,
  zones,
  says,
  onZones,
}: {
  outputs: readonly Output[];
  template: Pick<Template, 'layouts'> | undefined;
  zones: readonly Place[];
  says: (goes: Goes) => string;
  onZones: (zones: Place[]) => void;
}) {
  return (
    <fieldset className={`${shell['panel']} ${css['zones']}`}>
      <legend>Where it goes</legend>
      {outputs.map((o) => (
        <div key={o.key}>
          <b>{o.name}</b>
          {o.zones.map((z) => {
            const place = { output: o.key, zone: z.key };
            const on = goesTo({ zones: [...zones] }, place);
            const [goes] = template ? goesOf([place], template, [o]) : [];
            return (
              <label key={z.key} data-fit={goes?.fit.how}>
                <input
                  type="checkbox"
                  checked={on}
                  onChange={() =>
                    onZones(on ? zones.filter((at) => placeKey(at) !== placeKey(place)) : [...zones, place])
                  }
                />
                {z.name}
                {goes && <small>{says(goes)}</small>}
              </label>
            );
          })}
        </div>
      ))}
    </fieldset>
  );
}
