import { describe, expect, it } from 'vitest';
import { layersOf, type Layer, type Layout } from '../layers/kinds.ts';
import { parseTemplate } from '../documents/template.ts';
import { aligned, around, distributed, drawn, EDGES, safeArea } from './boxes.ts';
import type { Box } from '../text/fit.ts';
import { begun, changed, ended, joined, redone, undone, type Session } from './session.ts';
import { copiesOf, group, move, newLayer, order, originOf, outermost, remove, ungroup } from './tree.ts';

const box = (x: number, y: number, width: number, height: number): Box => ({ x, y, width, height });
const shape = (id: string, b: Box, layers?: Layer[]) =>
  ({ id, kind: layers ? 'group' : 'shape', name: id, ...b, ...(layers ? { layers } : {}) }) as Layer;

/** a, a group of b and a group of c, and d. */
const layout = (): Layout => ({
  key: 'l',
  width: 400,
  height: 200,
  layers: [
    shape('a', box(0, 0, 10, 10)),
    shape('g', box(100, 50, 100, 100), [
      shape('b', box(5, 5, 10, 10)),
      shape('h', box(20, 20, 50, 50), [shape('c', box(1, 2, 10, 10))]),
    ]),
    shape('d', box(300, 0, 40, 20)),
  ],
});
/** The tree in short: a layer's id, and in brackets what it holds. */
const drawnOf = (layers: readonly Layer[]): string =>
  layers.map((l) => ('layers' in l ? `${l.id}(${drawnOf(l.layers)})` : l.id)).join(' ');
/** Where each layer stands in the layout. */
const places = (l: Layout) =>
  Object.fromEntries(
    [...layersOf(l.layers)]
      .filter((x) => !('layers' in x))
      .map((x) => [
        x.id,
        [originOf(l.layers, x.id).x + Number(x.x), originOf(l.layers, x.id).y + Number(x.y)],
      ]),
  );
const ids = (...list: string[]) => new Set(list);

describe('boxes', () => {
  const three = [box(0, 0, 10, 10), box(50, 40, 20, 30), box(95, 100, 5, 5)];

  it.each([
    ['left', [0, 0, 0]],
    ['centre', [45, 40, 48]],
    ['right', [90, 80, 95]],
    ['top', [0, 0, 0]],
    ['middle', [48, 38, 50]],
    ['bottom', [95, 75, 100]],
  ] as const)('are aligned by their %s', (edge, at) => {
    const axis = EDGES.indexOf(edge) < 3 ? 'x' : 'y';
    expect(aligned(three, edge, around(three)!).map((b) => b[axis])).toEqual(at);
  });

  it.each([
    ['three', three, [0, 43, 95]],
    ['in any order', [three[2]!, three[0]!, three[1]!], [95, 0, 43]],
    ['that overlap', [box(0, 0, 60, 1), box(10, 0, 60, 1), box(40, 0, 60, 1)], [0, 20, 40]],
    ['two', three.slice(0, 2), [0, 50]],
  ])('have equal gaps: %s', (_, boxes, at) =>
    expect(distributed(boxes, 'across').map((b) => b.x)).toEqual(at),
  );

  it.each([
    [{}, box(10, 20, 30, 5)],
    [{ even: true }, box(10, 20, 30, 30)],
    [{ centred: true }, box(-20, 15, 60, 10)],
  ])('are drawn from corner to corner: %o', (how, made) =>
    expect(drawn({ x: 10, y: 20 }, { x: 40, y: 25 }, how)).toEqual(made),
  );

  it('are drawn in any direction, and one of no size is no box', () => {
    expect(drawn({ x: 40, y: 25 }, { x: 10.4, y: 20.6 }, { even: true })).toEqual(box(10, -5, 30, 30));
    expect(around([])).toBeNull();
  });

  it('safe areas stand in the middle', () =>
    expect(safeArea(1920, 1080, 0.9)).toEqual({
      x: expect.closeTo(96, 6),
      y: expect.closeTo(54, 6),
      width: 1728,
      height: 972,
    }));
});

