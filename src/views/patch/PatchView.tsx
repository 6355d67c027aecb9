import { useMemo, useState, type DragEvent } from 'react';
import X from 'lucide-react/icons/x';
import type { PatchLink } from '../../core/patch/patch.ts';
import type { Desk } from '../shared/desk.ts';
import { useField } from '../shared/use-desk.ts';
import { Button } from '../../ui/Button.tsx';
import { useSearch } from '../../ui/search.tsx';
import { useKeys } from '../../ui/keys.ts';
import { useLoaded } from '../../ui/loaded.ts';
import { useRemembered } from '../../ui/remembered.ts';
import { Digits } from '../shared/Digits.tsx';
import { UndoRedo } from '../shared/UndoRedo.tsx';
import { tip } from '../../ui/tip.ts';
import shell from '../shared/View.module.css';
import { LastAction } from '../shared/Said.tsx';
import { View, type Seen } from '../shared/View.tsx';
import { newLink } from '../sources/draft.ts';
import { fieldLines, readingLines, type Feeder, type FieldLine } from './overview.ts';
import { DRAGGED, plural, ReadingsList, type Carried } from './ReadingsList.tsx';
import css from './PatchView.module.css';

// What templates show is read out of their formulas, whose reader comes after the first view.
const loadNeeded = () => import('./needed.ts');

const GROUPS = ['clocks', 'situation', 'home', 'away', 'names and colours, from the game'] as const;
/** What the game says of its teams stands apart: a device rarely feeds it. */
const groupOf = ({ def }: FieldLine): string =>
  ['text', 'colour', 'picture'].includes(def.kind) ? GROUPS[4] : def.group;

/** Readings on one side, fields on the other: what feeds what, in which order, and what is missing. */
export default function PatchView() {
  return (
    <View here="/patch" columns="300px minmax(0, 1fr)">
      {(seen) => <Patch {...seen} />}
    </View>
  );
}

const placesOf = (feeders: readonly Feeder[]) => feeders.map((f) => ({ priority: f.place }));

function Patch({ desk, snapshot }: Seen) {
  const [carried, setCarried] = useState<Carried | null>(null);
  const search = useSearch('Find a field');
  const [shown, setShown] = useRemembered('patch.shown', 'all');
  useKeys({ escape: () => setCarried(null) });

  /** Changes links one by one: what somebody else changes meanwhile stays. */
  const change = (source: string, changes: { field: string; is: PatchLink | null }[]) => {
    const links = changes.map(({ field, is }) => ({
      ...{ source, field, is },
      was: bundleOf(source)?.patch?.links.find((l) => l.field === field) ?? null,
    }));
    void desk.act({ kind: 'link', links });
  };
  const bundleOf = (key: string) => snapshot.bundles.find((b) => b.source.key === key);
  const templates = useLoaded(loadNeeded);
  const needed = useMemo(
    () => templates?.neededFields(snapshot.documents.template) ?? new Map<string, Set<string>>(),
    [templates, snapshot.documents.template],
  );
  const lines = fieldLines(snapshot.defs, snapshot.bundles, needed);
  const link = ({ source, reading }: Carried, field: string) => {
    setCarried(null);
    const bundle = bundleOf(source);
    if (!bundle) return;
    const others = (lines.find((l) => l.def.key === field)?.feeders ?? []).filter((f) => f.source !== source);
    const def = snapshot.defs.find((d) => d.key === field);
    if (def) change(source, [{ field, is: newLink(bundle, reading, def, placesOf(others)) }]);
  };
  const unlink = (source: string, field: string) => change(source, [{ field, is: null }]);
  const move = (source: string, field: string, place: number) => {
    const link = bundleOf(source)?.patch?.links.find((l) => l.field === field);
    if (link) change(source, [{ field, is: { ...link, priority: place } }]);
  };

  const wanted = lines.filter(
    (l) =>
      (shown === 'all' || (shown === 'trouble' ? l.trouble : l.feeders.length === 0)) &&
      search.finds(l.def.label, l.def.key, ...l.feeders.map((f) => f.sourceName)),
  );
  const unused = snapshot.bundles.flatMap(readingLines).filter((r) => r.feeds.length === 0 && !r.runs);
  const count = (trouble: FieldLine['trouble']) => lines.filter((l) => l.trouble === trouble).length;
  return (
    <>
      <ReadingsList
        desk={desk}
        snapshot={snapshot}
        carried={carried}
        onCarry={setCarried}
        onAccept={(bundle, found) => {
          change(
            bundle.source.key,
            found.map(({ reading, field }) => {
              const others = lines.find((l) => l.def.key === field.key)?.feeders ?? [];
              return { field: field.key, is: newLink(bundle, reading, field, placesOf(others)) };
            }),
          );
        }}
      />
      <div className={shell['editor']}>
        <header className={shell['bar']}>
          {search.box}
          {(
            [
              ['all', `All ${lines.length}`],
              ['trouble', `To look at ${count('unfed') + count('conflict')}`],
              [
                'unfed',
                `Not fed ${lines.filter((l) => l.feeders.length === 0 && groupOf(l) !== GROUPS[4]).length}`,
              ],
            ] as const
          ).map(([key, label]) => (
            <Button
              key={key}
              aria-pressed={shown === key}
              className={css['tab']}
              onClick={() => setShown(key)}
            >
              {label}
            </Button>
          ))}
          <p
            role="status"
            aria-label="Patch"
            className={count('unfed') + count('conflict') ? css['warn'] : shell['dim']}
          >
            {carried
              ? `${carried.name}: choose the field that it feeds, or press Esc.`
              : templates
                ? summary(count('unfed'), count('conflict'), unused.length)
                : 'Checking what templates need…'}
          </p>
          <UndoRedo desk={desk} />
        </header>
        <LastAction desk={desk} />
        {GROUPS.map((group) => {
          const here = wanted.filter((l) => groupOf(l) === group);
          return (
            here.length > 0 && (
              <section key={group} className={css['group']}>
                <h2>{group}</h2>
                {here.map((line) => (
                  <FieldRow
                    key={line.def.key}
                    line={line}
                    desk={desk}
                    carried={carried}
                    onLink={(what) => link(what, line.def.key)}
                    onUnlink={(source) => unlink(source, line.def.key)}
                    onMove={(source, place) => move(source, line.def.key, place)}
                  />
                ))}
              </section>
            )
          );
        })}
        {wanted.length === 0 && <p className={shell['waiting']}>No field matches.</p>}
      </div>
    </>
  );
}

