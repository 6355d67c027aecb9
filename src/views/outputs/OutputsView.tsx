import { useState } from 'react';
import ArrowDown from 'lucide-react/icons/arrow-down';
import ArrowUp from 'lucide-react/icons/arrow-up';
import type { Lane, Output } from '../../core/show/show.ts';
import { freshKey } from '../../core/text/keys.ts';
import { counted, unlike } from '../../core/text/words.ts';
import type { OpenPage } from '../../core/wire/wire.ts';
import { Button } from '../../ui/Button.tsx';
import { later } from '../../ui/Later.tsx';
import { useRemembered } from '../../ui/remembered.ts';
import { MOST_SIDE, newZone } from '../../core/show/zones.ts';
import { useDesk } from '../shared/use-desk.ts';
import { SizeChoice } from '../shared/SizeFields.tsx';
import { LastAction } from '../shared/Said.tsx';
import { View, type Seen } from '../shared/View.tsx';
import shell from '../shared/View.module.css';
import { Board } from './Board.tsx';
import { OutputList } from './OutputList.tsx';
import css from './OutputsView.module.css';

/** The pictures that go out: what size they are, how they are divided, and where they are fetched. */
export default function OutputsView() {
  return (
    <View here="/outputs" columns="230px minmax(0, 1fr) 300px" ownUndo>
      {(seen) => <Outputs {...seen} />}
    </View>
  );
}

const List = later(() => import('./Dragging.tsx').then((m) => m.DragOutputs), OutputList);

/** What is done with an output as a whole: its own steps are taken back where it is worked at. */
const WHOLE: readonly string[] = ['remove-document', 'move-output'];

/** How many zones of an output have something on air. */
const onAirIn = (output: Output, lanes: readonly Lane[]) =>
  lanes.filter((l) => l.output === output.key && l.onAir).length;

/** How many pages of an output are open, and whether any of them is in trouble. */
function openText(pages: readonly OpenPage[]): string {
  const bad = pages.filter((p) => p.state !== 'open').length;
  const trouble = bad ? `, ${bad} in trouble` : '';
  return pages.length === 0 ? 'no page open' : `${counted(pages.length, 'page')} open${trouble}`;
}

function Outputs({ desk, snapshot }: Seen) {
  const outputs = snapshot.documents.output;
  const [shown, setShown] = useRemembered('outputs.shown', '');
  const output = outputs.find((o) => o.key === shown) ?? outputs[0]!;
  const at = outputs.indexOf(output);
  // What is undone step by step is each output's own; that one is gone, or stands elsewhere, is undone here.
  const last = useDesk(desk, (s) => s.past[0]);
  const said = useDesk(desk, (s) => s.said);
  const done = last && WHOLE.includes(last.kind) ? last : null;
  const move = (one: string, before: string | null) =>
    void desk.act({ kind: 'move-output', key: one, before });
  /** Makes an output under a key of its own, and shows it. */
  const make = async (body: Output, before: string | null = null): Promise<boolean> => {
    const made = { ...body, key: freshKey(body.name, (k) => outputs.some((o) => o.key === k), 'output') };
    const answer = await desk.act({ kind: 'put-document', what: 'output', body: made, revision: 0 });
    if (answer.ok && before !== null) await desk.act({ kind: 'move-output', key: made.key, before });
    if (answer.ok) setShown(made.key);
    return answer.ok;
  };
  return (
    <>
      <aside className={shell['side']} aria-label="Outputs">
        <List
          outputs={outputs}
          shown={output.key}
          onShow={setShown}
          onMove={move}
          onAirText={(o) => {
            const on = onAirIn(o, snapshot.lanes);
            return snapshot.cards.includes(o.key) ? 'test card' : on > 0 ? `${on} on air` : '';
          }}
          linesOf={(o) => [
            `${o.width} × ${o.height}, ${counted(o.zones.length, 'zone')}`,
            openText(snapshot.pages.filter((p) => p.output === o.key)),
          ]}
        />
        {outputs.length > 1 && (
          <p className={shell['pair']} role="group" aria-label={`Order of ${output.name}`}>
            <Button disabled={at === 0} onClick={() => move(output.key, outputs[at - 1]!.key)}>
              <ArrowUp size={14} /> Move up
            </Button>
            <Button
              disabled={at === outputs.length - 1}
              onClick={() => move(output.key, outputs[at + 2]?.key ?? null)}
            >
              <ArrowDown size={14} /> Move down
            </Button>
          </p>
        )}
        <New
          onNew={(name, { width, height }) =>
            make({
              schema: 5,
              key: '',
              name,
              place: 0,
              width,
              height,
              lead: 0,
              venue: false,
              background: { kind: 'transparent' },
              zones: [newZone([], { x: 0, y: 0, width, height })],
            })
          }
        />
        {done && (
          <p className={css['done']} role="group" aria-label="Done last">
            {done.text}.
            <Button onClick={() => void desk.undo(done.id)}>
              {done.kind === 'remove-document' ? 'Bring it back' : 'Undo'}
            </Button>
          </p>
        )}
        {!(done && said?.ok) && <LastAction desk={desk} />}
      </aside>
      <Board
        key={output.key}
        desk={desk}
        snapshot={snapshot}
        saved={output}
        onDuplicate={() => {
          const name = unlike(`${output.name} copy`, (text) => outputs.some((o) => o.name === text));
          const zones = output.zones.map((z) => ({ ...z, letter: '' }));
          void make({ ...output, name, place: 0, zones }, outputs[at + 1]?.key);
        }}
      />
    </>
  );
}

/** The sizes that most pictures and boards have, in px. */
const SIZES = (
  [
    ['Television, HD', 1920, 1080],
    ['Television, UHD', 3840, 2160],
    ['Television, upright', 1080, 1920],
    ['Long board', 6400, 1200],
    ['Ribbon board', 3840, 96],
    ['Square board', 1536, 1536],
  ] as const
).map(([name, width, height]) => ({ width, height, label: `${name}, ${width} × ${height}` }));

function New({
  onNew,
}: {
  onNew: (name: string, size: { width: number; height: number }) => Promise<boolean>;
}) {
  const [name, setName] = useState('');
  const [size, setSize] = useState({ width: 1920, height: 1080 });
  return (
    <form
      className={`${shell['panel']} ${css['new']}`}
      aria-label="New output"
      onSubmit={(event) => {
        event.preventDefault();
        const called = name.trim();
        if (called) void onNew(called, size).then((made) => made && setName(''));
      }}
    >
      <label>
        New output
        <input value={name} maxLength={80} placeholder="Name" onChange={(e) => setName(e.target.value)} />
      </label>
      <SizeChoice label="Size" usual={SIZES} size={size} most={MOST_SIDE} onSize={setSize} />
      <Button type="submit" main disabled={!name.trim()}>
        Make it
      </Button>
    </form>
  );
}
