import ChevronDown from 'lucide-react/icons/chevron-down';
import ChevronUp from 'lucide-react/icons/chevron-up';
import Plus from 'lucide-react/icons/plus';
import X from 'lucide-react/icons/x';
import { Fragment, useRef, useState } from 'react';
import { parseProfile, type FieldDef, type SportProfile } from '../../core/sport/profile.ts';
import { freshKey } from '../../core/text/keys.ts';
import { Button } from '../../ui/Button.tsx';
import { useSearch } from '../../ui/search.tsx';
import { Time } from '../shared/TimeInput.tsx';
import type { Desk, Prepared } from '../shared/desk.ts';
import { Limits } from './Limits.tsx';
import { downloadJson } from '../../ui/download.ts';
import {
  FIELD_KINDS,
  GROUPS,
  fieldOfKind,
  losses,
  namedForSide,
  newField,
  ownFields,
  partnerOf,
  problemsOf,
  type FieldKind,
  withRenamed,
} from './sport.ts';
import { ValidatedForm, FieldError } from '../shared/ValidatedForm.tsx';
import { useEditing } from '../shared/editing.ts';
import { SavedElsewhere } from '../shared/SavedElsewhere.tsx';
import { VersionsButton } from '../shared/Versions.tsx';
import { NumberField } from '../../ui/NumberField.tsx';
import shell from '../shared/View.module.css';
import css from './SportEditor.module.css';

interface Props {
  desk: Desk;
  snapshot: Prepared;
  /** What is edited; one that no profile has the key of is a new one. */
  profile: SportProfile;
  onSaved: (key: string) => void;
  onClose: () => void;
}

const read = (sport: SportProfile) => Promise.resolve(parseProfile(sport));