function summary(unfed: number, conflicts: number, unused: number): string {
  const parts = [
    ...(unfed
      ? [`${plural(unfed, 'field', 'fields')} that templates need ${unfed === 1 ? 'is' : 'are'} not fed`]
      : []),
    ...(conflicts ? [plural(conflicts, 'conflict', 'conflicts')] : []),
    ...(unused ? [`${plural(unused, 'reading feeds', 'readings feed')} nothing`] : []),
  ];
  return parts.length ? `${parts.join(' · ')}.` : 'All that templates need is fed.';
}

interface RowProps {
  line: FieldLine;
  desk: Desk;
  carried: Carried | null;
  onLink: (what: Carried) => void;
  onUnlink: (source: string) => void;
  onMove: (source: string, place: number) => void;
}

function FieldRow({ line, desk, carried, onLink, onUnlink, onMove }: RowProps) {
  const [over, setOver] = useState(false);
  const { def, feeders, neededBy, trouble } = line;
  const field = useField(desk, def.key);
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    const text = event.dataTransfer.getData(DRAGGED);
    if (text) onLink(JSON.parse(text) as Carried);
  };
  return (
    <div
      className={css['row']}
      data-field={def.key}
      data-over={over}
      data-trouble={trouble}
      onDragOver={(event) => {
        if (!event.dataTransfer.types.includes(DRAGGED)) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <span className={css['name']}>
        {def.label}
        <small>{neededBy.length > 0 && `on ${neededBy.join(', ')}`}</small>
      </span>
      <strong>
        <Digits def={def} value={field?.value ?? null} now={desk.link.serverNow} />
      </strong>
      <span className={css['feeders']}>
        {carried && (
          <Button main onClick={() => onLink(carried)} aria-label={`Feed ${def.label} by ${carried.name}`}>
            Feed it
          </Button>
        )}
        {feeders.map((f, i) => (
          <span
            key={f.source}
            className={css['feeder']}
            data-off={!f.enabled}
            data-holds={field?.origin === f.source}
          >
            {feeders.length > 1 && (
              <button
                type="button"
                {...tip(`Priority ${f.place}. Press to put it ${i === 0 ? 'behind the next' : 'first'}.`)}
                aria-label={`Priority of ${f.sourceName} for ${def.label}`}
                onClick={() =>
                  onMove(
                    f.source,
                    i === 0 ? Math.min(9, feeders[1]!.place + 1) : Math.max(1, feeders[0]!.place - 1),
                  )
                }
              >
                {f.place}
              </button>
            )}
            {f.sourceName} · {f.reading}
            <button
              type="button"
              aria-label={`${def.label} no longer from ${f.sourceName}`}
              onClick={() => onUnlink(f.source)}
            >
              <X size={13} />
            </button>
          </span>
        ))}
        {trouble === 'conflict' && <em>Two sources have the same priority; change one.</em>}
        {trouble === 'unfed' && <em>Nothing feeds it.</em>}
      </span>
    </div>
  );
}
