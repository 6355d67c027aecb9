import { useMemo, useState } from 'react';
import Papa from 'papaparse';
import { headingRow } from '../../core/tree/sheet.ts';
import {
  matchTargets,
  planFill,
  targetsOf,
  type Filled,
  type From,
  type Target,
  type WhenPresent,
} from '../../core/show/fill.ts';
import type { Place } from '../../core/show/item.ts';
import { placed, placedByName, type Group } from '../../core/show/rundown.ts';
import { counted } from '../../core/text/words.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { useKnown } from '../shared/use-desk.ts';
import { Refused } from '../shared/Said.tsx';
import type { Seen } from '../shared/View.tsx';
import { GroupChoice, TemplateChoice } from './choices.tsx';
import { usualZones } from './NewItem.tsx';
import { Zones } from './Zones.tsx';
import css from './RundownView.module.css';

interface Sheet {
  headings: string[];
  rows: string[][];
}

/** What was pasted out of a sheet, as rows below their headings; tabs or commas between. */
function readPasted(text: string): Sheet {
  const { data } = Papa.parse<string[]>(text.trim(), { skipEmptyLines: 'greedy' });
  const at = headingRow(data.map((row) => row.map((shows) => ({ shows }))));
  const [headings = [], ...rows] = data.slice(Math.max(0, at));
  return { headings, rows };
}

const KINDS: Record<Filled['kind'], string> = {
  new: 'New',
  changed: 'Changed',
  same: 'No change',
  left: 'Left as it is',
  refused: 'Refused',
};

