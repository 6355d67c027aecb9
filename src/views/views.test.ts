import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import lacrosse from '../../data/basic/profile/box-lacrosse.json' with { type: 'json' };
import bar from '../../data/demo/template/scoreboard-bar.json' with { type: 'json' };
import card from '../../data/demo/template/player-card.json' with { type: 'json' };
import { parseGame } from '../core/show/game-doc.ts';
import { gameChanges, gameTables, swapSides, type Game } from '../core/show/game.ts';
import { matchColumns, planRoster } from '../core/show/roster.ts';
import { preflight } from '../core/show/preflight.ts';
import type { SourceBundle } from '../core/source/source.ts';
import { parseBundle } from '../core/source/bundle.ts';
import { parseProfile } from '../core/sport/profile.ts';
import { parseTemplate } from '../core/documents/template.ts';
import type { DeskSnapshot } from '../core/wire/wire.ts';
import { rosterCsv, readSheet, rosterWorkbook } from './game/sheets.ts';
import { aboutText, sizeText, usageOf } from './media/usage.ts';
import { neededFields } from './patch/needed.ts';
import { fieldLines, proposals, readingLines } from './patch/overview.ts';
import { lastJsonLine } from './sources/document.ts';
import { copyOf, newBundle, withDocument, withMap } from './sources/draft.ts';
import {
  completions,
  kindOf,
  matching,
  readCondition,
  rowInWords,
  rowScope,
  sampleScope,
  valueOfKind,
  writeCondition,
  type ValueContext,
} from './value/context.ts';
import { evaluate, type Value } from '../core/value/value.ts';

const read = (path: string) =>
  JSON.parse(readFileSync(new URL(`../../data/${path}`, import.meta.url), 'utf8')) as unknown;
const ok = <T>(r: { ok: true; value: T } | { ok: false; problems: string[] }): T => {
  if (!r.ok) throw new Error(r.problems.join('\n'));
  return r.value;
};
const profile = ok(parseProfile(lacrosse));
const game = ok(parseGame(read('demo/game/opening-night.json')));
const templates = [ok(parseTemplate(bar)), ok(parseTemplate(card))];

/** A source of two readings with these links. */
function source(key: string, links: object[], enabled = true): SourceBundle {
  return ok(
    parseBundle({
      schema: 1,
      source: {
        schema: 1,
        key,
        name: key.toUpperCase(),
        enabled,
        transport: { kind: 'http', url: 'http://127.0.0.1/x' },
        limits: { late: 1000, lost: 2000 },
      },
      document: {
        schema: 1,
        key,
        readings: ['home score', 'running', 'period'].map((name) => ({ name, place: '/a', as: 'text' })),
        tables: [
          {
            key: `t-${key}`,
            name: 'T',
            rows: '/a/b',
            columns: [{ name: 'n', place: '@n', as: 'text' }],
            keyed: ['n'],
          },
        ],
      },
      patch: links.length ? { schema: 1, key, source: key, links } : null,
    }),
  );
}

describe('the patch at a glance', () => {
  const feeds = [{ reading: 'home score', field: 'home.score' }];
  const trouble = (bundles: SourceBundle[], field: string) =>
    fieldLines(profile.fields, bundles, neededFields(templates)).find((l) => l.def.key === field)?.trouble;

  it.each<[string, SourceBundle[], string, string | null]>([
    ['needed and not fed', [], 'home.score', 'unfed'],
    ['needed by nobody', [], 'home.shots', null],
    ['from the game', [], 'home.name', null],
    ['fed', [source('a', feeds)], 'home.score', null],
    ['fed by one that is off', [source('a', feeds, false)], 'home.score', 'unfed'],
    ['two at one place', [source('a', feeds), source('b', feeds)], 'home.score', 'conflict'],
    [
      'two at two places',
      [source('a', feeds), source('b', [{ ...feeds[0], priority: 2 }])],
      'home.score',
      null,
    ],
    ['two, one of them off', [source('a', feeds), source('b', feeds, false)], 'home.score', null],
  ])('%s', (_name, bundles, field, wanted) => expect(trouble(bundles, field)).toBe(wanted));

  it('lists feeders in their order, readings with what they feed, and proposes the rest', () => {
    const a = source('a', [{ reading: 'home score', field: 'home.score', priority: 3, running: 'running' }]);
    const b = source('b', feeds);
    const [line] = fieldLines(profile.fields, [a, b], neededFields(templates)).filter(
      (l) => l.def.key === 'home.score',
    );
    expect(line!.feeders.map((f) => [f.source, f.place])).toEqual([
      ['b', 1],
      ['a', 3],
    ]);
    expect(line!.neededBy).toEqual(['Scoreboard bar']);
    expect(readingLines(a)).toMatchObject([
      { name: 'home score', feeds: ['home.score'], runs: false },
      { name: 'running', feeds: [], runs: true },
      { name: 'period', feeds: [], runs: false },
    ]);
    expect(proposals(a, profile.fields).map((p) => [p.reading, p.field.key])).toEqual([
      ['period', 'situation.period'],
    ]);
  });
});

