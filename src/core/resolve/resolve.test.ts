import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import lower from '../../../data/demo/template/lower-third.json' with { type: 'json' };
import bar from '../../../data/demo/template/scoreboard-bar.json' with { type: 'json' };
import type { FieldValue } from '../board/values.ts';
import { bindingsOf, layersOf } from '../layers/kinds.ts';
import { must } from '../document/problems.ts';
import { parseTemplate } from '../documents/template.ts';
import { evaluate, isKeyed, namesIn, truthOf, type Value } from '../value/value.ts';
import { fieldsOnly } from './dependents.ts';
import { Resolver } from './resolver.ts';

const templateOf = (input: unknown) => must(parseTemplate(input));

describe('evaluate', () => {
  const fields: Record<string, FieldValue> = {
    score: 3,
    name: 'Foxes',
    colour: '#e2762b',
    none: null,
    diff: -2,
  };
  const scope = {
    field: (k: string) => fields[k] ?? null,
    input: (k: string) => (k === 'team' ? 'home' : null),
  };
  const score: Value = { field: 'score' };
  it.each<[Value, FieldValue]>([
    [{ fixed: 'x' }, 'x'],
    [{ field: 'missing' }, null],
    [{ field: 'missing', fallback: '–' }, '–'],
    [{ field: 'score', format: 'ordinal' }, '3rd'],
    [{ field: 'name', format: 'upper' }, 'FOXES'],
    [{ field: 'score', format: 'signed' }, '+3'],
    [{ field: 'diff', format: 'signed' }, '\u22122'],
    [{ field: 'colour', format: { ink: ['#fff', '#000'] } }, '#000'],
    [{ field: 'none', format: 'not' }, true],
    [{ pieces: [{ field: 'name' }, { fixed: ' ' }, score, { field: 'none' }] }, 'Foxes 3'],
    [
      {
        choose: { input: 'team' },
        cases: [
          { is: ['away'], then: { fixed: 1 } },
          { is: ['home'], then: score },
        ],
      },
      3,
    ],
    [
      { choose: score, cases: [{ min: 1, max: 2, then: { fixed: 'low' } }], otherwise: { fixed: 'high' } },
      'high',
    ],
    [{ choose: score, cases: [{ min: 3, then: { fixed: 'yes' } }] }, 'yes'],
    [{ choose: { field: 'none' }, cases: [{ blank: true, then: { fixed: 'blank' } }] }, 'blank'],
    [{ choose: { field: 'none' }, cases: [{ min: 0, then: { fixed: 'a number' } }] }, null],
  ])('%j gives %j', (value, wanted) => expect(evaluate(value, scope)).toEqual(wanted));
  it.each<[Value, boolean]>([
    [{ fixed: 'marks/owls.svg' }, false],
    [{ input: 'picture' }, false],
    [{ pieces: [{ fixed: 'headshots/' }, { input: 'number' }] }, true],
    [{ formula: '"marks/" + home.short' }, true],
    [{ choose: score, cases: [{ min: 1, then: { fixed: 'a' } }], otherwise: { pieces: [] } }, true],
    [{ choose: score, cases: [{ min: 1, then: { fixed: 'a' } }] }, false],
  ])('%j is keyed: %s', (value, wanted) => expect(isKeyed(value)).toBe(wanted));
  it('knows yes from no', () => {
    expect([null, '', 0, false, 'no', 1].map(truthOf)).toEqual([false, false, false, false, true, true]);
  });
});

describe('Resolver', () => {
  const template = templateOf(bar);
  const layout = template.layouts[0]!;
  const keys = [
    ...new Set(
      [...layersOf(layout.layers)].flatMap((l) => bindingsOf(l).flatMap((b) => [...namesIn(b.value).fields])),
    ),
  ];

  it('after any changes holds what a fresh resolve of everything gives', () => {
    const value = fc.oneof(fc.integer({ min: 0, max: 9 }), fc.constantFrom('home', 'away', '#123456', null));
    const step = fc.dictionary(fc.constantFrom(...keys), value, { minKeys: 1, maxKeys: 4 });
    fc.assert(
      fc.property(fc.array(step, { maxLength: 12 }), (steps) => {
        const board: Record<string, FieldValue> = {};
        const read = (k: string) => board[k] ?? null;
        const resolver = new Resolver(fieldsOnly(read));
        const states = resolver.mount('m', layout, {});
        for (const s of steps) {
          Object.assign(board, s);
          for (const d of resolver.touch(Object.keys(s))) Object.assign(states[d.layer]!, d.props);
        }
        expect(states).toEqual(new Resolver(fieldsOnly(read)).mount('m', layout, {}));
      }),
      { numRuns: 50 },
    );
  });

  it('evaluates only what asks for the field', () => {
    let reads = 0;
    const board: Record<string, FieldValue> = {};
    const resolver = new Resolver(
      fieldsOnly((k) => {
        reads++;
        return board[k] ?? null;
      }),
    );
    for (let i = 0; i < 50; i++) resolver.mount(`m${i}`, { ...layout, layers: [] }, {});
    resolver.mount('seen', layout, {});
    reads = 0;
    board['home.score'] = 1;
    expect(resolver.touch(['home.score'])).toEqual([
      { mount: 'seen', layer: 'home-score', props: { text: 1 } },
    ]);
    expect(reads).toBe(1);
    expect(resolver.touch(['home.score'])).toEqual([]);
    expect(resolver.usesOf('home.score')).toMatchObject([
      { mount: 'seen', layer: { name: 'home score' }, prop: 'text' },
    ]);
    resolver.unmount('seen');
    expect(resolver.usesOf('home.score')).toEqual([]);
  });

  it('fills inputs in', () => {
    const t = templateOf(lower);
    const states = new Resolver(fieldsOnly((k) => (k === 'away.short' ? 'Foxes' : null))).mount(
      'm',
      t.layouts[0]!,
      {
        name: 'Bram',
        team: 'away',
        logo: true,
      },
    );
    expect(states['name']).toMatchObject({ text: 'Bram' });
    expect(states['team']).toMatchObject({ text: 'FOXES', shows: true });
    expect(states['texts']).toEqual({ which: 'beside logo' });
  });
});