/** Items from rows: of a table of the board, or pasted out of a sheet; one for each row. */
export function FillDialog({
  desk,
  snapshot,
  groups,
  onClose,
}: Seen & { groups: readonly Group[]; onClose: () => void }) {
  const { template: templates, output: outputs, item: items, look: looks } = snapshot.documents;
  const tables = useKnown(desk, 'tables');
  const [table, setTable] = useState(tables.find((t) => t.key === 'home.players')?.key ?? '');
  const [pasted, setPasted] = useState('');
  const [template, setTemplate] = useState(() => {
    // The template that most of the columns are for.
    const columns = tables.find((t) => t.key === table)?.columns ?? [];
    const filled = (t: (typeof templates)[number]) =>
      [...matchTargets(columns, t).keys()].filter((k) => k.startsWith('input ')).length;
    return [...templates].sort((a, b) => filled(b) - filled(a))[0]?.key ?? '';
  });
  const of = templates.find((t) => t.key === template);
  const [zones, setZones] = useState<Place[]>(() => usualZones({ snapshot, template }));
  const [group, setGroup] = useState(groups[0]?.key ?? '');
  const [there, setThere] = useState<WhenPresent>('change');
  const [said, setSaid] = useState<ReadonlyMap<Target, From | null>>(new Map());

  const sheet: Sheet = useMemo(() => {
    if (table === '') return readPasted(pasted);
    const found = tables.find((t) => t.key === table);
    if (!found) return { headings: [], rows: [] };
    const { columns, rows } = found;
    return {
      // A row's own key is no key of the live view.
      headings: ['row', ...columns],
      rows: rows.map(([key, row]) => [key, ...columns.map((c) => String(row[c] ?? ''))]),
    };
  }, [table, tables, pasted]);
  const headings = sheet.headings.join('\0');
  const matched = useMemo(
    () => (of ? matchTargets(headings.split('\0'), of) : new Map<Target, From>()),
    [headings, of],
  );
  const from = useMemo(() => {
    const all = new Map<Target, From>(matched);
    for (const [target, at] of said) {
      if (at) all.set(target, at);
      else all.delete(target);
    }
    return all;
  }, [matched, said]);
  const plan = useMemo(
    () =>
      of &&
      planFill({
        ...{ rows: sheet.rows, headings: sheet.headings, from, template: of, zones, items, there, templates },
        zonesOf: (key) => usualZones({ snapshot, template: key }),
        keys: new Map(looks.map((l) => [l.hotkey, l.name])),
      }),
    [of, sheet, from, zones, items, there, templates, looks, snapshot],
  );
  const set = (target: Target, at: From | null) => setSaid(new Map(said).set(target, at));
  const make = async () => {
    if (!plan || plan.items.length === 0) return;
    const fresh = plan.items.filter((i) => !items.some((was) => was.key === i.key)).map((i) => i.key);
    const loose = fresh.filter((key) => !plan.groups.has(key));
    const into = placedByName(group ? placed(groups, loose, group) : groups, plan.groups);
    const answer = await desk.act({
      kind: 'put-items',
      only: [
        ...(['number', 'inputs', 'note'] as const),
        ...(from.has('length') ? (['length'] as const) : []),
        ...(from.has('hotkey') ? (['hotkey'] as const) : []),
      ],
      items: plan.items,
      ...(plan.groups.size || (group && loose.length) ? { groups: into } : {}),
    });
    if (answer.ok) onClose();
  };
  return (
    <Dialog
      wide
      title="Items from rows"
      onClose={onClose}
      actions={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button main disabled={!plan || plan.items.length === 0} onClick={() => void make()}>
            {plan?.items.length ? `Make ${counted(plan.items.length, 'item')}` : 'Make items'}
          </Button>
        </>
      }
    >
      <div className={css['form']}>
        <div className={css['columns']}>
          <label className={css['named']}>
            Rows
            <select value={table} onChange={(e) => setTable(e.target.value)}>
              <option value="">pasted here</option>
              {tables.map((t) => (
                <option key={t.key} value={t.key}>
                  {t.name} ({t.rows.length})
                </option>
              ))}
            </select>
          </label>
          <TemplateChoice
            templates={templates}
            chosen={template}
            onChoose={(key) => {
              setTemplate(key);
              setZones(usualZones({ snapshot, template: key }));
              setSaid(new Map());
            }}
          />
          <GroupChoice groups={groups} chosen={group} onChoose={setGroup} />
          <label className={css['named']} data-tip="An item of the same template and name is there already">
            If the item is there already
            <select value={there} onChange={(e) => setThere(e.target.value as WhenPresent)}>
              <option value="change">change it</option>
              <option value="leave">leave it as it is</option>
              <option value="again">make another one</option>
            </select>
          </label>
        </div>
        {table === '' && (
          <textarea
            aria-label="Pasted rows"
            placeholder="Paste rows out of a sheet here, the headings first."
            value={pasted}
            onChange={(e) => setPasted(e.target.value)}
          />
        )}
        {of && sheet.headings.length > 0 && (
          <div className={css['columns']}>
            {targetsOf(of).map(({ target, label }) => (
              <Column
                key={target}
                label={label}
                headings={sheet.headings}
                at={from.get(target) ?? null}
                choices={of.inputs.find((d) => `input ${d.key}` === target)?.choices ?? []}
                onAt={(at) => set(target, at)}
              />
            ))}
          </div>
        )}
        <Zones outputs={outputs} template={of} zones={zones} onZones={setZones} />
        {plan && plan.rows.length > 0 && (
          <div className={css['rows']} role="region" aria-label="What becomes of the rows" tabIndex={0}>
            <table>
              <tbody>
                {plan.rows.map((row, i) => (
                  <tr key={i} data-kind={row.kind}>
                    <td>{KINDS[row.kind]}</td>
                    <td>{row.name}</td>
                    <td>{row.says}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        )}
        <Refused desk={desk} />
      </div>
    </Dialog>
  );
}

/** Where one thing of each item comes from: a column, or one text for all. */
function Column({
  label,
  headings,
  at,
  choices,
  onAt,
}: {
  label: string;
  headings: readonly string[];
  at: From | null;
  choices: readonly { value: string; label: string }[];
  onAt: (at: From | null) => void;
}) {
  const chosen = at === null ? '' : 'column' in at ? String(at.column) : 'text';
  return (
    <label className={css['named']}>
      {label}
      <select
        value={chosen}
        onChange={(e) => {
          const to = e.target.value;
          onAt(to === '' ? null : to === 'text' ? { text: choices[0]?.value ?? '' } : { column: Number(to) });
        }}
      >
        <option value="">as in a new item</option>
        {headings.map((h, i) => (
          <option key={i} value={i}>
            column {h || i + 1}
          </option>
        ))}
        <option value="text">the same for all…</option>
      </select>
      {at !== null &&
        'text' in at &&
        (choices.length ? (
          <select
            aria-label={`${label} for all`}
            value={at.text}
            onChange={(e) => onAt({ text: e.target.value })}
          >
            {choices.map((c) => (
              <option key={c.value} value={c.value}>
                {c.label}
              </option>
            ))}
          </select>
        ) : (
          <input
            aria-label={`${label} for all`}
            value={at.text}
            onChange={(e) => onAt({ text: e.target.value })}
          />
        ))}
    </label>
  );
}
