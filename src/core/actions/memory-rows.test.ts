import { expect, it } from 'vitest';
import { Board } from '../board/board.ts';
import { profile } from '../../../tests/support/prepared.ts';
import type { Output, Show } from '../show/show.ts';
import { emptyLane } from '../show/show.ts';
import { newItem } from '../show/item.ts';
import { edit } from './change.ts';
import { atRest, pinEdits, pinsNow, rowsAfter } from './memory-rows.ts';
import { refuseZonesInUse } from './outputs.ts';

const running = { value: 9000, running: true, direction: 'down', anchor: 0, until: 0 } as const;

it('a clock is kept where it stands by then, anything else as it is', () => {
  expect(atRest(running, 2000)).toMatchObject({ value: 7000, running: false });
  expect([atRest(4, 2000), atRest(null, 2000)]).toEqual([4, null]);
});

it('rows say what is known, and blank what was and is no more', () => {
  const memory = (...keys: string[]) =>
    ({ board: { fields: keys.map((key) => ({ key, value: 1, origin: 's' })) } }) as never;
  expect(rowsAfter(memory('a', 'b'), memory('b', 'c'), 5)).toEqual([
    { field: 'a', value: null, origin: '', at: 5 },
    { field: 'b', value: 1, origin: 's', at: 5 },
    { field: 'c', value: 1, origin: 's', at: 5 },
  ]);
});

it('what is held by hand is found, and made other by edits that can be turned round', () => {
  const board = new Board(profile.fields);
  board.apply([{ key: 'home.score', pin: 3 }], 0);
  const now = pinsNow({ board });
  expect([...now]).toEqual([['home.score', expect.objectContaining({ value: 3 })]]);
  const other = new Map([['away.score', { value: 1, at: 0 }]]);
  expect(pinEdits(now, other)).toMatchObject([
    { kind: 'pin', key: 'home.score', was: { value: 3 }, is: null },
    { kind: 'pin', key: 'away.score', was: null, is: { value: 1 } },
  ]);
});

it('a zone in which something stands, or to which items go, is not taken away by any change', () => {
  const output = { key: 'air', name: 'Air', zones: [{ key: 'low', name: 'Low' }] } as unknown as Output;
  const without = edit('output', 'air', output, { ...output, zones: [] } as Output);
  const item = newItem({ key: 'a', number: 1, name: 'Kestrel', template: 't' });
  const show = (on: boolean, goes: boolean) =>
    ({
      items: new Map([['a', { ...item, zones: goes ? [{ output: 'air', zone: 'low' }] : [] }]]),
      lanes: new Map([
        [
          'air/low',
          {
            ...emptyLane({ output: 'air', zone: 'low' }),
            onAir: on ? { item: 'a', layout: 'l', inputs: {}, takenAt: 0 } : null,
          },
        ],
      ]),
    }) as unknown as Show;
  const change = { edits: [without] };
  expect(() => refuseZonesInUse(show(true, false), change)).toThrow(
    'Kestrel is on air in it. Clear it first.',
  );
  expect(() => refuseZonesInUse(show(false, true), change)).toThrow('Kestrel would go nowhere.');
  expect(() => refuseZonesInUse(show(false, false), change)).not.toThrow();
  expect(() =>
    refuseZonesInUse(show(true, true), { edits: [edit('output', 'air', output, output)] }),
  ).not.toThrow();
});
