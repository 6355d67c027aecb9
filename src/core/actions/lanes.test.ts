import { describe, expect, it } from 'vitest';
import type { Template } from '../documents/template.ts';
import type { Look } from '../show/look.ts';
import { newItem, type Item } from '../show/item.ts';
import { emptyLane, laneKey, Refusal, type Lane, type OnAir, type Show } from '../show/show.ts';
import { randomOf } from '../../../tests/support/random.ts';
import { actionOf, type ActionBody, type AnyRequest } from './actions.ts';
import type { Situation } from './situation.ts';

const ZONES = ['a', 'b', 'c'];
const at = (zone: string) => ({ output: 'o', zone });
const template = {
  key: 't',
  inputs: [{ key: 'name', label: 'Name', kind: 'text', required: true }],
  layouts: [{ key: 'wide', width: 10, height: 10, layers: [] }],
} as unknown as Template;
const item = (key: string, zones: string, more: Partial<Item> = {}) =>
  newItem({
    key,
    number: 1,
    name: key.toUpperCase(),
    template: 't',
    zones: Array.from(zones, at),
    inputs: { name: key },
    ...more,
  });
const ITEMS = [
  item('one', 'a'),
  item('two', 'ab'),
  item('three', 'abc', { length: 5, follows: 'one' }),
  item('four', 'c', { length: 3 }),
  item('blank', 'a', { inputs: {} }),
].map((i, at) => ({ ...i, number: at + 1 }));
const LOOKS: Look[] = [
  {
    schema: 1,
    key: 'play',
    name: 'Play',
    hotkey: '',
    places: [
      { ...at('a'), item: 'one' },
      { ...at('c'), item: null },
    ],
  },
  {
    schema: 1,
    key: 'break',
    name: 'Break',
    hotkey: '',
    places: ZONES.map((z) => ({ ...at(z), item: 'three' })),
  },
];

/** A show of three lanes and five items, on which actions are decided and carried out. */
function begun() {
  const show: Show = {
    items: new Map(ITEMS.map((i) => [i.key, i])),
    lanes: new Map(ZONES.map((z) => [laneKey(at(z)), emptyLane(at(z))])),
    cards: new Set(),
    quiet: null,
  };
  const documents = {
    template: new Map([['t', template]]),
    output: new Map(),
    look: new Map(LOOKS.map((l) => [l.key, l])),
    rundown: new Map(),
  };
  const situation = { show, world: { documents } } as unknown as Situation;
  const lane = (zone: string) => show.lanes.get(laneKey(at(zone)))!;
  return {
    show,
    lane,
    /** Does an action; gives its sentence and what takes it back. */
    does(action: ActionBody, now: number) {
      const request = { id: 'test-test', ...action } as AnyRequest;
      const { decide, sentence } = actionOf(action.kind);
      const { change, back } = decide(situation, request, now);
      const text = sentence(situation, request);
      for (const { kind, key, is } of change.edits)
        ((kind === 'item' ? show.items : show.lanes) as Map<string, unknown>).set(key, is);
      return { text, back: (back ?? null) as ActionBody | null };
    },
    is: () =>
      ZONES.map((z) => {
        const { onAir, before, queue } = lane(z);
        return `${onAir?.item ?? '-'} (${before?.item ?? '-'})${queue.length ? ` ${queue.join(' ')}` : ''}`;
      }).join('; '),
  };
}

