import { describe, expect, it } from 'vitest';
import lower from '../../../data/demo/template/lower-third.json' with { type: 'json' };
import type { Template } from '../documents/template.ts';
import { matchTargets, planFill, type Fill, type From, type Target } from './fill.ts';
import { newItem } from './item.ts';
import { modelOf, usedModel } from './model.ts';
import { parseModel, placedByName } from './rundown.ts';

const template = lower as unknown as Template;
const zones = [{ output: 'broadcast', zone: 'lower' }];
const item = (key: string, number: number, more = {}) =>
  newItem({ key, number, name: key, template: 'lower-third', zones, ...more });
const items = [item('Bo', 4, { inputs: { name: 'Bo', line: 'old' } }), item('other', 9)];

const filled = (rows: string[][], more: Partial<Fill> = {}) => {
  const from = new Map<Target, From>([
    ['name', { column: 0 }],
    ['input name', { column: 0 }],
    ['input line', { column: 1 }],
    ['input team', { text: 'away' }],
    ['number', { column: 2 }],
  ]);
  const done = planFill({ rows, from, template, zones, items, there: 'change', ...more });
  return {
    rows: done.rows.map((r) => `${r.kind} ${r.name}${r.says && `: ${r.says}`}`),
    items: done.items.map((i) => `${i.key} ${i.number} ${String(i.inputs['line'])}`),
    all: done.items,
  };
};

describe('items from rows', () => {
  it('headings are matched to inputs and to what all items have', () => {
    const found = matchTargets(['Item no.', 'NAME', 'Team', 'Note', 'Other'], template);
    expect(Object.fromEntries(found)).toEqual({
      'input name': { column: 1 },
      'input team': { column: 2 },
      number: { column: 0 },
      note: { column: 3 },
      name: { column: 1 },
    });
  });

  it('a row may name its template, group, length and key; what is none of those is refused with a sentence', () => {
    const card = {
      key: 'card',
      name: 'Player card',
      inputs: [{ key: 'no', label: 'Shirt', kind: 'number', required: false }],
    } as unknown as Template;
    const headings = ['Name', 'Line', 'No', 'Template', 'Group', 'Length', 'Key', 'Shirt'];
    const from = new Map(matchTargets(headings, template));
    expect(Object.keys(Object.fromEntries(from)).sort()).toEqual([
      'group',
      'hotkey',
      'input line',
      'input name',
      'length',
      'name',
      'number',
      'template',
    ]);
    const rows = [
      ['Ann', 'Captain', '31', '', 'Break', '8', 'F4', ''],
      ['Ann', '', '32', 'player CARD', ' break', '1:30', 'shift + a', '7'],
      ['Bea', '', '12a', '', '', '', '', ''],
      ['Cy', '', '31', '', '', '', '', ''],
      ['Dee', '', '', 'Nothing', '', '', '', ''],
      ['Eve', '', '', '', '', 'long', '', ''],
      ['Flo', '', '', '', '', '90000', '', ''],
      ['Gil', '', '', '', '', '', 'F5', ''],
      ['Hal', '', '', '', '', '', 'F4', ''],
      ['Ida', '', '', '', '', '', 'f2', ''],
      ['Joy', '', '', 'Player card', 'Nowhere yet', '2,5 s', '', 'x'],
    ];
    const plan = planFill({
      ...{ rows, headings, from, template, zones, items, there: 'change', templates: [template, card] },
      zonesOf: () => [{ output: 'board', zone: 'left' }],
      keys: new Map([['F2', 'Play']]),
    });
    expect(
      plan.items.map((i) => [i.name, i.template, i.number, i.length, i.hotkey, i.zones[0]!.zone]),
    ).toEqual([
      ['Ann', 'lower-third', 31, 8, 'F4', 'lower'],
      ['Ann', 'card', 32, 90, 'Shift+A', 'left'],
    ]);
    expect(plan.items[1]!.inputs).toEqual({ no: 7 });
    expect(plan.rows.slice(2).map((r) => r.says)).toEqual([
      '12a is no number of an item.',
      'Ann has the number 31 already.',
      'There is no template “Nothing”.',
      'long is no length; write seconds, such as 8 or 1:30.',
      '90000 is no length; write seconds, such as 8 or 1:30.',
      'F5 is no key of an item; there are F2, F4, F6 to F10, and Shift+A to Shift+Z.',
      'Ann has the key F4 already.',
      'Play has the key F2 already.',
      expect.stringContaining('Shirt') as string,
    ]);
    const groups = placedByName([{ key: 'b', name: 'Break', items: ['x'] }], plan.groups);
    expect(groups).toEqual([{ key: 'b', name: 'Break', items: ['x', ...plan.items.map((i) => i.key)] }]);
    expect(placedByName(groups, new Map([['x', 'Ñew']])).map((g) => [g.key, g.name, g.items.length])).toEqual(
      [
        ['b', 'Break', 2],
        ['new', 'Ñew', 1],
      ],
    );
  });

  it('a row makes an item, changes the one of its name, or is refused alone', () => {
    const done = filled([
      ['Ann Ode', 'Captain', ''],
      ['Bo', 'new', '12'],
      ['', 'nobody', ''],
      ['Cy', '', '9'],
      ['x'.repeat(61), '', ''],
      ['Dee', '', '1.5'],
      ['Ann Ode', 'again', ''],
      [' ', '', ''],
    ]);
    expect(done.rows).toEqual([
      'new Ann Ode',
      'changed Bo: Number: 4 → 12, Team: blank → away, Line: old → new',
      'refused Row 3: It has no name.',
      'refused Cy: other has the number 9 already.',
      expect.stringContaining('limited to 60'),
      'refused Dee: 1.5 is no number of an item.',
      'refused Ann Ode: A row before it has the same name.',
    ]);
    expect(done.items).toEqual(['ann-ode 10 Captain', 'Bo 12 new']);
    expect(done.all[0]).toMatchObject({ zones, inputs: { team: 'away', name: 'Ann Ode' } });
  });

  it.each([
    ['leave', ['left Bo'], []],
    ['again', ['new Bo'], ['bo 10 new']],
    ['change', ['changed Bo: Team: blank → away, Line: old → new'], ['Bo 4 new']],
  ] as const)('for one that is there: %s', (there, rows, made) => {
    const done = filled([['Bo', 'new', '']], { there });
    expect(done.rows).toEqual(rows);
    expect(done.items).toEqual(made);
  });

  it('a choice is told by its label too, and one that says nothing new is the same', () => {
    const from = new Map<Target, From>([
      ['name', { column: 0 }],
      ['input team', { column: 1 }],
      ['input logo', { text: 'yes' }],
    ]);
    const first = filled([['Eve', 'Away']], { from });
    expect(first.all[0]!.inputs).toMatchObject({ team: 'away', logo: true });
    expect(filled([['Eve', 'Away']], { from, items: first.all }).rows).toEqual(['same Eve']);
    expect(filled([['Eve', 'Both']], { from }).rows[0]).toContain('one of');
  });
});

