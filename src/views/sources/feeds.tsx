import { later } from '../../ui/Later.tsx';
import { useMemo, useState } from 'react';
import type { Scalar } from '../../core/board/values.ts';
import { suggestField } from '../../core/patch/suggest.ts';
import { readingsOf, type SourceBundle } from '../../core/source/source.ts';
import type { FieldDef } from '../../core/sport/profile.ts';
import { typedText } from '../../core/sport/typed.ts';
import type { Value } from '../../core/value/value.ts';
import { Button } from '../../ui/Button.tsx';
import { newLink, othersFeeding, readCases, withLinks, writeCases } from './draft.ts';
import { tip } from '../../ui/tip.ts';
import { NumberField } from '../../ui/NumberField.tsx';

const Trial = later(() => import('../value/Trial.tsx').then((m) => m.Trial));
const ValueEditor = later(() => import('../value/ValueEditor.tsx').then((m) => m.ValueEditor));

const GROUPS = ['clocks', 'situation', 'home', 'away'] as const;

interface Props {
  bundle: SourceBundle;
  defs: FieldDef[];
  bundles: SourceBundle[];
  onChange: (bundle: SourceBundle) => void;
  /** What a reading says now, for who makes a conversion of it. */
  nowOf: (name: string) => Scalar;
  /** What it said in the sample that was captured; undefined where none was. */
  sampleOf?: (name: string) => Scalar | undefined;
}

