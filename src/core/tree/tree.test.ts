import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { findCell } from './find.ts';
import { parseDocMap, type DocMap } from './doc-map.ts';
import { readNumber } from './number.ts';
import { sheetRows } from './sheet.ts';
import { fromJson } from './json.ts';
import { node, pruned, type TreeNode } from './node.ts';
import { parsePlace, placeOf, spotsAt, valueAt } from './place.ts';
import { isPlainNumber } from '../value/format.ts';
import { inferType, proposeKey, proposeTable, readDocument, readPlain } from './read.ts';

const element = (
  name: string,
  attributes: Record<string, string>,
  children: TreeNode[] = [],
  value: string | null = null,
) => ({ name, value, attributes, children });
const player = (number: string, name: string, average: string) =>
  element('player', { number, name }, [element('batting', { avg: average })]);
const stats = element('stats', { revision: '4' }, [
  element('team', { side: 'away' }, [player('07', 'Keel', '.250')]),
  element('team', { side: 'home' }, [
    element('score', {}, [], '3'),
    player('07', 'Orrell', '.317'),
    player('11', 'Keel', '.000'),
  ]),
]);
const top = { node: stats, parent: null };
const at = (text: string) => valueAt(top, parsePlace(text)!);

describe('places', () => {
  it.each([
    ["/stats/team[@side='home']/score", '3'],
    ["/stats/team[@side='home']/player[2]/@name", 'Keel'],
    ["/stats/team[@side='home']/player[@name='Keel']/batting/@avg", '.000'],
    ['/stats/@revision', '4'],
    ['/stats/team[@side="away"]/player/@number', '07'],
    ["/stats/team[score='3']/player[1]/@name", 'Orrell'],
    ['/stats/nothing', undefined],
    ['/other/@revision', undefined],
  ])('%s says %s', (place, value) => expect(at(place)).toBe(value));

  it('finds its way up, and names with signs of the notation in them', () => {
    const [spot] = spotsAt(top, parsePlace("/stats/team[@side='home']/player[2]")!);
    expect(valueAt(spot!, parsePlace('../@side')!)).toBe('home');
    expect(valueAt(spot!, parsePlace('../../@revision')!)).toBe('4');
    expect(valueAt(spot!, parsePlace('../../../@x')!)).toBeUndefined();
    const odd = node('t', null, [node('Goals/Game', 2), node('.', 3)]);
    expect(valueAt({ node: odd, parent: null }, parsePlace("'Goals/Game'")!)).toBe(2);
  });

  it.each(['', '/', '//a', 'a[', "a[@b='c]", 'a/@b/c', '/../a', 'a//b', 'a[]'])('refuses %j', (text) =>
    expect(parsePlace(text)).toBeNull(),
  );

  it('addresses a record by what only it says, so that the place holds when the order changes', () => {
    expect(placeOf(stats, [1, 0])).toBe("/stats/team[@side='home']/score");
    expect(placeOf(stats, [1, 2])).toBe("/stats/team[@side='home']/player[@number='11']");
  });

  it('finds every node of any tree again by the place that it gives', () => {
    const name = fc.constantFrom('a', 'b', 'Last name', 'x/y', "o'clock");
    const tree = fc.letrec<{ tree: TreeNode }>((tie) => ({
      tree: fc.record({
        name,
        value: fc.constantFrom(null, '1', '2'),
        attributes: fc.dictionary(fc.constantFrom('id', 'n'), fc.constantFrom('1', '2', '3'), { maxKeys: 2 }),
        children: fc.oneof({ depthSize: 'small' }, fc.constant([]), fc.array(tie('tree'), { maxLength: 4 })),
      }) as fc.Arbitrary<TreeNode>,
    })).tree;
    fc.assert(
      fc.property(tree, fc.array(fc.nat(3), { maxLength: 4 }), (root, wanted) => {
        const way: number[] = [];
        let at = root;
        for (const i of wanted) {
          if (!at.children[i]) break;
          way.push(i);
          at = at.children[i];
        }
        // An apostrophe cannot be quoted in this part of XPath; such names are told apart from none.
        fc.pre(![root.name, at.name].some((n) => n.includes("'")) && !placeOf(root, way).includes('oclock'));
        const place = parsePlace(placeOf(root, way));
        expect(place).not.toBeNull();
        expect(spotsAt({ node: root, parent: null }, place!).map((s) => s.node)).toContain(at);
      }),
    );
  });
});

