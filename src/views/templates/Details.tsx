import type { Template } from '../../core/documents/template.ts';
import { Button } from '../../ui/Button.tsx';
import { downloadJson } from '../../ui/download.ts';
import { ConfirmButton } from '../../ui/ConfirmButton.tsx';
import shell from '../shared/View.module.css';
import css from './TemplatesView.module.css';

/** What one template of the library is, and what can be done with it. */
export function Details({
  template,
  items,
  onAir,
  versions,
  make,
  onOpen,
  onRename,
  folders,
  onFolder,
  onDuplicate,
  onDelete,
}: {
  template: Template;
  /** What is made of it, and where that goes. */
  items: readonly { name: string; place: string }[];
  onAir: string[];
  versions: React.ReactNode;
  make: React.ReactNode;
  onOpen: () => void;
  onRename: (name: string) => void;
  /** The folders that are there. */
  folders: readonly string[];
  onFolder: (folder: string) => void;
  onDuplicate: () => void;
  onDelete: () => void;
}) {
  return (
    <div className={css['details']}>
      <label>
        Name
        <input
          key={template.name}
          defaultValue={template.name}
          maxLength={80}
          onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
          onBlur={(e) => {
            const name = e.target.value.trim();
            if (!name) e.target.value = template.name;
            else if (name !== template.name) onRename(name);
          }}
        />
      </label>
      <label>
        Folder
        <input
          key={template.folder}
          defaultValue={template.folder ?? ''}
          maxLength={80}
          placeholder="none"
          list="template-folders"
          onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
          onBlur={(e) => {
            const folder = e.target.value.trim();
            if (folder !== (template.folder ?? '')) onFolder(folder);
          }}
        />
        <datalist id="template-folders">
          {folders.map((f) => (
            <option key={f} value={f} />
          ))}
        </datalist>
      </label>
      <Button main onClick={onOpen}>
        Open in the workshop
      </Button>
      {onAir.length > 0 && <p className={shell['refused']}>On air now: {onAir.join('; ')}.</p>}
      <dl className={css['facts']}>
        <dt>Layouts</dt>
        <dd>{template.layouts.map((l) => `${l.key} ${l.width} × ${l.height}`).join(', ')}</dd>
        <dt>Inputs</dt>
        <dd>{template.inputs.map((i) => i.label).join(', ') || 'none'}</dd>
        <dt>Used by</dt>
        {items.map(({ name, place }, i) => (
          <dd key={i} className={css['use']}>
            {name} <span>{place}</span>
          </dd>
        ))}
        {items.length === 0 && <dd>no item</dd>}
      </dl>
      {make}
      <div className={css['buttons']}>
        <Button onClick={onDuplicate}>Duplicate</Button>
        <Button onClick={() => downloadJson(template, `${template.key}.json`)}>Export</Button>
        {versions}
        <ConfirmButton disabled={items.length > 0} says={`${template.name} is deleted.`} onYes={onDelete} />
      </div>
      {items.length > 0 && <p className={shell['dim']}>It can be deleted once no item uses it.</p>}
    </div>
  );
}
