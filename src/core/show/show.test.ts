import { describe, expect, it } from 'vitest';
import bar from '../../../data/demo/item/bar.json' with { type: 'json' };
import blank from '../../../data/demo/item/blank.json' with { type: 'json' };
import captain from '../../../data/demo/item/captain.json' with { type: 'json' };
import goalkeeper from '../../../data/demo/item/goalkeeper.json' with { type: 'json' };
import demo from '../../../data/demo/show.json' with { type: 'json' };
import lower from '../../../data/demo/template/lower-third.json' with { type: 'json' };
import profileDoc from '../../../data/basic/profile/box-lacrosse.json' with { type: 'json' };
import { actionOf, type ActionBody, type AnyRequest } from '../actions/actions.ts';
import type { Situation } from '../actions/situation.ts';
import { Board } from '../board/board.ts';
import { parseProfile } from '../sport/profile.ts';
import type { Template } from '../documents/template.ts';
import { parseGame } from './game-doc.ts';
import { parseOutput } from './output.ts';
import { layoutFor, layoutOf } from './layout.ts';
import { preflight } from './preflight.ts';
import { newItem, type Item } from './item.ts';
import { editedSince, emptyLane, laneKey, Refusal, type Lane, type Show } from './show.ts';

const template = lower as unknown as Template;
const newShow = (): Show => ({
  items: new Map([goalkeeper, captain, blank, bar].map((i) => [i.key, newItem(i as Item)])),
  cards: new Set(),
  quiet: null,
  lanes: new Map((demo.lanes as unknown as Lane[]).map((l) => [laneKey(l), { ...emptyLane(l), ...l }])),
});
const run = (show: Show, action: ActionBody, now = 5) => {
  const world = { documents: { template: new Map([['lower-third', template]]), output: new Map() } };
  const situation = { show, world } as unknown as Situation;
  const { edits } = actionOf(action.kind).decide(
    situation,
    { id: 'test', ...action } as AnyRequest,
    now,
  ).change;
  for (const { kind, key, is } of edits)
    ((kind === 'item' ? show.items : show.lanes) as Map<string, unknown>).set(key, is);
  return edits[0]!.is;
};

describe('layoutFor', () => {
  const layout = (width: number, height: number) => ({
    key: `${width}x${height}`,
    width,
    height,
    layers: [],
  });
  const layouts = [layout(1920, 1080), layout(1400, 1200), layout(3840, 96), layout(960, 540)];
  it.each([
    [1920, 1080, '1920x1080'],
    [960, 540, '960x540'],
    [1280, 720, '960x540'],
    [3840, 100, '3840x96'],
    [1200, 1200, '1400x1200'],
  ])('fits %d by %d with %s', (width, height, key) => {
    expect(layoutFor({ layouts }, { width, height }).key).toBe(key);
    // One that was taken stays while it is there.
    expect(layoutOf({ layouts }, '3840x96', { width, height }).key).toBe('3840x96');
    expect(layoutOf({ layouts }, 'gone', { width, height }).key).toBe(key);
  });
});

describe('decide', () => {
  it('puts an item on air with the inputs of that moment; edits wait for the next take', () => {
    const show = newShow();
    run(show, { kind: 'take', item: 'captain' });
    run(show, { kind: 'edit', item: 'captain', inputs: { line: 'Four goals' } });
    const lane = show.lanes.get('broadcast/lower')!;
    expect(lane).toMatchObject({
      next: 'captain',
      onAir: { item: 'captain', takenAt: 5, inputs: { name: 'Bram Hallowick' } },
    });
    expect(lane.onAir!.inputs['line']).not.toBe('Four goals');
    expect(editedSince(lane.onAir!, show.items.get('captain')!)).toBe(true);
    run(show, { kind: 'take', item: 'captain' }, 6);
    expect(show.lanes.get('broadcast/lower')!.onAir!.inputs['line']).toBe('Four goals');
    expect(editedSince(show.lanes.get('broadcast/lower')!.onAir!, show.items.get('captain')!)).toBe(false);
    run(show, { kind: 'clear', output: 'broadcast', zone: 'lower' });
    expect(show.lanes.get('broadcast/lower')).toMatchObject({ next: 'captain', onAir: null });
  });

  it.each<[ActionBody, string]>([
    [{ kind: 'take', item: 'blank' }, 'Blank name needs Name before it can go on air.'],
    [{ kind: 'take', item: 'gone' }, 'no item "gone"'],
    [{ kind: 'clear', output: 'broadcast', zone: 'lower' }, 'nothing to clear'],
    [{ kind: 'clear', output: 'broadcast', zone: 'side' }, 'no zone "side" on the output "broadcast"'],
    [{ kind: 'next', output: 'broadcast', zone: 'top', item: 'captain' }, 'does not go to that zone'],
    [{ kind: 'edit', item: 'captain', inputs: { nick: 'B' } }, 'no input "nick"'],
    [{ kind: 'edit', item: 'captain', inputs: { team: 'both' } }, 'one of Home, Away, Neither'],
    [{ kind: 'edit', item: 'captain', inputs: { logo: 'yes' } }, 'on or off'],
    [{ kind: 'edit', item: 'captain', inputs: { name: 'x'.repeat(61) } }, 'limited to 60'],
    [{ kind: 'edit', item: 'captain', inputs: { name: 7 } }, 'is a text'],
  ])('refuses %o with a sentence and changes nothing', (action, why) => {
    const show = newShow();
    const before = structuredClone(show);
    expect(() => run(show, action)).toThrow(Refusal);
    expect(() => run(show, action)).toThrow(why);
    expect(show).toEqual(before);
  });
});

