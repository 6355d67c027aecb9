import { useState } from 'react';
import type { Background, Output, Zone } from '../../core/show/show.ts';
import { placesIn } from '../../core/show/item.ts';
import { MOST_LEAD, MOST_SIDE } from '../../core/show/zones.ts';
import type { MediaEntry } from '../../core/media/media.ts';
import { Button } from '../../ui/Button.tsx';
import { laterDialog } from '../../ui/Later.tsx';
import { NumberField } from '../../ui/NumberField.tsx';
import { ConfirmButton } from '../../ui/ConfirmButton.tsx';
import { Switch } from '../../ui/Switch.tsx';
import { SizeFields } from '../shared/SizeFields.tsx';
import type { DocumentSession } from '../shared/document-session.ts';
import type { Seen } from '../shared/View.tsx';
import shell from '../shared/View.module.css';
import { itemName } from '../shared/rundown.ts';
import { Addresses } from './Addresses.tsx';
import { Divide } from './Divide.tsx';
import css from './OutputsView.module.css';

const PictureDialog = laterDialog(() => import('../shared/PictureDialog.tsx').then((m) => m.PictureDialog));

/** What an output is as a whole, how it is divided, and where its picture is fetched. */
export function Side({
  desk,
  snapshot,
  work,
  saved,
  airing,
  zone,
  onZones,
}: Seen & {
  work: DocumentSession<Output>;
  saved: Output;
  /** The items that are on air there, by zone. */
  airing: ReadonlyMap<string, string>;
  /** The zone that is chosen. */
  zone: Zone | null;
  onZones: (text: string, zones: Zone[]) => void;
}) {
  const { doc: output, change } = work;
  const carded = snapshot.cards.includes(saved.key);
  const card = (on: boolean) => void desk.act({ kind: 'test-card', output: saved.key, on });
  return (
    <aside className={shell['side']} aria-label="Output">
      <section className={shell['panel']} aria-label="The output">
        <label className={css['named']}>
          Name
          <input
            value={output.name}
            maxLength={80}
            onChange={(e) => change('Renamed it', (draft) => void (draft.name = e.target.value), 'name')}
            onBlur={work.end}
          />
        </label>
        <span onBlur={work.end}>
          <SizeFields
            size={output}
            most={MOST_SIDE}
            of="the output"
            onSize={(size) => change('Changed its size', (draft) => void Object.assign(draft, size), 'size')}
          />
        </span>
        <span onBlur={work.end}>
          <NumberField
            label="Lead for takes"
            unit="ms"
            value={output.lead}
            min={0}
            max={MOST_LEAD}
            onChange={(lead) => change('Changed the lead', (draft) => void (draft.lead = lead), 'lead')}
          />
        </span>
        <p className={shell['dim']}>
          {output.lead === 0
            ? 'Each page shows a take as soon as it hears of it. With a lead, all pages show it at the same moment.'
            : `A take shows ${output.lead} ms after the key, on all pages at the same moment.`}
        </p>
        <Switch
          on={output.venue}
          onChange={(venue) =>
            change(
              venue ? 'Made it a board in the venue' : 'Made it no board in the venue',
              (draft) => void (draft.venue = venue),
            )
          }
        >
          A board in the venue: nothing on it moves while it is quiet
        </Switch>
        <BackgroundChoice
          desk={desk}
          media={snapshot.media}
          background={output.background}
          onChange={(background) =>
            change('Changed the background', (draft) => void (draft.background = background), 'background')
          }
        />
      </section>
      <Divide
        output={output}
        zone={zone}
        usedBy={(key) => {
          const at = { output: output.key, zone: key };
          const item = airing.get(key) ?? snapshot.documents.item.find((i) => placesIn(i, at))?.key;
          return item === undefined ? null : itemName(snapshot.documents.item, item);
        }}
        onZones={onZones}
      />
      <section className={shell['panel']} aria-label="Test card">
        <b>Test card</b>
        {carded ? (
          <Button main onClick={() => card(false)}>
            Take it off
          </Button>
        ) : airing.size ? (
          <ConfirmButton
            label="Show it…"
            yes="Show it"
            no="Leave it"
            says={`It covers all that is on air on ${saved.name}.`}
            onYes={() => card(true)}
          />
        ) : (
          <Button onClick={() => card(true)}>Show it</Button>
        )}
      </section>
      <Addresses output={saved} pages={snapshot.pages.filter((p) => p.output === saved.key)} />
      <ConfirmButton
        label="Delete the output…"
        says="Its zones go with it."
        disabled={snapshot.documents.output.length === 1}
        onYes={() => void desk.act({ kind: 'remove-document', what: 'output', key: saved.key })}
      />
    </aside>
  );
}

const BACKGROUNDS: readonly (readonly [Background['kind'], string])[] = [
  ['transparent', 'Transparent'],
  ['colour', 'A colour'],
  ['media', 'A picture or clip'],
  ['camera', 'Stand-in camera'],
];

function BackgroundChoice({
  desk,
  media,
  background,
  onChange,
}: Pick<Seen, 'desk'> & {
  media: readonly MediaEntry[];
  background: Background;
  onChange: (background: Background) => void;
}) {
  const [choosing, setChoosing] = useState(false);
  const become = (kind: Background['kind']) => {
    if (kind === 'media') setChoosing(true);
    else onChange(kind === 'colour' ? { kind, colour: '#101418' } : { kind });
  };
  return (
    <div className={css['named']}>
      <label className={css['named']}>
        Background
        <select value={background.kind} onChange={(e) => become(e.target.value as Background['kind'])}>
          {BACKGROUNDS.map(([kind, name]) => (
            <option key={kind} value={kind} disabled={kind === 'media' && media.length === 0}>
              {name}
            </option>
          ))}
        </select>
      </label>
      {background.kind === 'colour' && (
        <label>
          Colour{' '}
          <input
            type="color"
            value={background.colour}
            onChange={(e) => onChange({ kind: 'colour', colour: e.target.value })}
          />
        </label>
      )}
      {background.kind === 'media' && (
        <Button onClick={() => setChoosing(true)}>
          {background.path}
          {desk.picture(background.path) === null && ' is missing'}
        </Button>
      )}
      {choosing && (
        <PictureDialog
          library={desk.media}
          path={background.kind === 'media' ? background.path : ''}
          onChoose={(entry) => {
            setChoosing(false);
            onChange({ kind: 'media', path: entry.path });
          }}
          onClose={() => setChoosing(false)}
        />
      )}
    </div>
  );
}
