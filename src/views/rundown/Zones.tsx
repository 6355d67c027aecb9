import X from 'lucide-react/icons/x';
import type { Template } from '../../core/documents/template.ts';
import { placesIn, placeKey, type Place } from '../../core/show/item.ts';
import { fitText, placementOf } from '../../core/show/item-state.ts';
import type { Output } from '../../core/show/show.ts';
import { Button } from '../../ui/Button.tsx';
import { placeName } from '../shared/zones.ts';
import shell from '../shared/View.module.css';
import { withoutZone, withZone, type ChangeZones } from './change-zones.ts';
import css from './RundownView.module.css';

/** A zone to choose among those of all outputs; at each, how a template would stand in it. */
export function ZoneChoice({
  label,
  outputs,
  template,
  offered,
  onChoose,
}: {
  label: string;
  outputs: readonly Output[];
  template?: Pick<Template, 'layouts'> | undefined;
  offered: (place: Place) => boolean;
  onChoose: (place: Place) => void;
}) {
  const groups = outputs.flatMap((o) => {
    const places = o.zones
      .map((z) => ({ name: z.name, place: { output: o.key, zone: z.key } }))
      .filter(({ place }) => offered(place));
    return places.length ? [{ key: o.key, name: o.name, places }] : [];
  });
  const all = groups.flatMap((g) => g.places.map((p) => p.place));
  return (
    <select
      aria-label={label}
      value=""
      disabled={all.length === 0}
      onChange={(e) => {
        const place = all.find((p) => placeKey(p) === e.target.value);
        if (place) onChoose(place);
      }}
    >
      <option value="" disabled>
        {label}…
      </option>
      {groups.map((g) => (
        <optgroup key={g.key} label={g.name}>
          {g.places.map(({ name, place }) => {
            const [goes] = template ? placementOf([place], template, outputs) : [];
            return (
              <option key={placeKey(place)} value={placeKey(place)}>
                {name}
                {goes && ` (${fitText(goes)})`}
              </option>
            );
          })}
        </optgroup>
      ))}
    </select>
  );
}

/** The zones that something goes to; at each, which layout stands in it there. */
export function Zones({
  outputs,
  template,
  zones,
  onZones,
}: {
  outputs: readonly Output[];
  template: Pick<Template, 'layouts'> | undefined;
  zones: readonly Place[];
  onZones: (change: ChangeZones) => void;
}) {
  return (
    <section className={`${shell['panel']} ${css['zones']}`} aria-label="Where it goes">
      <b>Where it goes</b>
      <ul>
        {zones.map((place) => {
          const [goes] = template ? placementOf([place], template, outputs) : [];
          const name = placeName(outputs, place);
          return (
            <li key={placeKey(place)} data-fit={goes?.fit.how}>
              <span>{name}</span>
              <small>{goes && fitText(goes)}</small>
              <Button
                className={css['drop']}
                aria-label={`Not to ${name}`}
                onClick={() => onZones(withoutZone(place))}
              >
                <X size={14} />
              </Button>
            </li>
          );
        })}
      </ul>
      <ZoneChoice
        label={zones.length ? 'Add a zone' : 'Choose a zone'}
        {...{ outputs, template }}
        offered={(place) => !placesIn({ zones }, place)}
        onChoose={(place) => onZones(withZone(place))}
      />
    </section>
  );
}