describe('a lane', () => {
  it('takes what follows: the queue in its order, then what stands below in the list; what is taken is off the queue', () => {
    const { does, is } = begun();
    does({ kind: 'take', item: 'one' }, 1);
    expect(does({ kind: 'queue', ...at('a'), items: ['three'], was: [] }, 2).text).toBe('Queued THREE');
    const { text, back } = does({ kind: 'queue', ...at('a'), items: ['three', 'one'], was: ['three'] }, 3);
    expect(text).toBe('Queued ONE');
    does(back!, 4);
    expect(() => does({ kind: 'take-next', ...at('a'), item: 'two' }, 5)).toThrow(
      'THREE follows there now, not TWO: it was changed at another desk a moment ago.',
    );
    const taken = does({ kind: 'take-next', ...at('a'), item: 'three' }, 6);
    expect([taken.text, is()]).toEqual(['Took THREE', 'three (one); three (-); three (-)']);
    does(taken.back!, 7);
    expect(is()).toBe('one (three) three; - (three); - (three)');
    does({ kind: 'queue', ...at('a'), items: [], was: ['three'] }, 8);
    does({ kind: 'take-next', ...at('a'), item: 'two' }, 9);
    expect(is()).toBe('two (one); two (-); - (three)');
    // After the last one there is none.
    does({ kind: 'take', item: 'four' }, 10);
    expect(() => does({ kind: 'take-next', ...at('c'), item: 'one' }, 11)).toThrow(
      'Nothing follows there any more',
    );
  });

  it('goes back to what was on before as it stood, and forth again', () => {
    const { does, is, lane, show } = begun();
    expect(() => does({ kind: 'back', ...at('a') }, 1)).toThrow('Nothing was on air there before.');
    does({ kind: 'take', item: 'one' }, 2);
    show.items = new Map([...show.items, ['one', item('one', 'a', { inputs: { name: 'Later' } })]]);
    does({ kind: 'take', item: 'two' }, 3);
    const { text, back } = does({ kind: 'back', ...at('a') }, 4);
    expect([text, is()]).toEqual(['Back to ONE', 'one (two); two (-); - (-)']);
    expect(lane('a').onAir).toEqual({ item: 'one', layout: 'wide', inputs: { name: 'one' }, takenAt: 4 });
    // Taken again with its edits it is no other item.
    does({ kind: 'take', item: 'one' }, 5);
    expect([is(), lane('a').onAir!.inputs]).toEqual(['one (two); two (-); - (-)', { name: 'Later' }]);
    expect(() => does(back!, 6)).toThrow('changed again since');
    expect(does({ kind: 'back', ...at('b') }, 7).text).toBe('Cleared TWO');
    expect(does({ kind: 'back', ...at('b') }, 8).text).toBe('Back to TWO');
    expect(is()).toBe('one (two); two (-); - (-)');
  });

  it('is cleared with all others at one moment, and is back with them', () => {
    const { does, is } = begun();
    expect(() => does({ kind: 'clear-all' }, 1)).toThrow('Nothing is on air');
    does({ kind: 'take', item: 'two' }, 2);
    does({ kind: 'take', item: 'four' }, 3);
    expect(() => does({ kind: 'clear-all', output: 'other' }, 4)).toThrow('Nothing is on air');
    const { text, back } = does({ kind: 'clear-all' }, 5);
    expect([text, is()]).toEqual(['Cleared all', '- (two); - (two); - (four)']);
    does(back!, 6);
    expect(is()).toBe('two (-); two (-); four (-)');
  });

  it.each<[ActionBody, string]>([
    [{ kind: 'queue', ...at('a'), items: ['one'], was: ['two'] }, 'changed at another desk'],
    [{ kind: 'queue', ...at('a'), items: ['four'], was: [] }, 'FOUR does not go to that zone.'],
    [{ kind: 'queue', ...at('a'), items: ['gone'], was: [] }, 'no item "gone"'],
    [{ kind: 'queue', ...at('a'), items: ['one', 'one'], was: [] }, 'stands in a queue once'],
    [{ kind: 'queue', ...at('z'), items: [], was: [] }, 'no zone "z"'],
    [{ kind: 'take-next', ...at('a'), item: 'gone' }, 'no item "gone"'],
  ])('refuses %o', (action, why) => {
    const { does, is } = begun();
    const before = is();
    expect(() => does(action, 1)).toThrow(why);
    expect(is()).toBe(before);
  });
});

/** The lanes as simply as they can be kept: what stands, since which moment, what stood before, what is queued. */
class Model {
  lanes: Record<string, { on: string; since: number; before: string; queue: string[] }> = Object.fromEntries(
    ZONES.map((z) => [z, { on: '', since: 0, before: '', queue: [] }]),
  );
  /** What each step that is not taken back yet changed. */
  steps: { zone: string; on: string; since: number; was: string; queued: string }[][] = [];

  put(puts: [zone: string, item: string][], now: number, keeps = true): void {
    const step = puts.map(([zone, item]) => {
      const lane = this.lanes[zone]!;
      const queued = lane.queue.includes(item) ? item : '';
      lane.queue = lane.queue.filter((k) => k !== item);
      const was = lane.on;
      if (was !== item) lane.before = was;
      lane.on = item;
      lane.since = item ? now : 0;
      return { zone, on: item, since: lane.since, was, queued };
    });
    if (keeps) this.steps.push(step);
  }

  undo(now: number): boolean {
    const step = this.steps.pop();
    if (!step) return false;
    const still = step.filter(({ zone, on, since }) => {
      const lane = this.lanes[zone]!;
      return lane.on === on && lane.since === since;
    });
    this.put(
      still.map(({ zone, was }) => [zone, was]),
      now,
      false,
    );
    for (const { zone, queued } of still)
      if (queued && !this.lanes[zone]!.queue.includes(queued)) this.lanes[zone]!.queue.unshift(queued);
    return still.length > 0;
  }