describe('types', () => {
  it.each([
    ['12', true],
    ['3.5', true],
    ['-4', true],
    ['.317', false],
    ['007', false],
    ['1.50', false],
    ['', false],
    ['1e3', false],
  ])('%j is a plain number: %s', (text, is) => expect(isPlainNumber(text)).toBe(is));
  it.each([
    [['1', '2', null], 'number'],
    [['.317', '1.000'], 'text'],
    [['007', '12'], 'text'],
    [[3, 4.5], 'number'],
    [['true', 'false', ''], 'flag'],
    [['12:34', ':08'], 'clock'],
    [[], 'text'],
    [[null, ''], 'text'],
  ] as const)('%j are of type %s', (samples, type) => expect(inferType(samples)).toBe(type));
  it.each([
    ['.317', 'text', { value: '.317' }],
    ['.317', 'number', { value: 0.317 }],
    [' +4 ', 'number', { value: 4 }],
    ['0x10', 'number', { problem: '"0x10" is not a number' }],
    ['x', 'number', { problem: '"x" is not a number' }],
    ['', 'number', { value: null }],
    ['5:32', 'clock', { value: { ms: 332_000 } }],
    ['noon', 'clock', { problem: '"noon" is not a clock' }],
    ['Yes', 'flag', { value: true }],
    ['', 'flag', { value: false }],
    ['perhaps', 'flag', { problem: '"perhaps" is not yes or no' }],
    [undefined, 'text', { problem: 'nothing stands at the place of "r"' }],
  ] as const)('%j read as %s', (value, type, wanted) =>
    expect(readPlain('r', value, type)).toMatchObject(wanted),
  );
});

const docMap = (tables: object[], readings: object[] = []): DocMap => {
  const map = parseDocMap({ schema: 1, key: 'm', readings, tables });
  if (!map.ok) throw new Error(map.problems.join());
  return map.value;
};

