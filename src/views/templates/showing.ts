import { useMemo, useState } from 'react';
import type { Scalar } from '../../core/board/values.ts';
import type { Template } from '../../core/documents/template.ts';
import type { Layout } from '../../core/layers/kinds.ts';
import type { BoardReader } from '../../core/resolve/dependents.ts';
import type { Value } from '../../core/value/value.ts';
import { fitRecords, hasRecords } from '../../core/workshop/fit-check.ts';
import { designed, recordBoard, recordInputs, sampleBoard } from '../../core/workshop/showing.ts';
import { type StateSource } from '../../core/value/state.ts';
import type { Desk, Prepared } from '../shared/desk.ts';
import { useDesk, useKnown } from '../shared/use-desk.ts';
import { mostFilled, samplesOf } from './samples.ts';

export interface Showing {
  /** What can be shown: the word that is kept, and what people read, under a heading. */
  choices: { heading: string; of: { key: string; name: string }[] }[];
  chosen: string;
  choose: (key: string) => void;
  /** What inputs hold. */
  inputs: Record<string, Scalar>;
  /** What is read in the place of the live board; null for the board itself. */
  board: BoardReader | null;
  /** The layout as it is drawn. */
  drawn: (layout: Layout) => Layout;
  /** Where records are gone through one by one; null where none are. */
  records: { at: number; of: number; label: string; step: (by: number) => void } | null;
}

/** What the canvas shows of what is bound: as designed, samples, the live board, an item, or record by record. */
export function useShowing(
  desk: Desk,
  { documents }: Pick<Prepared, 'documents'>,
  template: Template,
  filled: Readonly<Record<string, Scalar>>,
  words: (value: Value) => string,
): Showing {
  const mine = documents.item.filter((i) => i.template === template.key);
  // What shows most is worked at first.
  const [chosen, setChosen] = useState(() => {
    const most = mostFilled(template, mine);
    return most ? `item ${most.key}` : 'live';
  });
  const [at, setAt] = useState(0);
  const tables = useKnown(desk, 'tables');
  const { game: games } = documents;
  const going = chosen.startsWith('each ') ? chosen.slice(5) : null;
  const records = useMemo(
    () =>
      going === null
        ? []
        : fitRecords(games, new Map(desk.tables.list().map((t) => [t.key, [...t.rows.values()]]))).filter(
            (r) => r.among === going,
          ),
    // oxlint-disable-next-line react/exhaustive-deps -- what the desk has of tables is another when they are
    [desk, games, tables, going],
  );
  const record = records[Math.min(at, records.length - 1)];
  const like = mine.find((i) => chosen === `item ${i.key}`)?.inputs;
  const inputs = useMemo(() => {
    const held = samplesOf(template, like);
    return { ...(record ? recordInputs(template.inputs, held, record) : held), ...filled };
    // oxlint-disable-next-line react/exhaustive-deps -- of a template the inputs are all that counts here
  }, [template.inputs, like, filled, record]);
  const board = useMemo(
    () =>
      record
        ? recordBoard(desk, record)
        : chosen === 'sample' || chosen === 'design'
          ? sampleBoard(desk, desk.def)
          : null,
    [desk, record, chosen],
  );
  return {
    choices: [
      {
        heading: 'Shows',
        of: [
          { key: 'live', name: 'the live board' },
          { key: 'sample', name: 'samples' },
          { key: 'design', name: 'as designed' },
        ],
      },
      {
        heading: 'The live board, filled in as',
        of: mine.map((i) => ({ key: `item ${i.key}`, name: i.name })),
      },
      {
        heading: 'One by one',
        of: [
          { key: 'each teams', name: 'every team' },
          { key: 'each players', name: 'every player' },
          ...tables
            .filter((t) => hasRecords(t.key))
            .map((t) => ({ key: `each ${t.key}`, name: `rows of ${t.name}` })),
        ],
      },
    ].filter((c) => c.of.length > 0),
    chosen,
    choose: (key) => {
      setChosen(key);
      setAt(0);
    },
    inputs,
    board,
    drawn: (layout) => (chosen === 'design' ? designed(layout, words) : layout),
    records:
      going === null
        ? null
        : {
            at: Math.min(at, Math.max(0, records.length - 1)),
            of: records.length,
            label: record?.label ?? '',
            step: (by) => setAt((was) => (records.length ? (was + by + records.length) % records.length : 0)),
          },
  };
}

/** What bindings of a template may ask for, and whether it is there: another one only when that changes. */
export function useBindingStates(desk: Desk, { inputs }: Template): StateSource {
  const qualities = useDesk(desk, ({ fields }) => {
    let all = '';
    for (const [key, { quality, pin }] of fields) all += `${key} ${pin ? 'ok' : quality}\n`;
    return all;
  });
  const tables = useKnown(desk, 'tables');
  const rows = tables.map((t) => `${t.key} ${t.rows.length}`).join('\n');
  const keys = inputs.map((i) => i.key).join('\n');
  return useMemo(
    () => ({
      field: (key) => {
        const state = desk.stateOf(key);
        return state ? (state.pin ? 'ok' : state.quality) : null;
      },
      table: (key) => desk.tables.get(key)?.rows.size ?? null,
      inputs: new Set(keys.split('\n')),
    }),
    // oxlint-disable-next-line react/exhaustive-deps -- what is asked of the desk is another when these are
    [desk, qualities, rows, keys],
  );
}