  is = () =>
    ZONES.map((z) => {
      const { on, before, queue } = this.lanes[z]!;
      return `${on || '-'} (${before || '-'})${queue.length ? ` ${queue.join(' ')}` : ''}`;
    }).join('; ');
}

it.each([1, 2, 3, 4, 5])('does with lanes what a simple model does (seed %d)', (seed) => {
  const below = randomOf(seed);
  const { does, is, lane, show } = begun();
  const model = new Model();
  const backs: (ActionBody | null)[] = [];
  const refused = (action: ActionBody, now: number) => {
    try {
      const { back } = does(action, now);
      if (action.kind !== 'queue' && action.kind !== 'end-item') backs.push(back);
      return false;
    } catch (error) {
      if (error instanceof Refusal) return true;
      throw error;
    }
  };
  const zonesOf = (key: string) => ITEMS.find((i) => i.key === key)!.zones.map((z) => z.zone);
  let done = 0;
  for (let now = 1; now <= 600; now++) {
    const zone = ZONES[below(3)]!;
    const key = ITEMS[below(5)]!.key;
    const there = model.lanes[zone]!;
    const puts = (list: [string, string][], action: ActionBody) => {
      expect(refused(action, now)).toBe(list.length === 0);
      if (list.length) model.put(list, now, action.kind !== 'end-item');
    };
    const all = (k: string) => (k === 'blank' ? [] : zonesOf(k).map((z): [string, string] => [z, k]));
    switch (below(9)) {
      case 0:
        puts(there.on ? [[zone, '']] : [], { kind: 'clear', ...at(zone) });
        break;
      case 1:
        if (below(4) === 0)
          puts(
            ZONES.flatMap((z): [string, string][] => (model.lanes[z]!.on ? [[z, '']] : [])),
            { kind: 'clear-all' },
          );
        break;
      case 2: {
        const look = LOOKS[below(2)]!;
        const list = look.places.map(({ zone: z, item: k }): [string, string] => [z, k ?? '']);
        puts(
          list.filter(([z, k]) => model.lanes[z]!.on !== k),
          { kind: 'recall-look', look: look.key },
        );
        break;
      }
      case 3: {
        const was = [...there.queue];
        const has = was.includes(key);
        const goes = zonesOf(key).includes(zone);
        const items = has ? was.filter((k) => k !== key) : [...was, key];
        expect(refused({ kind: 'queue', ...at(zone), items, was }, now)).toBe(!has && !goes);
        if (has || goes) there.queue = items;
        break;
      }
      case 4: {
        const going = ITEMS.filter((i) => zonesOf(i.key).includes(zone));
        const last = there.on || there.before;
        const order = going.map((i) => i.key);
        const follows = there.queue[0] ?? order[order.indexOf(last) + 1];
        puts(follows === key ? all(key) : [], { kind: 'take-next', ...at(zone), item: key });
        break;
      }
      case 5: {
        const { on, before } = there;
        const possible = Boolean(on || before);
        puts(possible ? [[zone, before]] : [], { kind: 'back', ...at(zone) });
        if (possible) there.before = on;
        break;
      }
      case 6: {
        // What is over goes off everywhere it stood since that take, and what follows it is taken.
        const { length, follows } = ITEMS.find((i) => i.key === there.on) ?? {};
        if (!length) break;
        const since = there.since;
        const over = ZONES.filter((z) => model.lanes[z]!.on === there.on && model.lanes[z]!.since === since);
        const next = follows ? all(follows) : [];
        const off = over.filter((z) => !next.some(([n]) => n === z)).map((z): [string, string] => [z, '']);
        puts([...off, ...next], { kind: 'end-item', item: there.on, takenAt: since });
        break;
      }
      case 7: {
        const back = backs.pop();
        const possible = model.undo(now);
        if (back) expect(refused(back, now)).toBe(!possible);
        // An undo is none of the steps.
        if (back && possible) backs.pop();
        break;
      }
      default:
        puts(all(key), { kind: 'take', item: key });
    }
    done++;
    expect(is(), `step ${now}`).toBe(model.is());
    const onAirOf = (l: Lane): OnAir | null => l.onAir;
    for (const z of ZONES) expect(onAirOf(lane(z))?.takenAt ?? 0).toBe(model.lanes[z]!.since);
    // What was on air is an item that is there.
    for (const l of show.lanes.values()) if (l.onAir) expect(show.items.has(l.onAir.item)).toBe(true);
  }
  expect(done).toBe(600);
});
