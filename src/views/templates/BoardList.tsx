import { memo } from 'react';
import type { InputDef } from '../../core/documents/template.ts';
import { textOf } from '../../core/value/value.ts';
import { chipText } from '../../core/value/line.ts';
import { INPUT_AS, type DroppedKind } from '../../core/workshop/showing.ts';
import { useSearch } from '../../ui/search.tsx';
import type { Desk } from '../shared/desk.ts';
import { useField } from '../shared/use-desk.ts';
import { offersIn, type Offer } from '../value/chips.ts';
import type { ValueContext } from '../value/context.ts';
import { CARRIED, type Carried } from './carried.ts';
import css from './BoardList.module.css';

/** What an offer is put there as; null for what is no content by itself. */
function puttingOf({ value }: Offer, desk: Desk, inputs: readonly InputDef[]): DroppedKind | null {
  if ('field' in value) return desk.def(value.field)?.kind ?? null;
  if ('input' in value) {
    const def = inputs.find((i) => i.key === value.input);
    return def ? INPUT_AS[def.kind] : null;
  }
  return 'lookup' in value ? 'cell' : null;
}

/** What a template can be bound to: each is dragged onto a layer or a property, or put into what is chosen by a press. */
export function BoardList({
  desk,
  context,
  inputs,
  canPut,
  onPut,
}: {
  desk: Desk;
  context: ValueContext;
  inputs: readonly InputDef[];
  /** Whether the chosen layers take it. */
  canPut: (carried: Carried) => boolean;
  onPut: (carried: Carried) => void;
}) {
  const search = useSearch('Find a field, input or column');
  const offers = offersIn(context).flatMap((offer) => {
    const what = puttingOf(offer, desk, inputs);
    return what && search.finds(offer.name, offer.kind) ? [{ ...offer, what }] : [];
  });
  return (
    <div className={css['board']}>
      {search.box}
      <ul aria-label="Fields, inputs and columns">
        {offers.map(({ name, kind, value, what }) => {
          const carried: Carried = { name, what, value };
          const can = canPut(carried);
          return (
            <li key={`${kind} ${JSON.stringify(value)}`}>
              <button
                type="button"
                draggable
                data-offer={name}
                data-tip={
                  can
                    ? 'Drag it onto a layer or a property; a press puts it into what is chosen'
                    : 'Drag it onto a layer or a property'
                }
                aria-label={`${name}, ${kind}`}
                onDragStart={(e) => {
                  e.dataTransfer.setData(CARRIED, JSON.stringify(carried));
                  e.dataTransfer.setData('text/plain', chipText(value));
                  e.dataTransfer.effectAllowed = 'copy';
                }}
                onClick={() => can && onPut(carried)}
              >
                <span>{name}</span>
                {'field' in value ? <Now desk={desk} field={value.field} /> : <small>{kind}</small>}
              </button>
            </li>
          );
        })}
        {offers.length === 0 && <li className={css['none']}>Nothing is called so.</li>}
      </ul>
    </div>
  );
}

/** What a field says now. */
const Now = memo(function Now({ desk, field }: { desk: Desk; field: string }) {
  useField(desk, field);
  const said = desk.read(field);
  return <small>{said === true ? 'yes' : said === false ? 'no' : textOf(said)}</small>;
});