/** The patch of one source: what each reading feeds, what is proposed, and how both are changed. */
export function useFeeds({ bundle, defs, bundles, onChange, nowOf, sampleOf }: Props) {
  const [editing, setEditing] = useState<string | null>(null);
  const links = bundle.patch?.links ?? [];
  const readings = readingsOf(bundle);
  const fed = new Set(links.map((l) => l.field));
  const others = (field: string) => othersFeeding(field, bundle.source.key, bundles);
  /** What a reading that feeds a field from now on is linked by. */
  const fresh = (reading: string, key: string) => {
    const def = defs.find((d) => d.key === key);
    return def ? newLink(bundle, reading, def, others(key)) : { reading, field: key };
  };
  const link = (reading: string, change: object | null) => {
    const known = links.find((l) => l.reading === reading);
    const rest = links.filter((l) => l !== known);
    onChange(withLinks(bundle, change ? [...rest, { reading, field: '', ...known, ...change }] : rest));
  };
  /** What likeness of names proposes for readings that feed nothing, each field once. */
  const proposals = new Map<string, FieldDef>();
  const taken = new Set(fed);
  for (const { id, name } of readings) {
    if (links.some((l) => l.reading === id || l.running === id)) continue;
    const field = suggestField(name, defs, taken);
    if (!field) continue;
    proposals.set(id, field);
    taken.add(field.key);
  }
  const acceptAll = () =>
    onChange(withLinks(bundle, [...links, ...[...proposals].map(([reading, f]) => fresh(reading, f.key))]));
  const heading = (
    <>
      Feeds{' '}
      {proposals.size > 0 && (
        <Button onClick={acceptAll}>
          Accept {proposals.size === 1 ? 'the suggestion' : `all ${proposals.size} suggestions`}
        </Button>
      )}
    </>
  );

  const cellOf = (id: string) => {
    const reading = readings.find((r) => r.id === id);
    const name = reading?.name ?? id;
    const known = links.find((l) => l.reading === id);
    const def = defs.find((d) => d.key === known?.field);
    const proposal = proposals.get(id);
    const cases = writeCases(known?.as);
    const beside = known ? others(known.field) : [];
    return (
      <>
        <select
          value={known?.field ?? ''}
          aria-label={`Field fed by ${name}`}
          onChange={(e) =>
            link(
              id,
              e.target.value
                ? { priority: undefined, running: undefined, ...fresh(id, e.target.value) }
                : null,
            )
          }
        >
          <option value="">nothing</option>
          {known && !def && <option value={known.field}>{known.field}, not in this sport</option>}
          {GROUPS.map((group) => (
            <optgroup key={group} label={group}>
              {defs
                .filter((d) => d.group === group && (!fed.has(d.key) || d.key === known?.field))
                .map((d) => (
                  <option key={d.key} value={d.key}>
                    {d.label}
                  </option>
                ))}
            </optgroup>
          ))}
        </select>
        {proposal && <Button onClick={() => link(id, fresh(id, proposal.key))}>{proposal.label}?</Button>}
        {known && beside.length > 0 && (
          <NumberField
            label="Priority"
            name={`Priority of ${name}`}
            min={1}
            max={9}
            size={1}
            value={known.priority ?? 1}
            tip={tip(beside.map((o) => `beside ${o.name}, ${o.priority}`).join('\n'))}
            onChange={(priority) => link(id, { priority })}
          />
        )}
        {def?.kind === 'clock' && (
          <label>
            {' '}
            runs by{' '}
            <select
              value={known?.running ?? ''}
              aria-label={`Running flag of ${name}`}
              onChange={(e) => link(id, { running: e.target.value || undefined })}
            >
              <option value="">nothing</option>
              {readings
                .filter((r) => r.is === 'flag')
                .map((r) => (
                  <option key={r.id} value={r.id}>
                    {r.name}
                  </option>
                ))}
            </select>
          </label>
        )}
        {known && (def?.kind !== 'clock' || reading?.is !== 'clock') && (
          <label>
            {' '}
            as{' '}
            {cases === null ? null : (
              <input
                key={cases}
                defaultValue={cases}
                placeholder={
                  def?.kind === 'choice'
                    ? `H=${def.choices[0]}`
                    : def?.kind === 'clock'
                      ? 'seconds'
                      : 'No conversion'
                }
                aria-label={`Conversion of ${name}`}
                size={12}
                onBlur={(e) => link(id, { as: readCases(e.target.value) })}
              />
            )}
            <Button
              aria-label={`Edit the conversion of ${name}`}
              aria-expanded={editing === id}
              onClick={() => setEditing(editing === id ? null : id)}
            >
              {cases === null ? 'its own conversion' : '…'}
            </Button>
          </label>
        )}
      </>
    );
  };
  // Frames come many times a second: what says nothing of them is made anew only where it is another.
  const cells = useMemo(
    () => new Map(readings.map(({ id }) => [id, cellOf(id)])),
    // oxlint-disable-next-line react/exhaustive-deps
    [bundle, defs, bundles, onChange, editing],
  );
  const conversionOf = (id: string) => {
    const known = links.find((l) => l.reading === id);
    const name = readings.find((r) => r.id === id)?.name ?? id;
    return (
      known && (
        <Conversion
          value={known.as ?? { input: 'reading' }}
          now={nowOf(name)}
          feeds={defs.find((d) => d.key === known.field)}
          sample={sampleOf?.(name)}
          label={`the conversion of ${name}`}
          onChange={(as) => link(id, { as })}
        />
      )
    );
  };
  /** What the reading of this id feeds. */
  const cell = (id: string) => (
    <>
      {cells.get(id)}
      {editing === id && conversionOf(id)}
    </>
  );
  return { heading, cell };
}

/** A conversion in the one editor of Values; all that it knows is its reading. */
function Conversion({
  value,
  now,
  feeds,
  sample,
  label,
  onChange,
}: {
  value: Value;
  now: Scalar;
  feeds: FieldDef | undefined;
  sample: Scalar | undefined;
  label: string;
  onChange: (value: Value) => void;
}) {
  const reading = (key: string) => (key === 'reading' ? now : null);
  const context = {
    defs: [],
    tables: [],
    inputs: { reading: now },
    feeds,
    now: `the reading now: ${typedText(now) || 'blank'}`,
    captured: sample === undefined ? undefined : { reading: typedText(sample) },
    scope: { field: reading, input: reading },
  };
  return (
    <div>
      <Trial value={value} context={context} />
      <ValueEditor value={value} context={context} label={label} onChange={onChange} />
    </div>
  );
}