describe('a model of a rundown', () => {
  const groups = [
    { key: 'game', name: 'Game', items: ['other', 'Bo'] },
    { key: 'empty', name: 'Empty', items: [] },
  ];
  const here = {
    items,
    groups,
    templates: [template],
    zones: [...zones, { output: 'board', zone: 'z' }],
    onAir: new Set(['Bo']),
  };
  const model = modelOf({ key: 'm', name: 'M' }, groups.slice(0, 1), [
    item('Bo', 4, { aired: 5, follows: 'other', hotkey: 'F2' }),
    item('other', 9, { zones: [...zones, { output: 'gone', zone: 'z' }], inputs: { name: 'N', nick: 'x' } }),
    item('loose', 3, { template: 'gone' }),
  ]);

  it('is a document, of a night that has not begun', () => {
    expect(parseModel(model)).toMatchObject({ ok: true });
    expect(model.groups.map((g) => [g.name, g.items.map((i) => [i.key, i.aired])])).toEqual([
      [
        'Game',
        [
          ['other', null],
          ['Bo', null],
        ],
      ],
      ['More', [['loose', null]]],
    ]);
  });

  it('is added to what is there, under keys and numbers of its own; what is not here is left out and said', () => {
    const used = usedModel(model, here, 'add');
    expect(used.items.map((i) => [i.key, i.number, i.follows])).toEqual([
      ['other-2', 10, null],
      ['bo', 11, 'other-2'],
    ]);
    expect(used.items[0]).toMatchObject({ zones, inputs: { name: 'N' } });
    expect(used.groups.map((g) => g.items)).toEqual([['other', 'Bo', 'other-2', 'bo'], [], []]);
    expect(used.gone).toEqual([]);
    expect(used.said).toEqual([
      'other goes to 1 of its 2 zones: the others are not here.',
      'loose is left out: there is no template “gone” here.',
    ]);
  });

  it('takes the place of all but what is on air', () => {
    const used = usedModel(model, { ...here, items: [...items, item('old', 1)] }, 'replace');
    expect(used.gone).toEqual(['old']);
    expect(used.items.map((i) => [i.key, i.number])).toEqual([
      ['other', 9],
      ['bo', 10],
    ]);
    expect(used.groups.map((g) => [g.name, g.items])).toEqual([
      ['Game', ['Bo', 'other', 'bo']],
      ['More', []],
    ]);
  });
});
