import { useState } from 'react';
import { modelOf, usedModel } from '../../core/show/model.ts';
import type { Group, RundownModel } from '../../core/show/rundown.ts';
import { freshKey } from '../../core/text/keys.ts';
import { counted } from '../../core/text/words.ts';
import { Button } from '../../ui/Button.tsx';
import { Choice, Dialog } from '../../ui/Dialog.tsx';
import { downloadJson } from '../../ui/download.ts';
import { ConfirmButton } from '../../ui/ConfirmButton.tsx';
import { Refused } from '../shared/Said.tsx';
import type { Seen } from '../shared/View.tsx';
import shell from '../shared/View.module.css';
import { saveDocument } from '../shared/save.ts';
import css from './RundownView.module.css';

const sizeOf = (model: RundownModel) => model.groups.reduce((n, g) => n + g.items.length, 0);

/** Models of rundowns: today's is kept as one, and one is used for today; or one that was brought in as a file. */
export function ModelDialog({
  desk,
  snapshot,
  groups,
  brought,
  onClose,
}: Seen & {
  groups: readonly Group[];
  /** What was read out of a file. */
  brought: RundownModel | null;
  onClose: () => void;
}) {
  const { documents, lanes } = snapshot;
  const models = documents['rundown-model'];
  const [using, use] = useState<RundownModel | null>(brought);
  const [how, setHow] = useState<'add' | 'replace'>('replace');
  const [name, setName] = useState('');
  const keep = async () => {
    const called = name.trim();
    const same = models.find((m) => m.name === called);
    const key = same?.key ?? freshKey(called, (k) => models.some((m) => m.key === k), 'model');
    const body = modelOf({ key, name: called }, groups, documents.item);
    const answer = await saveDocument(desk, 'rundown-model', body);
    if (answer.ok) setName('');
  };
  if (using) {
    const used = usedModel(
      using,
      {
        items: documents.item,
        groups,
        templates: documents.template,
        zones: documents.output.flatMap((o) => o.zones.map((z) => ({ output: o.key, zone: z.key }))),
        onAir: new Set(lanes.flatMap((l) => l.onAir?.item ?? [])),
      },
      how,
    );
    const go = async () => {
      const answer = await desk.act({
        kind: 'put-items',
        items: used.items,
        gone: used.gone,
        groups: used.groups,
        model: using.name,
      });
      if (answer.ok) onClose();
    };
    return (
      <Dialog
        title={`Use ${using.name}`}
        onClose={onClose}
        actions={
          <>
            <Button onClick={() => (brought ? onClose() : use(null))}>{brought ? 'Cancel' : 'Back'}</Button>
            <Button main onClick={() => void go()}>
              Use it
            </Button>
          </>
        }
      >
        <div className={css['form']}>
          <Choice
            label="What is there now"
            value={how}
            options={[
              {
                value: 'replace',
                label: 'Replace it',
                hint: used.gone.length
                  ? `${counted(used.gone.length, 'item')} go; what is on air stays.`
                  : 'What is on air stays.',
              },
              { value: 'add', label: 'Add to it', hint: 'Everything that is there stays.' },
            ]}
            onChange={setHow}
          />
          <p>{counted(used.items.length, 'item')} come. One undo takes all of it back.</p>
          {used.said.length > 0 && (
            <ul className={shell['refused']}>
              {used.said.map((s) => (
                <li key={s}>{s}</li>
              ))}
            </ul>
          )}
          <Refused desk={desk} />
        </div>
      </Dialog>
    );
  }
  return (
    <Dialog title="Models" onClose={onClose} actions={<Button onClick={onClose}>Close</Button>}>
      <div className={css['form']}>
        <p>A model is a whole rundown, kept to begin another night from.</p>
        <ul className={css['models']} aria-label="Models">
          {models.map((m) => (
            <li key={m.key}>
              <span>
                {m.name} <small className={shell['dim']}>{counted(sizeOf(m), 'item')}</small>
              </span>
              <Button onClick={() => use(m)}>Use…</Button>
              <Button onClick={() => downloadJson(m, `${m.key}.json`)}>Export</Button>
              <ConfirmButton
                says={`${m.name} goes; the rundown stays.`}
                onYes={() => void desk.act({ kind: 'remove-document', what: 'rundown-model', key: m.key })}
              />
            </li>
          ))}
          {models.length === 0 && <li className={shell['dim']}>No model is kept yet.</li>}
        </ul>
        <form
          className={shell['fields']}
          onSubmit={(event) => {
            event.preventDefault();
            if (name.trim()) void keep();
          }}
        >
          <input
            value={name}
            maxLength={80}
            placeholder="Name"
            aria-label="Name of the model"
            onChange={(e) => setName(e.target.value)}
          />
          <Button type="submit" disabled={!name.trim() || documents.item.length === 0}>
            {models.some((m) => m.name === name.trim()) ? 'Replace this model' : 'Keep today’s rundown'}
          </Button>
        </form>
        <Refused desk={desk} />
      </div>
    </Dialog>
  );
}
