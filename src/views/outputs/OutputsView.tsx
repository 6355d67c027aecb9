import { useState } from 'react';
import type { Lane, Output } from '../../core/show/show.ts';
import { counted, freshKey } from '../../core/text/words.ts';
import type { OpenPage } from '../../core/wire/wire.ts';
import { Button } from '../../ui/Button.tsx';
import { useRemembered } from '../../ui/remembered.ts';
import { MOST_SIDE, newZone } from '../../core/show/zones.ts';
import { useDesk } from '../shared/use-desk.ts';
import { SizeChoice } from '../shared/SizeFields.tsx';
import { LastAction } from '../shared/Said.tsx';
import { View, type Seen } from '../shared/View.tsx';
import shell from '../shared/View.module.css';
import { Board } from './Board.tsx';
import css from './OutputsView.module.css';

/** The pictures that go out: what size they are, how they are divided, and where they are fetched. */
export default function OutputsView() {
  return (
    <View here="/outputs" columns="230px minmax(0, 1fr) 300px" ownUndo>
      {(seen) => <Outputs {...seen} />}
    </View>
  );
}

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
  // What is undone step by step is each output's own; that one is gone is undone here.
  const last = useDesk(desk, (s) => s.undo);
  const deleted = last?.startsWith('Deleted the output') ? last : null;
  return (
    <>
      <aside className={shell['side']} aria-label="Outputs">
        <ul>
          {outputs.map((o) => {
            const on = onAirIn(o, snapshot.lanes);
            return (
              <li key={o.key}>
                <button type="button" aria-pressed={o === output} onClick={() => setShown(o.key)}>
                  <b>{o.name}</b>
                  {snapshot.cards.includes(o.key) ? <em>test card</em> : on > 0 && <em>{on} on air</em>}
                  <span>
                    {o.width} × {o.height}, {counted(o.zones.length, 'zone')}
                  </span>
                  <span>{openText(snapshot.pages.filter((p) => p.output === o.key))}</span>
                </button>
              </li>
            );
          })}
        </ul>
        <New
          onNew={async (name, width, height) => {
            const key = freshKey(name, (k) => outputs.some((o) => o.key === k), 'output');
            const body: Output = {
              schema: 4,
              key,
              name,
              width,
              height,
              lead: 0,
              venue: false,
              background: { kind: 'transparent' },
              zones: [newZone([], { x: 0, y: 0, width, height })],
            };
            const answer = await desk.act({ kind: 'put-document', what: 'output', body, revision: 0 });
            if (answer.ok) setShown(key);
            return answer.ok;
          }}
        />
        {deleted !== null && (
          <p className={css['deleted']} role="group" aria-label="Deleted">
            {deleted}.<Button onClick={() => void desk.undo()}>Bring it back</Button>
          </p>
        )}
        <LastAction desk={desk} />
      </aside>
      <Board key={output.key} desk={desk} snapshot={snapshot} saved={output} />
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

function New({ onNew }: { onNew: (name: string, width: number, height: number) => Promise<boolean> }) {
  const [name, setName] = useState('');
  const [size, setSize] = useState({ width: 1920, height: 1080 });
  return (
    <form
      className={`${shell['panel']} ${css['new']}`}
      aria-label="New output"
      onSubmit={(event) => {
        event.preventDefault();
        const called = name.trim();
        if (called) void onNew(called, size.width, size.height).then((made) => made && setName(''));
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