describe('the tree of layers', () => {
  it.each([
    ['into a group', ['a'], { within: 'h', before: 'c' }, 'g(b h(a c)) d'],
    ['out of one', ['c'], { within: null, before: 'a' }, 'c a g(b h()) d'],
    [
      'several, in the order in which they are drawn',
      ['d', 'b'],
      { within: null, before: 'a' },
      'b d a g(h(c))',
    ],
    [
      'what a chosen one holds goes along with it',
      ['g', 'c'],
      { within: null, before: null },
      'a d g(b h(c))',
    ],
    ['to the end', ['a'], { within: 'g', before: null }, 'g(b h(c) a) d'],
  ])('layers move %s and look the same', (_, chosen, to, tree) => {
    const l = layout();
    const before = places(l);
    expect(move(l, ids(...chosen), to)).toBe(true);
    expect(drawnOf(l.layers)).toBe(tree);
    expect(places(l)).toEqual(before);
  });

  it.each([
    ['itself', 'g'],
    ['what it holds', 'h'],
    ['what holds nothing', 'a'],
    ['what is not there', 'z'],
  ])('a group does not go into %s', (_, within) => {
    const l = layout();
    expect(move(l, ids('g'), { within, before: null })).toBe(false);
    expect(l).toEqual(layout());
  });

  it('layers are grouped and ungrouped where they stand', () => {
    const l = layout();
    const before = places(l);
    const id = group(l, ids('a', 'b'))!;
    expect(drawnOf(l.layers)).toBe(`g(${id}(a b) h(c)) d`);
    expect(places(l)).toEqual(before);
    expect(ungroup(l, ids(id, 'd'))).toEqual(['a', 'b', 'd']);
    expect(drawnOf(l.layers)).toBe('g(a b h(c)) d');
    expect(places(l)).toEqual(before);
    expect(group(l, ids('z'))).toBeNull();
  });

  it.each([
    ['front', ['a', 'g'], 'd a g'],
    ['forward', ['a', 'g'], 'd a g'],
    ['forward', ['a'], 'g a d'],
    ['forward', ['d'], 'a g d'],
    ['forward', ['g', 'd'], 'a g d'],
    ['backward', ['g', 'd'], 'g d a'],
    ['back', ['g', 'd'], 'g d a'],
    ['backward', ['a', 'd'], 'a d g'],
  ] as const)('%s: %o', (to, chosen, tree) => {
    const l = layout();
    for (const x of l.layers) if ('layers' in x) x.layers = [];
    order(l, ids(...chosen), to);
    expect(drawnOf(l.layers).replaceAll('()', '')).toBe(tree);
  });

  it('copies have ids and names of their own, and what is bound stays bound', () => {
    const l = layout();
    l.layers[0]!.x = { field: 'home.score' };
    const copies = copiesOf(l, outermost(l.layers, ids('a', 'g', 'c')), { x: 5, y: 6 });
    l.layers.push(...copies);
    expect(drawnOf(copies)).toBe('a-2 g-2(b-2 h-2(c-2))');
    expect(copies.map((c) => [c.name, c.x, c.y])).toEqual([
      ['a 2', { field: 'home.score' }, 6],
      ['g 2', 105, 56],
    ]);
    l.layers.push(...copiesOf(l, copies.slice(0, 1), { x: 0, y: 0 }));
    expect(l.layers.at(-1)).toMatchObject({ id: 'a-3', name: 'a 3' });
    remove(l, ids('a', 'h', 'h-2'));
    expect(drawnOf(l.layers)).toBe('g(b) d a-2 g-2(b-2) a-3');
  });

  it.each(['text', 'clock', 'shape', 'picture', 'pips', 'group', 'one-of', 'line'] as const)(
    'a new %s is a layer that can be saved',
    (kind) => {
      const l = layout();
      const made = newLayer(l, kind, box(1, 2, 30, 40));
      l.layers.push(kind === 'group' || kind === 'one-of' ? ({ ...made, layers: [] } as Layer) : made);
      const template = { schema: 3, key: 't', name: 'T', inputs: [], layouts: [l] };
      expect(parseTemplate(template)).toMatchObject({ ok: true });
    },
  );
});

describe('an editing session', () => {
  type Doc = { name: string; list: { id: string; n: number }[] };
  const first: Doc = {
    name: 'a',
    list: [
      { id: 'x', n: 1 },
      { id: 'y', n: 1 },
    ],
  };
  const set = (s: Session<Doc>, id: string, n: number, entry: string | null = null) =>
    changed(s, `Set ${id}`, (d) => void (d.list.find((e) => e.id === id)!.n = n), entry);
  const ok = <T>(s: Session<T> | string): Session<T> => {
    if (typeof s === 'string') throw new Error(s);
    return s;
  };

  it('takes back and does again whatever was done, as a naive model says', () => {
    let seed = 7;
    const random = (below: number) => (seed = (seed * 48_271) % 2_147_483_647) % below;
    let session = begun(first);
    let model = [first];
    let at = 0;
    for (let i = 0; i < 3000; i++) {
      const what = random(5);
      if (what === 0 && at > 0) {
        session = ok(undone(session));
        at--;
      } else if (what === 1 && at < model.length - 1) {
        session = ok(redone(session));
        at++;
      } else if (what > 1) {
        const next = set(session, 'xy'[random(2)]!, random(5));
        if (next !== session) model = [...model.slice(0, ++at), next.doc];
        session = next;
      }
      expect(session.doc).toEqual(model[at]);
    }
  });

  it('makes one step of an entry that goes on, and shares what did not change', () => {
    let s = begun(first);
    for (const n of [2, 3, 4]) s = set(s, 'x', n, 'x');
    s = set(ended(s), 'x', 5, 'x');
    expect(s.done.map((d) => [d.after.list[0]!.n, d.back])).toEqual([
      [4, [{ op: 'replace', path: '/list/0/n', value: 1 }]],
      [5, [{ op: 'replace', path: '/list/0/n', value: 4 }]],
    ]);
    expect(s.doc.list[1]).toBe(first.list[1]);
    expect(set(s, 'x', 5)).toBe(s);
    expect(undone(begun(first))).toBe('There is nothing to undo.');
  });

  it('joins what another desk saved, and takes back only what nobody changed since', () => {
    let s = set(begun(first), 'x', 2);
    s = set(s, 'y', 2);
    const theirs: Doc = { ...first, name: 'b', list: [{ id: 'x', n: 9 }, first.list[1]!] };
    const both = joined(s, first, theirs);
    expect(both.clashes).toEqual(['list x n']);
    expect(both.session.doc).toEqual({
      name: 'b',
      list: [
        { id: 'x', n: 2 },
        { id: 'y', n: 2 },
      ],
    });
    s = ok(undone(both.session));
    expect(s.doc).toEqual({
      name: 'b',
      list: [
        { id: 'x', n: 2 },
        { id: 'y', n: 1 },
      ],
    });
    s = joined(s, s.doc, { ...s.doc, list: [{ id: 'x', n: 7 }, s.doc.list[1]!] }).session;
    expect(undone(s)).toBe('Set x: list x n was changed at another desk since.');
    expect(ok(redone(s)).doc.list.map((e) => e.n)).toEqual([7, 2]);
    expect(joined(s, s.doc, s.doc).session).toBe(s);
  });
});