/** A sport: its periods, its fields with their limits. What is worked out of them is edited with all other data. */
export function SportEditor({ desk, snapshot, profile, onSaved, onClose }: Props) {
  const [refused, setRefused] = useState('');
  const search = useSearch('Find a field');
  /** The field that was added last: its name is to be typed at once. */
  const [fresh, setFresh] = useState<string | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const current = () => desk.store.getState().desk?.documents.profile.find((p) => p.key === profile.key);
  const saved = snapshot.documents.profile.find((p) => p.key === profile.key);
  const editing = useEditing({
    ...{ desk, kind: 'profile', key: profile.key, saved: saved ?? profile, current },
    isNew: saved === undefined,
    read,
  });
  const { draft, dirty, set: setDraft } = editing;
  const set = (part: Partial<SportProfile>) => setDraft({ ...draft, ...part });
  const periods = (part: Partial<SportProfile['periods']>) => set({ periods: { ...draft.periods, ...part } });
  const own = ownFields(draft);
  const common = draft.fields.filter((f) => !own.includes(f));
  const put = (fields: FieldDef[]) => set({ fields: [...fields, ...common] });
  const change = (was: FieldDef, next: FieldDef | null) =>
    put(own.flatMap((f) => (f === was ? (next ? [next] : []) : [f])));
  const move = (field: FieldDef, by: -1 | 1) => {
    const at = own.indexOf(field);
    const next = [...own];
    [next[at], next[at + by]] = [next[at + by]!, next[at]!];
    put(next);
  };
  const keys = draft.fields.map((f) => f.key);
  const add = (...groups: FieldDef['group'][]) => {
    const added = groups.map((g) => newField('New field', g, keys));
    put([...own, ...added]);
    setFresh(added[0]!.key);
    search.clear();
  };
  const before = new Set(profile.fields.map((f) => f.key));
  const isNew = (key: string) => !before.has(key);
  const shown = own.filter((f) => search.finds(f.label, f.key, f.group, FIELD_KINDS[f.kind] ?? ''));
  const problems = problemsOf(draft);
  const gone = losses(profile, draft, snapshot);
  const user = snapshot.documents.game.find((g) => g.profile === profile.key);
  const save = async (over = false) => {
    const others = snapshot.documents.profile.map((p) => p.key);
    // The key of a new one follows its name until it is saved.
    const key = others.includes(profile.key) ? draft.key : freshKey(draft.name, others, 'sport');
    const put = (body: SportProfile) =>
      ({ kind: 'put-document', what: 'profile', body: { ...body, key } }) as const;
    const answer = await editing.save(put, over);
    if (!answer.ok) return setRefused(answer.clash ? '' : answer.text);
    onSaved(key);
  };
  const bring = async (chosen: File) => {
    try {
      const read = parseProfile(JSON.parse(await chosen.text()));
      if (!read.ok) return setRefused(`${chosen.name} is no sport: ${read.problems.slice(0, 3).join('; ')}.`);
      setRefused('');
      setDraft({ ...read.value, key: draft.key });
    } catch {
      setRefused(`${chosen.name} is not JSON.`);
    }
  };
  return (
    <ValidatedForm editing={editing}>
      <div className={shell['editor']}>
        <div className={css['head']}>
          <header className={shell['bar']}>
            <h2>{draft.name || 'A sport'}</h2>
            <Button main={dirty} disabled={!dirty || problems.length > 0} onClick={() => void save()}>
              Save the sport
            </Button>
            <Button onClick={onClose}>Cancel</Button>
            <Button onClick={() => downloadJson(draft, `${draft.key}.json`)}>Export</Button>
            <Button onClick={() => file.current?.click()}>Import…</Button>
            {saved && (
              <VersionsButton
                {...{ desk, kind: 'profile', documentKey: saved.key, name: saved.name, now: saved }}
              />
            )}
            {saved && !user && (
              <Button
                onClick={() =>
                  void desk
                    .act({ kind: 'remove-document', what: 'profile', key: profile.key })
                    .then((a) => (a.ok ? onClose() : setRefused(a.text)))
                }
              >
                Delete
              </Button>
            )}
            <input
              ref={file}
              type="file"
              hidden
              accept=".json,application/json"
              aria-label="Sport from a file"
              onChange={(e) => {
                const [chosen] = e.target.files ?? [];
                e.target.value = '';
                if (chosen) void bring(chosen);
              }}
            />
          </header>
          <SavedElsewhere editing={editing} onKeep={() => void save(true)} />
          {[...problems, ...(refused ? [refused] : [])].map((text) => (
            <p key={text} role="alert" className={shell['refused']}>
              {text}
            </p>
          ))}
          {gone.length > 0 && (
            <p className={css['gone']} role="status" aria-label="What goes">
              Goes with this: {gone.join('; ')}.
            </p>
          )}
        </div>
        <section className={shell['panel']} aria-label="Periods">
          <div className={shell['fields']}>
            <label>
              Sport{' '}
              <input value={draft.name} maxLength={80} onChange={(e) => set({ name: e.target.value })} />
              <FieldError at="name" />
            </label>
            <NumberField
              label="Periods"
              min={1}
              max={20}
              value={draft.periods.count}
              onChange={(count) => periods({ count })}
            />
            <Time label="each" value={draft.periods.length} onChange={(length) => periods({ length })} />
            {(
              [
                ['one is called', 'word', 9],
                ['overtime is called', 'overtime', 5],
              ] as const
            ).map(([label, part, size]) => (
              <label key={part}>
                {label}{' '}
                <input
                  value={draft.periods[part]}
                  size={size}
                  maxLength={80}
                  onChange={(e) => periods({ [part]: e.target.value })}
                />
                <FieldError at={`periods.${part}`} />
              </label>
            ))}
            <Time
              label="and takes"
              value={draft.periods.overtimeLength}
              onChange={(overtimeLength) => periods({ overtimeLength })}
            />
          </div>
        </section>
        <section className={shell['panel']} aria-label="Fields">
          <div className={shell['fields']}>
            <h2>{own.length} fields</h2>
            {search.box}
            <Button onClick={() => add('situation')}>
              <Plus size={14} /> Field
            </Button>
            <Button onClick={() => add('home', 'away')}>
              <Plus size={14} /> For both sides
            </Button>
            <Button onClick={() => add('clocks')}>
              <Plus size={14} /> Clock
            </Button>
            <span className={shell['dim']}>
              Names, colours and marks of the teams are there in every sport.
            </span>
          </div>
          <table className={css['table']}>
            <thead>
              <tr>
                <th>Called</th>
                <th>Key</th>
                <th>Stands in</th>
                <th>Kind</th>
                <th>Limits</th>
                <th />
              </tr>
            </thead>
            <tbody>
              {shown.map((field) => {
                const at = own.indexOf(field);
                const limits = <Limits field={field} clocks={own} onChange={(next) => change(field, next)} />;
                return (
                  <Fragment key={at}>
                    <tr data-field={field.key}>
                      <td>
                        <input
                          value={field.label}
                          maxLength={80}
                          aria-label={`Name of field ${at + 1}`}
                          autoFocus={field.key === fresh}
                          onFocus={(e) => field.key === fresh && e.target.select()}
                          onChange={(e) => put(withRenamed(own, field, e.target.value, { keys, isNew }))}
                          onBlur={() => {
                            const { group, label } = field;
                            if (!partnerOf(field, own, isNew) || (group !== 'home' && group !== 'away'))
                              return;
                            const called = namedForSide(label, group);
                            if (called !== label) put(withRenamed(own, field, called, { keys, isNew }));
                          }}
                        />
                      </td>
                      <td>
                        <input
                          className={css['key']}
                          value={field.key}
                          maxLength={80}
                          aria-label={`Key of ${field.label}`}
                          onChange={(e) => change(field, { ...field, key: e.target.value })}
                        />
                      </td>
                      <td>
                        <select
                          value={field.group}
                          aria-label={`Group of ${field.label}`}
                          onChange={(e) =>
                            change(field, { ...field, group: e.target.value as FieldDef['group'] })
                          }
                        >
                          {Object.keys(GROUPS).map((g) => (
                            <option key={g}>{g}</option>
                          ))}
                        </select>
                      </td>
                      <td>
                        <select
                          value={field.kind}
                          aria-label={`Kind of ${field.label}`}
                          onChange={(e) => change(field, fieldOfKind(e.target.value as FieldKind, field))}
                        >
                          {Object.entries(FIELD_KINDS).map(([k, name]) => (
                            <option key={k} value={k}>
                              {name}
                            </option>
                          ))}
                        </select>
                      </td>
                      <td className={css['limits']}>
                        {field.kind === 'clock' ? <span className={css['below']}>below</span> : limits}
                      </td>
                      <td className={css['do']}>
                        <button
                          type="button"
                          className={shell['out']}
                          disabled={at === 0 || search.active}
                          aria-label={`${field.label} up`}
                          onClick={() => move(field, -1)}
                        >
                          <ChevronUp size={14} />
                        </button>
                        <button
                          type="button"
                          className={shell['out']}
                          disabled={at === own.length - 1 || search.active}
                          aria-label={`${field.label} down`}
                          onClick={() => move(field, 1)}
                        >
                          <ChevronDown size={14} />
                        </button>
                        <button
                          type="button"
                          className={shell['out']}
                          aria-label={`Remove ${field.label}`}
                          onClick={() => change(field, null)}
                        >
                          <X size={14} />
                        </button>
                      </td>
                    </tr>
                    {field.kind === 'clock' && (
                      <tr className={css['more']}>
                        <td colSpan={6} className={css['limits']}>
                          {limits}
                        </td>
                      </tr>
                    )}
                  </Fragment>
                );
              })}
            </tbody>
          </table>
          {shown.length === 0 && <p className={shell['dim']}>No field matches.</p>}
        </section>
        {draft.derived.length > 0 && (
          <section className={shell['panel']} aria-label="Calculated">
            <h2>Calculated from them</h2>
            <p className={shell['dim']}>
              {draft.derived.map((d) => d.name).join(', ')}. <a href="/data">Look at them under Data</a>.
            </p>
          </section>
        )}
      </div>
    </ValidatedForm>
  );
}
