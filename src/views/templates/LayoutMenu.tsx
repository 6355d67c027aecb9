import { useState } from 'react';
import type { Template } from '../../core/documents/template.ts';
import type { Layout } from '../../core/layers/kinds.ts';
import type { Output } from '../../core/show/show.ts';
import { scaledLayout } from '../../core/workshop/layouts.ts';
import { unshown } from '../../core/workshop/inputs.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { ConfirmButton } from '../../ui/ConfirmButton.tsx';
import { freshKey } from '../../core/text/keys.ts';
import { SizeChoice, SizeFields } from '../shared/SizeFields.tsx';
import { sizesOf } from '../shared/zones.ts';
import css from './LayoutMenu.module.css';

/** The layouts of a template: what each lacks, new ones, made from the one that is worked at or from nothing. */
export function LayoutMenu({
  template,
  layout,
  outputs,
  onAdd,
  onSize,
  onRemove,
  onChoose,
  onClose,
}: {
  template: Template;
  layout: Layout;
  outputs: readonly Output[];
  onAdd: (made: Layout) => void;
  onSize: (width: number, height: number) => void;
  onRemove: () => void;
  onChoose: (key: string) => void;
  onClose: () => void;
}) {
  const [name, setName] = useState('');
  const [from, setFrom] = useState<'scaled' | 'nothing'>('scaled');
  const [size, setSize] = useState({ width: layout.width, height: layout.height });
  const add = () => {
    const key = freshKey(
      name,
      template.layouts.map((l) => l.key),
      'layout',
    );
    onAdd(from === 'scaled' ? scaledLayout(layout, { key, ...size }) : { key, ...size, layers: [] });
    setName('');
  };
  return (
    <Dialog title="Layouts" onClose={onClose} actions={<Button onClick={onClose}>Close</Button>}>
      <div className={css['layouts']}>
        <p>All layouts have the same inputs. A zone takes the one that is nearest to its size.</p>
        <ul>
          {template.layouts.map((l) => {
            const lacking = unshown(template, l);
            return (
              <li key={l.key} data-layout={l.key}>
                <Button aria-pressed={l.key === layout.key} onClick={() => onChoose(l.key)}>
                  {l.key}
                </Button>
                <span>
                  {l.width} × {l.height} px
                </span>
                {lacking.length > 0 && <small>shows nothing of: {lacking.join(', ')}</small>}
              </li>
            );
          })}
        </ul>
        <fieldset>
          <legend>{layout.key}</legend>
          <SizeFields size={layout} onSize={(s) => onSize(s.width, s.height)} />
          <ConfirmButton
            disabled={template.layouts.length < 2}
            says={`The layout ${layout.key} is deleted.`}
            onYes={onRemove}
          />
        </fieldset>
        <form
          aria-label="New layout"
          onSubmit={(event) => {
            event.preventDefault();
            event.stopPropagation();
            add();
          }}
        >
          <fieldset>
            <legend>New layout</legend>
            <label>
              Name
              <input
                value={name}
                maxLength={60}
                placeholder="layout"
                onChange={(e) => setName(e.target.value)}
              />
            </label>
            <label>
              Made from
              <select value={from} onChange={(e) => setFrom(e.target.value as typeof from)}>
                <option value="scaled">{layout.key}, scaled</option>
                <option value="nothing">nothing</option>
              </select>
            </label>
            <SizeChoice usual={sizesOf(outputs)} size={size} onSize={setSize} />
            <Button type="submit" main>
              Add
            </Button>
          </fieldset>
        </form>
      </div>
    </Dialog>
  );
}
