import { describe, expect, it } from 'vitest';
import type { Template } from '../documents/template.ts';
import type { PreflightScope } from './finding.ts';
import { findings, fitKey } from './findings.ts';
import { newItem } from './item.ts';
import { wrongWithPage } from './pages.ts';
import { emptyLane, type Output } from './show.ts';

const text = { kind: 'text', x: 0, y: 0, width: 50, height: 20 };
const template = {
  key: 'strip',
  name: 'Strip',
  inputs: [{ key: 'name', label: 'Name', kind: 'text', required: true }],
  layouts: [
    {
      key: 'wide',
      width: 400,
      height: 40,
      layers: [{ ...text, id: 'a', name: 'score', font: 'Teko', text: { field: 'home.score' } }],
    },
  ],
} as unknown as Template;
const output: Output = {
  ...{ schema: 5, key: 'board', name: 'Bøard', place: 1, width: 400, height: 100, lead: 0, venue: true },
  background: { kind: 'transparent' },
  zones: [{ key: 'top', name: 'Top', letter: '', x: 0, y: 0, width: 400, height: 40 }],
};
const at = { output: 'board', zone: 'top' };
const item = newItem({
  key: 'one',
  number: 1,
  name: 'One',
  template: 'strip',
  zones: [at],
  inputs: { name: 'x' },
});
const quiet: PreflightScope = {
  documents: { item: [item], template: [template], output: [output], trigger: [], look: [], rundown: [] },
  ...{ derived: [], problems: {} },
  lanes: [emptyLane(at)],
  ...{ sources: [], bundles: [], tables: [], gone: [], cards: [], rehearsal: null, unread: [] },
  pages: [{ id: 1, output: 'board', as: 'page', from: 'here', since: 0, late: 4, state: 'open' }],
  database: { ok: true },
  disk: 9e9,
  fits: new Map(),
};
const board = {
  def: (key: string) =>
    ({ key, label: 'Home score', kind: 'integer', group: 'home', min: 0, max: 9 }) as const,
  stateOf: (key: string) => ({
    value: /mark|colour/.test(key) ? '' : 3,
    ...{ origin: 'c', at: 1, quality: 'ok' as const },
  }),
};
const said = (night: Partial<PreflightScope>, on: object = board) =>
  findings({ ...quiet, ...night }, on as typeof board).map((f) => `${f.severity} ${f.subject}: ${f.text}`);
const withItem = (more: object) => ({ ...quiet.documents, item: [{ ...item, ...more }] });

describe('what would embarrass', () => {
  it.each<[string, Partial<PreflightScope>, string]>([
    ['a database', { database: { ok: false } }, 'now Database: It does not answer: nothing can be changed.'],
    ['a disk', { disk: 12e6 }, 'now Disk: Only 12 MB are left.'],
    ['a rehearsal', { rehearsal: {} }, 'now Rehearsal: A tape is played: what is on air is no game.'],
    ['a test card', { cards: ['board'] }, 'now Bøard: Its test card is on.'],
    [
      'a source',
      { sources: [{ key: 'c', name: 'Çonsole', health: 'late' } as never] },
      'now Çonsole: It is late.',
    ],
    ['no page', { pages: [] }, 'look Bøard: No page has it open.'],
    [
      'a page that went',
      { gone: [{ ...quiet.pages[0]!, id: 7, state: 'gone' }] },
      'now Bøard: The page at here was open and is gone.',
    ],
    ['an empty input', { documents: withItem({ inputs: {} }) }, 'taken 1 One: Name is empty.'],
    ['no zone', { documents: withItem({ zones: [] }) }, 'look 1 One: It goes to no zone yet.'],
    [
      'a zone that went',
      { documents: withItem({ zones: [{ output: 'board', zone: 'x' }] }) },
      'taken 1 One: It goes to a zone that is gone: board/x.',
    ],
    [
      'a template that went',
      { documents: { ...quiet.documents, template: [] } },
      'taken 1 One: Its template is missing.',
    ],
    [
      'a small text',
      { fits: new Map([[fitKey('one', at), ['Score is cut off.']]]) },
      'taken 1 One: Bøard, Top: Score is cut off.',
    ],
    [
      'pictures',
      {
        tables: [
          {
            key: 'p',
            name: 'Sponsors',
            rows: [
              ['a', { found: false, path: 'marks/ä' }],
              ['b', { found: true }],
            ],
          } as never,
        ],
      },
      'taken Sponsors: 1 picture is missing: marks/ä.',
    ],
    [
      'a trigger',
      {
        documents: {
          ...quiet.documents,
          trigger: [{ key: 't', name: 'Göal', on: true, item: 'gone', when: { field: 'x' } } as never],
        },
      },
      'taken Göal: Its item is gone.',
    ],
    [
      'one key twice',
      {
        documents: {
          ...quiet.documents,
          item: [{ ...item, hotkey: 'F2' }],
          look: [{ key: 'l', name: 'Play', hotkey: 'F2' } as never],
        },
      },
      'taken F2: One and Play have the same key.',
    ],
    [
      'one number twice',
      { documents: { ...quiet.documents, item: [item, { ...item, key: 'twin', name: 'Twin' }] } },
      'taken 1: One and Twin have the same number.',
    ],
    [
      'an unread document',
      { unread: [{ kind: 'game', name: 'Odd' }] },
      'taken Odd: This game cannot be read.',
    ],
  ])('%s is found', (_, night, says) => expect(said(night)).toContain(says));

  it('what is on air is worse than what is not, and the worst stands first; a board with a gap is worth a look', () => {
    const onAir = { item: 'one', layout: 'wide', inputs: {}, takenAt: 1 };
    const lanes = [{ ...emptyLane(at), onAir }];
    const documents = withItem({ inputs: {} });
    expect(said({ lanes, documents })).toEqual([
      'now 1 One: Name is empty.',
      'look Bøard: 1 part of it is in no zone.',
    ]);
    expect(said({ documents: { ...quiet.documents, output: [{ ...output, height: 40 }] } })).toEqual([]);
  });

  it('a field that nobody feeds is named with what shows it', () => {
    const none = { ...board, stateOf: () => ({ value: null, origin: '', at: 0, quality: 'none' as const }) };
    expect(said({}, none)).toContain('look Home score: Nothing feeds it, and One shows it.');
    const bundles = [{ source: { enabled: true }, patch: { links: [{ field: 'home.score' }] } } as never];
    expect(said({ bundles }, none).join()).not.toContain('Nothing feeds it');
  });

  it.each([
    [{ state: 'open', late: 250 }, null],
    [{ state: 'open', late: 300 }, 'is 300 ms late'],
    [{ state: 'silent', late: null }, 'does not answer'],
    [{ state: 'behind', late: 1 }, 'does not take what is sent'],
    [
      { state: 'open', late: 300, fault: { item: 'bar', layer: 'Clock', text: 'odd' } },
      'cannot draw the layer “Clock” of bar: it stays as it was (odd)',
    ],
  ] as const)('a page %o: %s', (page, says) => expect(wrongWithPage(page)).toBe(says));
});