describe('drafts of sources', () => {
  it('keep links of readings that stay, and follow a renamed one', () => {
    const a = source('a', [{ reading: 'home score', field: 'home.score', running: 'running' }]);
    const [first, running] = a.document!.readings;
    const renamed = withDocument(
      a,
      { readings: [{ ...first!, name: 'goals' }, running!] },
      { from: 'home score', to: 'goals' },
    );
    expect(renamed.patch!.links).toEqual([{ reading: 'goals', field: 'home.score', running: 'running' }]);
    expect(withDocument(a, { readings: [first!] }).patch!.links[0]!.running).toBeUndefined();
    expect(withDocument(a, { readings: [] }).patch).toBeNull();
  });
  it('a copy has tables of its own and no patch; a ready map becomes its own', () => {
    const copy = copyOf(source('a', [{ reading: 'period', field: 'situation.period' }]), 'A copy', ['a']);
    expect(copy.document).toMatchObject({ key: 'a-copy', tables: [{ key: 't-a-a-copy' }] });
    expect(copy.patch).toBeNull();
    const map = read('basic/frame-map/simulated-baseball.json') as never;
    const mapped = withMap(newBundle('Diamond', []), map);
    expect(ok(parseBundle(mapped)).source.frameMap).toBe('diamond');
  });
  it.each([
    ['{"a":1}\n{"b":2}\n{"c', 'b'],
    ['x\n{"a":1}\nnot json\n', 'a'],
    ['12\n', undefined],
    ['', undefined],
  ])('the newest whole line of %j', (text, name) => {
    expect(lastJsonLine(new TextEncoder().encode(text))?.children[0]?.name).toBe(name);
  });
  it.each([
    [{ map: read('demo/frame-map/lacrosse-console.json') }, 'not both'],
    [
      { document: null, map: read('demo/frame-map/lacrosse-console.json') },
      'only a stream of bytes has a frame map',
    ],
    [
      { patch: { schema: 1, key: 'a', source: 'a', links: [{ reading: 'nothing', field: 'home.score' }] } },
      'no reading "nothing"',
    ],
    [
      { source: { ...source('a', []).source, transport: { kind: 'http', url: 'ftp://x' } } },
      'begins with http',
    ],
    [
      { source: { ...source('a', []).source, transport: { kind: 'file', path: 'relative' } } },
      'a file is a path',
    ],
    [
      {
        source: {
          ...source('a', []).source,
          transport: { kind: 'http', url: 'http://x', header: { name: 'a b', value: '' } },
        },
      },
      'name of a header',
    ],
  ])('refuses a bundle with %j', (part, problem) => {
    const result = parseBundle({ ...source('a', []), ...part });
    expect(result.ok || result.problems.join()).toContain(problem);
  });
});

describe('rosters', () => {
  const [keel, bram] = game.home.players;
  it.each([
    [
      ['No.', 'Given name', 'Surname', 'Pos'],
      { number: 0, first: 1, last: 2, position: 3, class: -1, headshot: -1 },
    ],
    [['Name', '#', 'Photo'], { number: 1, first: -1, last: 0, position: -1, class: -1, headshot: 2 }],
    [['x', 'y'], { number: -1, first: -1, last: -1, position: -1, class: -1, headshot: -1 }],
  ])('the headings %j are matched', (headings, wanted) => expect(matchColumns(headings)).toEqual(wanted));

  it('plans what is new, changed, gone and refused, and touches no column that is not on the sheet', () => {
    const match = matchColumns(['number', 'position']);
    const rows = [
      [keel!.number, 'Bench'],
      ['88', 'Forward'],
      ['88', 'Again'],
      ['x1', 'Odd'],
      ['', ''],
    ];
    const plan = planRoster([keel!, bram!], rows, match, true);
    expect(plan.players).toEqual([
      { ...keel, position: 'Bench' },
      { number: '88', first: '', last: '', position: 'Forward', class: '', headshot: '' },
    ]);
    expect(plan.changes.map((c) => [c.kind, c.says])).toEqual([
      ['changed', `position: ${keel!.position} → Bench`],
      ['new', 'position: Forward'],
      ['refused', 'number 88 is on the sheet twice'],
      ['refused', '"x1" is no number of up to three digits'],
      ['gone', ''],
    ]);
    expect(planRoster([keel!, bram!], rows, match, false).players).toHaveLength(3);
  });

  it('reads a sheet as a federation writes it: a title, Last, First in one column, a role that is no class', async () => {
    const sheet = 'Fellside League 2026;;;\n;;;\nNo.;Player;Role;Pos\n7;Keel, Ada;captain;Forward\n';
    const { headings, rows } = await readSheet(new File([sheet], 'r.csv'));
    const plan = planRoster([], rows, matchColumns(headings), false);
    expect(plan.players).toEqual([
      { number: '7', first: 'Ada', last: 'Keel', position: 'Forward', class: '', headshot: '' },
    ]);
    expect(plan.changes[0]!.says).toBe('position: Forward');
  });

  it('goes out as CSV and as a workbook and comes back the same, 07 as 07', async () => {
    const players = [{ ...keel!, number: '07' }, bram!];
    const book = await rosterWorkbook(players);
    const files = [new File([rosterCsv(players)], 'r.csv'), new File([await book.arrayBuffer()], 'r.xlsx')];
    for (const file of files) {
      const { headings, rows } = await readSheet(file);
      expect(planRoster(players, rows, matchColumns(headings), true).changes).toEqual([]);
    }
    await expect(readSheet(new File(['PKx'], 'x.xlsx'))).rejects.toThrow('damaged workbook');
    await expect(readSheet(new File(['a,b\n'], 'x.csv'))).rejects.toThrow('no rows');
    await expect(readSheet(new File(['a\n"b\n'], 'x.csv'))).rejects.toThrow('neither CSV');
  });
});