describe('tables of documents', () => {
  it('takes rows of all teams with their team, proposes a key of two columns, and keeps forms', () => {
    const table = proposeTable(stats, '/stats/team/player', 'players', 'Players')!;
    expect(table.columns.map((c) => [c.name, c.place, c.as])).toEqual([
      ['number', '@number', 'text'],
      ['name', '@name', 'text'],
      ['batting avg', 'batting/@avg', 'text'],
      ['team side', '../@side', 'text'],
    ]);
    expect(table.keyed).toEqual(['team side', 'number']);
    const { tables } = readDocument(stats, docMap([{ ...table, keyed: ['team side', 'number'] }]));
    expect(tables[0]!.rows.map(([key, row]) => [key, row['batting avg']])).toEqual([
      ['away 07', '.250'],
      ['home 07', '.317'],
      ['home 11', '.000'],
    ]);
  });

  it.each([
    ['home 11', 'number', "/stats/team[@side='home']/player[@number='11']/@number", '11'],
    ['home 07', 'batting avg', "/stats/team[@side='home']/player[@number='07']/batting/@avg", '.317'],
    ['away 07', 'team side', "/stats/team[@side='away']/@side", 'away'],
    ['home 11', 'revision', '/stats/@revision', '4'],
  ])('finds the cell %s, %s at its place', (row, column, place, raw) => {
    const table = proposeTable(stats, '/stats/team/player', 'players', 'Players')!;
    table.columns.push({ name: 'revision', place: '/stats/@revision', as: 'text' });
    const map = docMap([{ ...table, keyed: ['team side', 'number'] }]);
    expect(findCell(stats, map, { table: 'players', row, column })).toEqual({ place, raw });
    // What it names is where the value stands, whichever way one looks.
    expect(at(place)).toBe(raw);
  });

  it('finds no cell that is not in the document', () => {
    const map = docMap([proposeTable(stats, '/stats/team/player', 'players', 'Players')!]);
    for (const [table, row, column] of [
      ['others', '07', 'name'],
      ['players', '99', 'name'],
      ['players', '07', 'goals'],
    ] as const)
      expect(findCell(stats, map, { table, row, column })).toBeNull();
  });

  it('says when a key is not unique and which would be', () => {
    const table = proposeTable(stats, '/stats/team/player', 'players', 'Players')!;
    const [read] = readDocument(stats, docMap([{ ...table, keyed: ['name'] }])).tables;
    expect(read!.problems[0]).toBe('two rows have the name "Keel"; only the first is kept');
    expect(read!.better).toEqual(['team side', 'number']);
    expect(read!.rows).toHaveLength(2);
  });

  it.each([
    [[{ id: 'a' }, { id: 'b' }], ['id'], ['id']],
    [
      [
        { name: 'Keel', no: '4' },
        { name: 'Keel', no: '9' },
      ],
      ['name', 'no'],
      ['no'],
    ],
    [[{ a: '1' }, { a: '1' }], ['a'], null],
    [[{ a: '1' }, { a: null }], ['a'], null],
  ])('proposes for %j the key %s', (rows, columns, key) => expect(proposeKey(rows, columns)).toEqual(key));

  it('leaves out what is beyond the limit or has no key, and says so', () => {
    const root = node(
      't',
      null,
      sheetRows(cells(['n', 'x'], ['1', 'a'], [null, 'b'], ['3', 'c'], ['4', 'd']), 1),
    );
    const table = {
      key: 't',
      name: 'T',
      rows: '/t/row',
      columns: [{ name: 'n', place: 'n', as: 'number' }],
      keyed: ['n'],
    };
    const [read] = readDocument(root, docMap([{ ...table, limit: 3 }])).tables;
    expect(read!.rows.map(([key]) => key)).toEqual(['1', '3']);
    expect(read!.problems.join()).toMatch(/1 rows have no n.*4 rows came; the first 3 are kept/);
  });

  it.each([
    [{ readings: [{ name: 'a', place: '//', as: 'text' }] }, 'is not a place'],
    [{ readings: [1, 2].map(() => ({ name: 'a', place: '/a', as: 'text' })) }, 'twice'],
    [
      {
        tables: [
          { key: 't', name: 'T', rows: '/t', columns: [{ name: 'n', place: 'n', as: 'text' }], keyed: ['x'] },
        ],
      },
      'not one of its columns',
    ],
  ])('refuses the map %j', (part, problem) => {
    const map = parseDocMap({ schema: 1, key: 'm', readings: [], tables: [], ...part });
    expect(map.ok || map.problems.join()).toContain(problem);
  });
});

const cells = (...rows: (string | number | null)[][]) => rows.map((r) => r.map((shows) => ({ shows })));

describe('numbers as they are written', () => {
  it.each<[string, 'point' | 'comma', number | null]>([
    ['1,234.5', 'point', 1234.5],
    ['1.234,5', 'comma', 1234.5],
    ['66.7 %', 'point', 66.7],
    ['66,7\u00a0%', 'comma', 66.7],
    ['+7', 'point', 7],
    ['.317', 'point', 0.317],
    ['007', 'point', 7],
    ["1'234'567", 'point', 1234567],
    ['1e3', 'point', 1000],
    ['1,2', 'point', null],
    ['1.2', 'comma', null],
    ['0x10', 'point', null],
    ['4:05', 'point', null],
    ['', 'point', null],
  ])('%s with a %s is %s', (text, form, wanted) => expect(readNumber(text, form)).toBe(wanted));
});

