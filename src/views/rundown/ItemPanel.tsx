import { useState } from 'react';
import { HOT_KEYS, LONGEST, MOST_NUMBER, placeKey, type Item } from '../../core/show/item.ts';
import { placementOf } from '../../core/show/item-state.ts';
import { isOnAir } from '../../core/show/show.ts';
import { Button } from '../../ui/Button.tsx';
import { later } from '../../ui/Later.tsx';
import { NumberField } from '../../ui/NumberField.tsx';
import { ConfirmButton } from '../../ui/ConfirmButton.tsx';
import { TextBox } from '../../ui/TextBox.tsx';
import { useDraft } from '../live/drafts.ts';
import { InputForm } from '../live/InputForm.tsx';
import { Warnings } from '../live/Warnings.tsx';
import type { Seen } from '../shared/View.tsx';
import shell from '../shared/View.module.css';
import { placeName } from '../shared/zones.ts';
import { changeZones } from './change-zones.ts';
import { Zones } from './Zones.tsx';
import css from './RundownView.module.css';

const Preview = later(() => import('../live/Preview.tsx').then((m) => m.Preview));

interface Props extends Seen {
  item: Item;
  /** All items, in order. */
  items: readonly Item[];
  onDuplicate: () => void;
}

/** One item: how it would look now in each of its zones, what it says, where it goes, and what it does by itself. */
export function ItemPanel({ desk, snapshot, item, items, onDuplicate }: Props) {
  const { documents, lanes } = snapshot;
  const template = documents.template.find((t) => t.key === item.template);
  const goes = template ? placementOf(item.zones, template, documents.output) : [];
  const [zone, setZone] = useState('');
  const seen = goes.find((g) => placeKey(g.place) === zone) ?? goes[0];
  const { inputs, unsaved, edit } = useDraft(desk, item);
  const [misfits, setMisfits] = useState<readonly string[]>([]);
  const onAir = isOnAir(lanes, item.key);
  const put = (parts: Partial<Item>) => void desk.act({ kind: 'put-item', item: item.key, ...parts });
  const take = () => void desk.takeItem(item);
  return (
    <aside className={`${shell['side']} ${css['side']}`} aria-label="Item">
      <section className={shell['panel']} aria-label="Preview">
        {seen && template ? (
          <>
            <div className={css['preview']}>
              <Preview
                desk={desk}
                template={template}
                zone={seen.zone}
                inputs={inputs}
                pictureHeight={seen.output.height}
                onFit={setMisfits}
              />
            </div>
            {goes.length > 1 && (
              <select
                aria-label="Previewed in"
                value={placeKey(seen.place)}
                onChange={(e) => setZone(e.target.value)}
              >
                {goes.map((g) => (
                  <option key={placeKey(g.place)} value={placeKey(g.place)}>
                    {placeName(documents.output, g.place)}
                  </option>
                ))}
              </select>
            )}
            <Warnings
              desk={desk}
              zone={seen.zone}
              template={template}
              inputs={inputs}
              misfits={misfits}
              all
            />
          </>
        ) : (
          <p className={shell['dim']}>
            {template ? 'It goes to no zone yet.' : 'Its template is missing: it cannot be shown.'}
          </p>
        )}
        <p className={shell['fields']}>
          <Button main={!onAir} disabled={!seen} onClick={take}>
            {onAir ? 'Take again' : 'Take'}
          </Button>
          <Button
            disabled={!seen}
            onClick={() => void desk.act({ kind: 'next', item: item.key })}
            data-tip="In all lanes that it goes to"
          >
            Put next
          </Button>
          <Button disabled={!onAir} onClick={() => void desk.act({ kind: 'clear', item: item.key })}>
            Clear
          </Button>
          {unsaved && <span className={shell['dim']}>saving…</span>}
        </p>
      </section>
      <section className={shell['panel']} aria-label="What it is">
        <label className={css['named']}>
          Name
          <TextBox value={item.name} most={80} needed onChange={(name) => put({ name })} />
        </label>
        <NumberField
          label="Number"
          value={item.number}
          min={1}
          max={MOST_NUMBER}
          size={6}
          onChange={(number) => put({ number })}
        />
      </section>
      {template && seen && template.inputs.length > 0 && (
        <section className={`${shell['panel']} ${css['inputs']}`} aria-label="Inputs">
          <InputForm
            desk={desk}
            template={template}
            layout={seen.layout}
            inputs={inputs}
            onEdit={edit}
            onTake={take}
          />
        </section>
      )}
      <Zones
        outputs={documents.output}
        template={template}
        zones={item.zones}
        onZones={(change) => void changeZones(desk, [item.key], change)}
      />
      <section className={shell['panel']} aria-label="By itself">
        <NumberField
          label="Goes off after"
          unit="s"
          value={item.length}
          min={0.5}
          max={LONGEST}
          decimals={1}
          placeholder="–"
          onChange={(length) => put({ length })}
          onEmpty={() => put({ length: null })}
        />
        <label className={css['named']}>
          Then follows
          <select value={item.follows ?? ''} onChange={(e) => put({ follows: e.target.value || null })}>
            <option value="">nothing</option>
            {items
              .filter((i) => i.key !== item.key)
              .map((i) => (
                <option key={i.key} value={i.key}>
                  {i.number} {i.name}
                </option>
              ))}
          </select>
        </label>
        <label className={css['named']}>
          Key on the live view
          <select value={item.hotkey} onChange={(e) => put({ hotkey: e.target.value })}>
            <option value="">none</option>
            {HOT_KEYS.map((key) => {
              const other =
                items.find((i) => i.hotkey === key && i.key !== item.key) ??
                documents.look.find((l) => l.hotkey === key);
              return (
                <option key={key} value={key} disabled={other !== undefined}>
                  {key}
                  {other && `: ${other.name}`}
                </option>
              );
            })}
          </select>
        </label>
        <label className={css['named']}>
          Note
          <TextBox value={item.note} most={2000} lines={3} onChange={(note) => put({ note })} />
        </label>
      </section>
      <p className={shell['fields']}>
        <Button onClick={onDuplicate}>Duplicate</Button>
        <ConfirmButton
          label="Delete…"
          disabled={onAir}
          says={onAir ? 'It is on air.' : `${item.name} goes, and what is filled in.`}
          onYes={() => void desk.act({ kind: 'remove-item', item: item.key })}
        />
      </p>
    </aside>
  );
}