describe('the game', () => {
  it('says the same of exchanged sides, crosswise', () => {
    const said = (g: Game) => Object.fromEntries(gameChanges(g).map((c) => [c.key, 'value' in c && c.value]));
    const [a, b] = [said(game), said(swapSides(game))];
    expect(b['home.name']).toBe(a['away.name']);
    expect(b['away.colour']).toBe(a['home.colour']);
    expect(b['game.venue']).toBe(a['game.venue']);
    const rows = (g: Game, key: string) => gameTables(g).find((t) => t.key === key)!.rows;
    expect(rows(swapSides(game), 'home.players')).toEqual(rows(game, 'away.players'));
  });
  it('wears the alternate kit when it is worn', () => {
    const alternate = { name: 'White', colour: '#eeeeee', second: '#111111' };
    const worn = { ...game, home: { ...game.home, alternate, wearsAlternate: true } };
    const said = gameChanges(worn).find((c) => c.key === 'home.colour');
    expect(said).toMatchObject({ value: '#eeeeee' });
  });
  it.each([
    [{ home: { ...game.home, players: [{ number: '7' }, { number: '7' }] } }, 'the number 7 is there twice'],
    [{ home: { ...game.home, players: [{ number: 'seven' }] } }, 'three digits'],
    [{ date: 'Saturday' }, 'a date is written'],
    [{ away: { ...game.away, colour: 'teal' } }, '#rrggbb'],
  ])('refuses %#', (part, problem) => {
    const result = parseGame({ ...game, ...part });
    expect(result.ok || result.problems.join()).toContain(problem);
  });
});

describe('preflight of look-ups', () => {
  const rows: Record<string, Record<string, string | boolean>> = {
    'home.players 7': { name: 'Bram', position: 'Forward' },
    'home.headshots 7': { path: 'headshots/Herons/7', picture: '/media/x', found: false },
  };
  const board = {
    def: () => profile.fields[0],
    stateOf: () => ({ value: 'x', origin: 'game', at: 0, quality: 'ok' as const }),
    row: (table: string, key: string) => rows[`${table} ${key}`],
  };
  const said = (number: string) =>
    preflight(templates[1]!.layouts[0]!, { number, team: 'home' }, templates[1]!.inputs, board);
  it('names a keyed picture that is missing, and a row that is not there', () => {
    expect(said('7')).toEqual(['The picture headshots/Herons/7 is missing.']);
    expect(said('99')).toContain('Player is blank: no row of the table says it.');
  });
});