describe('trees', () => {
  it('reads JSON with lists as repeated names', () => {
    const root = fromJson({ teams: [{ side: 'home', score: 3 }, { side: 'away' }], live: true });
    const top = { node: root, parent: null };
    expect(valueAt(top, parsePlace("/document/teams[side='home']/score")!)).toBe(3);
    expect(valueAt(top, parsePlace('/document/live')!)).toBe(true);
    expect(fromJson([1, 2]).children.map((c) => c.name)).toEqual(['item', 'item']);
  });

  it('names columns without a heading, and same ones apart', () => {
    const [row] = sheetRows(cells(['a', 'a', ''], ['1', '2', '3', '4']));
    expect(row!.children.map((c) => c.name)).toEqual(['a', 'a 2', 'column 3', 'column 4']);
  });

  it.each<[string, (string | number | null)[][], number | undefined, unknown[]]>([
    [
      'titles and blank rows stand above the headings',
      [['Herons', null], [], ['name', 'goals'], [], ['Keel', 3]],
      undefined,
      [{ name: 'Keel', goals: 3 }],
    ],
    [
      'the first column is empty',
      [
        [null, 'name', 'goals'],
        [null, 'Keel', 3],
      ],
      undefined,
      [{ name: 'Keel', goals: 3 }],
    ],
    [
      'the headings are said to stand elsewhere',
      [
        ['x', 'y'],
        ['name', 'goals'],
        ['Keel', 3],
      ],
      2,
      [{ name: 'Keel', goals: 3 }],
    ],
    [
      'there are none',
      [
        ['Keel', 3],
        ['Orr', 4],
      ],
      0,
      [
        { 'column 1': 'Keel', 'column 2': 3 },
        { 'column 1': 'Orr', 'column 2': 4 },
      ],
    ],
    [
      'a column has no heading',
      [
        ['name', null],
        ['Keel', 3],
      ],
      1,
      [{ name: 'Keel', 'column 2': 3 }],
    ],
    ['nothing is in it', [], undefined, []],
  ])('%s', (_, rows, heading, wanted) =>
    expect(
      sheetRows(cells(...rows), heading).map((r) =>
        Object.fromEntries(r.children.map((c) => [c.name, c.value])),
      ),
    ).toEqual(wanted),
  );

  it('addresses a cell by what marks its row out, never by what is read', () => {
    const root = node('t', null, sheetRows(cells(['team', 'score'], ['Owls', 3], ['Foxes', 4])));
    expect(placeOf(root, [0, 1])).toBe("/t/row[team='Owls']/score");
    expect(placeOf(root, [0, 0])).toBe('/t/row[1]/team');
    const counts = node('t', null, sheetRows(cells(['shots', 'score'], [9, 3], [7, 4])));
    expect(placeOf(counts, [1, 1])).toBe('/t/row[2]/score');
  });

  it('reads lists of lists as rows, and counts what it builds before it does', () => {
    const root = fromJson({
      standings: [
        ['team', 'points'],
        ['Owls', 12],
        ['Foxes', 9],
      ],
    });
    const top = { node: root, parent: null };
    expect(valueAt(top, parsePlace("/document/standings/row[team='Foxes']/points")!)).toBe(9);
    let left = 50;
    const count = (n: number) => {
      left -= n;
      if (left < 0) throw new Error('too large');
    };
    expect(() =>
      fromJson(
        Array.from({ length: 1e5 }, () => []),
        count,
      ),
    ).toThrow('too large');
  });

  it('prunes what repeats and says how many there are', () => {
    const root = fromJson({ rows: Array.from({ length: 500 }, (_, i) => ({ i })) });
    const cut = pruned(root, 10);
    expect(cut.children).toHaveLength(10);
    expect(cut.repeated).toEqual({ rows: 500 });
    expect(pruned(root, 500).children).toHaveLength(500);
    expect(pruned(root, 500, 100).children.length).toBeLessThan(101);
  });
});
