import type { Template } from '../../core/documents/template.ts';
import type { Group } from '../../core/show/rundown.ts';
import css from './RundownView.module.css';

/** Which template it is made of. */
export const TemplateChoice = ({
  templates,
  chosen,
  onChoose,
}: {
  templates: readonly Pick<Template, 'key' | 'name'>[];
  chosen: string;
  onChoose: (key: string) => void;
}) => (
  <label className={css['named']}>
    Template
    <select value={chosen} onChange={(e) => onChoose(e.target.value)}>
      {templates.map((t) => (
        <option key={t.key} value={t.key}>
          {t.name}
        </option>
      ))}
    </select>
  </label>
);

/** The group at whose end new items stand. */
export const GroupChoice = ({
  groups,
  chosen,
  onChoose,
}: {
  groups: readonly Group[];
  chosen: string;
  onChoose: (key: string) => void;
}) => (
  <label className={css['named']}>
    Group
    <select value={chosen} onChange={(e) => onChoose(e.target.value)}>
      {groups.map((g) => (
        <option key={g.key} value={g.key}>
          {g.name}
        </option>
      ))}
      <option value="">none</option>
    </select>
  </label>
);
