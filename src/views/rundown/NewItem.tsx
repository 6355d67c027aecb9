import { useState } from 'react';
import { placementOf } from '../../core/show/item-state.ts';
import type { Place } from '../../core/show/item.ts';
import type { Group } from '../../core/show/rundown.ts';
import { freshKey } from '../../core/text/keys.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { Refused } from '../shared/Said.tsx';
import type { Seen } from '../shared/View.tsx';
import { GroupChoice, TemplateChoice } from './choices.tsx';
import { Zones } from './Zones.tsx';
import css from './RundownView.module.css';

/** The zones of a template's own sizes: where its items go as long as nobody says otherwise. */
export function usualZones({ snapshot, template }: Pick<Seen, 'snapshot'> & { template: string }): Place[] {
  const { template: templates, output: outputs } = snapshot.documents;
  const of = templates.find((t) => t.key === template);
  const all = outputs.flatMap((o) => o.zones.map((z) => ({ output: o.key, zone: z.key })));
  const own = of ? placementOf(all, of, outputs).filter((g) => g.fit.how === 'own') : [];
  return own.slice(0, 1).map((g) => g.place);
}

/** A new item: of which template, what it is called, where it goes, in which group. */
export function NewItem({
  desk,
  snapshot,
  groups,
  onMade,
  onClose,
}: Seen & { groups: readonly Group[]; onMade: (key: string) => void; onClose: () => void }) {
  const { template: templates, output: outputs, item: items } = snapshot.documents;
  const [template, setTemplate] = useState(templates[0]?.key ?? '');
  const of = templates.find((t) => t.key === template);
  const [name, setName] = useState('');
  const [zones, setZones] = useState<Place[]>(() => usualZones({ snapshot, template }));
  const [group, setGroup] = useState(groups[0]?.key ?? '');
  const called = name.trim() || of?.name || '';
  const make = async () => {
    const key = freshKey(called, (k) => items.some((i) => i.key === k), 'item');
    const answer = await desk.act({
      kind: 'put-item',
      item: key,
      name: called,
      template,
      zones,
      ...(group ? { group } : {}),
    });
    if (!answer.ok) return;
    onMade(key);
    onClose();
  };
  return (
    <Dialog
      title="New item"
      onClose={onClose}
      actions={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button main type="submit" form="new-item" disabled={!of}>
            Make it
          </Button>
        </>
      }
    >
      <form
        id="new-item"
        className={css['form']}
        onSubmit={(event) => {
          event.preventDefault();
          void make();
        }}
      >
        {templates.length === 0 && <p>There is no template yet. Draw one in Templates first.</p>}
        <TemplateChoice
          templates={templates}
          chosen={template}
          onChoose={(key) => {
            setTemplate(key);
            setZones(usualZones({ snapshot, template: key }));
          }}
        />
        <label className={css['named']}>
          Name
          <input
            autoFocus
            value={name}
            maxLength={80}
            placeholder={of?.name}
            onChange={(e) => setName(e.target.value)}
          />
        </label>
        <GroupChoice groups={groups} chosen={group} onChoose={setGroup} />
        <Zones outputs={outputs} template={of} zones={zones} onZones={setZones} />
        <Refused desk={desk} />
      </form>
    </Dialog>
  );
}