describe('the Value editor', () => {
  const context: ValueContext = {
    defs: profile.fields,
    tables: [{ key: 't', name: 'T', columns: ['name'], rows: [], origin: 's', at: 0, quality: 'ok' }],
    inputs: { reading: 'x' },
    scope: { field: () => null, input: () => null },
    now: 'the board now',
  };
  it.each(['fixed', 'field', 'input', 'pieces', 'choose', 'lookup', 'formula'] as const)(
    'makes a %s of anything',
    (kind) => {
      const made: Value = valueOfKind(kind, { field: 'home.score' }, context);
      expect(kindOf(made)).toBe(kind);
    },
  );
  it.each([
    ['home.sc', 7, ['home.score'], 0],
    ['1 + shots', 9, ['home.shots', 'away.shots'], 4],
    ['home.score ', 11, [], 11],
    ['', 0, [], 0],
  ])('completes %j at %i', (text, caret, found, from) => {
    const names = ['home.score', 'home.shots', 'away.shots'];
    expect(completions(text, caret, names)).toEqual({ from, found });
  });
  it('tries a value on what is typed, by the kinds of its fields, and on any row of a table', () => {
    const scope = {
      ...context.scope,
      field: (key: string) => (key === 'away.score' ? 2 : null),
      ranked: () => ({ name: 'first' }),
    };
    const given = (value: Value, typed: Record<string, string>) => {
      const tried = sampleScope({ defs: context.defs, scope }, typed);
      return tried.problem ?? evaluate(value, tried.scope);
    };
    const sum: Value = { formula: 'home.score + away.score' };
    expect(given(sum, { 'home.score': '5' })).toBe(7);
    expect(given(sum, { 'home.score': 'many' })).toMatch(/^Home score is a whole number/);
    expect(given({ formula: 'clock.game / 1000' }, { 'clock.game': '1:05' })).toBe(65);
    expect(given({ input: 'reading', format: 'ordinal' }, { reading: '3' })).toBe('3rd');
    expect(given({ input: 'reading', fallback: 'none' }, { reading: ' ' })).toBe('none');
    const name: Value = { lookup: { table: 't', rank: { fixed: 1 }, column: 'name' } };
    const keyed: Value = { lookup: { table: 't', key: { fixed: '9' }, column: 'name' } };
    const other: Value = { lookup: { table: 'u', rank: { fixed: 1 }, column: 'name' } };
    const row = rowScope(scope, 't', { name: 'Keel' });
    expect([name, keyed, other].map((value) => evaluate(value, row))).toEqual(['Keel', 'Keel', 'first']);
    expect(rowInWords('home 07', { side: 'home', no: '07', name: 'Keel', at: null, goals: 0 })).toBe(
      'home 07 · Keel · 0',
    );
  });
  it('finds rows by a part of their key or content, those whose key begins so first', () => {
    const rows = [
      ['h12', { name: 'Orrell', line: 'no. 7' }],
      ['7', { name: 'Keel' }],
      ['17', { name: 'Sevenoak' }],
    ] as const;
    expect(matching(rows, ' 7').map(([k]) => k)).toEqual(['7', 'h12', '17']);
    expect(matching(rows, 'KEEL').map(([k]) => k)).toEqual(['7']);
    expect(matching(rows, '', 2).map(([k]) => k)).toEqual(['h12', '7']);
  });
  it.each<[string, object]>([
    ['H, A', { is: ['H', 'A'] }],
    ['3 to 5', { min: 3, max: 5 }],
    ['from 5', { min: 5 }],
    ['to -3', { max: -3 }],
    ['blank', { blank: true }],
    ['not blank', { blank: false }],
    ['1, yes, 007', { is: [1, true, '007'] }],
  ])('the condition %j is read and written', (text, condition) => {
    expect(readCondition(text)).toEqual(condition);
    expect(writeCondition(condition)).toBe(text);
  });
});

describe('the library in words', () => {
  it.each([
    [999, '999 B'],
    [12_345, '12 kB'],
    [3_400_000, '3.4 MB'],
  ])('%i bytes', (n, text) => expect(sizeText(n)).toBe(text));
  it('says what a picture is and where it is used', () => {
    const entry = {
      path: 'headshots/herons/7.svg',
      hash: 'a'.repeat(64),
      type: 'image/gif' as const,
      size: 500,
      width: 9,
      height: 8,
      alpha: true,
      length: 1200,
    };
    expect(aboutText(entry)).toBe('GIF · 9 × 8 · transparent · 1.2 s · 500 B');
    const keyed = {
      what: 'pictures' as const,
      key: 'home.headshots',
      name: 'Headshots',
      from: ['home.players'],
      path: 'number',
      fallback: 'Headshots/Silhouette.png',
    };
    const uses = usageOf({
      templates,
      items: [
        {
          id: 'i',
          number: 1,
          name: 'Item',
          template: 't',
          zone: 'z',
          inputs: { picture: 'HEADSHOTS/Herons/7' },
        },
      ],
      games: [game],
      derived: [{ doc: keyed, own: true }],
      tables: [{ key: 'home.headshots', rows: [['7', { path: 'headshots/Herons/7' }]] }],
    } as unknown as DeskSnapshot);
    expect(uses.get('headshots/herons/7')).toEqual(['item Item', 'Headshots']);
    expect(uses.get('headshots/silhouette')).toEqual(['Headshots']);
    expect(uses.get('marks/herons')).toEqual(['game Herons v Foxes']);
  });
});