describe('preflight', () => {
  const profile = parseProfile(profileDoc);
  if (!profile.ok) throw new Error(profile.problems.join());
  const boardWith = (quality: 'ok' | 'lost') => {
    const board = new Board(profile.value.fields);
    const say = (key: string, value: string) => ({ key, value, origin: 'game' });
    board.apply(
      [say('home.short', 'Herons'), say('home.mark', '/media/x.svg'), say('home.colour', '#123456')],
      0,
    );
    board.apply(
      [say('away.short', 'Foxes'), say('away.mark', '/media/y.svg'), say('away.colour', '#654321')],
      0,
    );
    board.mark('game', quality);
    return { def: (k: string) => board.def(k), stateOf: (k: string) => board.state(k) };
  };
  const check = (inputs: Record<string, string | boolean>, quality: 'ok' | 'lost' = 'ok') =>
    preflight(template.layouts[0]!, inputs, template.inputs, boardWith(quality));

  it('is silent when all is well', () =>
    expect(check({ name: 'A', team: 'home', line: '', logo: true })).toEqual([]));
  it('names what is empty, what is sample and what is lost', () => {
    expect(check({ name: '' })).toContain('Name is empty.');
    expect(check({ name: 'First Last' })).toContain('Name still holds the sample.');
    // Only what shows is asked for: without the logo neither its picture nor what stands beside it.
    expect(check({ name: 'A', team: 'home' }, 'lost')).toContain('4 fields: their source is lost.');
    expect(check({ name: 'A', team: 'home', logo: true }, 'lost')).toContain(
      '6 fields: their source is lost.',
    );
  });
  it('names fields that the board does not have, or that are blank where they show', () => {
    const layout = structuredClone(template.layouts[0]!);
    const clock = { field: 'clock.game' };
    layout.layers.push({ id: 'c', kind: 'clock', name: 'c', clock, font: 'F', size: 9 });
    layout.layers.push({ id: 'p', kind: 'picture', name: 'p', picture: { field: 'gone' } });
    const said = preflight(layout, { name: 'A' }, template.inputs, boardWith('ok'));
    expect(said).toEqual(['Game clock is blank.', 'The board has no field "gone".']);
    // A case for another sport asks for what only that has.
    const cases = [{ is: ['x'], then: { field: 'gone' } }];
    layout.layers = [
      {
        id: 't',
        kind: 'text',
        name: 't',
        text: { choose: { field: 'home.name' }, cases },
        font: 'F',
        size: 9,
        shows: true,
      },
    ];
    expect(preflight(layout, { name: 'A' }, template.inputs, boardWith('ok'))).toEqual([]);
  });
});

describe('game and output documents', () => {
  const zones = [{ key: 'z', name: 'Z', x: 0, y: 0, width: 1, height: 1, letter: '' }];
  const plain = {
    schema: 5,
    key: 'o',
    name: 'O',
    place: 0,
    width: 9,
    height: 9,
    lead: 0,
    venue: false,
    zones,
  };

  it('an output of before they had backgrounds and leads is transparent, and shows takes at once', () => {
    const { lead: _, venue: __, place: ___, ...before } = { ...plain, schema: 1 };
    expect(parseOutput(before)).toEqual({
      ok: true,
      value: { ...plain, background: { kind: 'transparent' } },
    });
  });

  it.each([
    [parseGame({ schema: 1 }), 'key'],
    [parseOutput({ schema: 1, key: 'o', name: 'O', width: 10, height: 10, zones: [] }), 'zone'],
    [
      parseOutput({
        schema: 1,
        key: 'o',
        name: 'O',
        width: 9,
        height: 9,
        zones: ['z', 'z'].map((key) => ({ key, name: 'Z', x: 0, y: 0, width: 1, height: 1 })),
      }),
      'same key',
    ],
    [parseOutput({ ...plain, width: 16_385 }), '16384'],
    [parseOutput({ ...plain, lead: 1001 }), 'lead'],
    [parseOutput({ ...plain, zones: [{ ...zones[0], letter: 'q' }] }), 'letter'],
    [parseOutput({ ...plain, background: { kind: 'sky' } }), 'background'],
    [parseOutput({ ...plain, background: { kind: 'colour', colour: 'red' } }), '#rrggbb'],
    [parseOutput({ ...plain, background: { kind: 'media' } }), 'path'],
  ])('%o is refused naming %s', (result, why) => expect(result.ok || result.problems.join()).toContain(why));
});
