import { useState } from 'react';
import { HOT_KEYS } from '../../core/show/item.ts';
import { lookOf, type Look } from '../../core/show/look.ts';
import { laneKey } from '../../core/show/show.ts';
import { freshKey } from '../../core/text/keys.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { ConfirmButton } from '../../ui/ConfirmButton.tsx';
import { TextBox } from '../../ui/TextBox.tsx';
import type { Desk, Prepared } from '../shared/desk.ts';
import { Refused } from '../shared/Said.tsx';
import { saveDocument } from '../shared/save.ts';
import shell from '../shared/View.module.css';
import { changesOf } from './looks.ts';
import css from './Looks.module.css';

/** The looks one by one: what each changes now, its name and its key; and what is on air kept as one. */
export function LooksDialog({
  desk,
  snapshot,
  onClose,
}: {
  desk: Desk;
  snapshot: Prepared;
  onClose: () => void;
}) {
  const { documents, lanes } = snapshot;
  const { look: looks, item: items } = documents;
  const [name, setName] = useState('');
  const save = (body: Look) => saveDocument(desk, 'look', body);
  const taken = (key: string, but: string) =>
    looks.some((l) => l.hotkey === key && l.key !== but) || items.some((i) => i.hotkey === key);
  const order = [...lanes].sort((a, b) => (laneKey(a) < laneKey(b) ? -1 : 1));
  return (
    <Dialog wide title="Looks" onClose={onClose} actions={<Button onClick={onClose}>Close</Button>}>
      <div className={css['dialog']}>
        <p>A look says which item stands in which zone. It puts all of them on air at one moment.</p>
        <ul aria-label="Looks">
          {looks.map((look) => {
            const { lines } = changesOf(look, snapshot);
            return (
              <li key={look.key}>
                <TextBox
                  label={`Name of ${look.name}`}
                  value={look.name}
                  most={80}
                  needed
                  onChange={(called) => void save({ ...look, name: called })}
                />
                <select
                  aria-label={`Key of ${look.name}`}
                  value={look.hotkey}
                  onChange={(e) => void save({ ...look, hotkey: e.target.value })}
                >
                  <option value="">no key</option>
                  {HOT_KEYS.map((key) => (
                    <option key={key} value={key} disabled={taken(key, look.key)}>
                      {key}
                    </option>
                  ))}
                </select>
                <Button onClick={() => void save(lookOf(look, order))}>Replace by what is on air</Button>
                <ConfirmButton
                  says={`${look.name} goes; what is on air stays.`}
                  onYes={() => void desk.act({ kind: 'remove-document', what: 'look', key: look.key })}
                />
                <small>{lines.length ? lines.join('; ') : 'All stands as it has it.'}</small>
              </li>
            );
          })}
        </ul>
        <form
          className={shell['fields']}
          onSubmit={(event) => {
            event.preventDefault();
            const called = name.trim();
            if (!called) return;
            const key = freshKey(called, (k) => looks.some((l) => l.key === k), 'look');
            void save(lookOf({ key, name: called, hotkey: '' }, order)).then((a) => a.ok && setName(''));
          }}
        >
          <input
            value={name}
            maxLength={80}
            placeholder="Name"
            aria-label="Name of the new look"
            onChange={(e) => setName(e.target.value)}
          />
          <Button type="submit" main disabled={!name.trim()}>
            Keep what is on air as a look
          </Button>
        </form>
        <Refused desk={desk} />
      </div>
    </Dialog>
  );
}
