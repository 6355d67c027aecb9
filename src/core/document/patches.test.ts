import { immutableJSONPatch } from 'immutable-json-patch';
import { describe, expect, it } from 'vitest';
import { isPatch, patched, patchesBetween, Unfit } from './patches.ts';

type Node = { id: string; n: number; more?: string; list: Node[] };

/** Numbers that look random, the same in each run. */
const dice = (seed: number) => (below: number) => (seed = (seed * 48_271) % 2_147_483_647) % below;

/** A tree changed in one way after another, as somebody who draws would: a copy of its own, made naively. */
function editedTree(of: Node, random: (below: number) => number, fresh: () => string): Node {
  const made = structuredClone(of);
  const all = (n: Node): Node[] => [n, ...n.list.flatMap(all)];
  for (let i = random(4); i >= 0; i--) {
    const nodes = all(made);
    const at = nodes[random(nodes.length)]!;
    const { list } = at;
    const some = random(list.length || 1);
    switch (random(7)) {
      case 0:
        at.n = random(5);
        break;
      case 1:
        if (at.more) delete at.more;
        else at.more = `a/b~${random(3)}`;
        break;
      case 2:
        list.splice(some, 0, { id: fresh(), n: 0, list: [] });
        break;
      case 3:
        list.splice(some, 1 + random(2));
        break;
      case 4:
        list.push(...list.splice(some, 1));
        break;
      case 5:
        list.reverse();
        break;
      default:
        // What was in one list goes into another, with all that it holds.
        if (list.length) made.list.unshift(...list.splice(some, 1));
    }
  }
  return made;
}

describe('patches', () => {
  it('make of any version any other, forwards and back, and share all else', () => {
    const random = dice(11);
    let made = 0;
    const fresh = () => `n${made++}`;
    let doc: Node = { id: 'root', n: 0, list: [] };
    for (let i = 0; i < 400; i++) {
      const next = editedTree(doc, random, fresh);
      const before = JSON.stringify(doc);
      const forth = patchesBetween(doc, next);
      const there = patched(doc, JSON.parse(JSON.stringify(forth)));
      expect(there).toEqual(next);
      // Another reader of the standard makes the same of them.
      expect(immutableJSONPatch(doc as never, forth as never)).toEqual(next);
      expect(patched(there, patchesBetween(there, doc))).toEqual(doc);
      expect(JSON.stringify(doc)).toBe(before);
      expect(forth.every(isPatch)).toBe(true);
      const untouched = doc.list.findIndex(
        (_, at) => !forth.some((p) => /^\/list\/\d+$/.test(p.path) || p.path.startsWith(`/list/${at}/`)),
      );
      if (untouched >= 0) expect(there.list[untouched]).toBe(doc.list[untouched]);
      doc = next;
    }
    expect(made).toBeGreaterThan(100);
  });

  const five = ['a', 'b', 'c', 'd', 'e'].map((id) => ({ id, n: 1 }));
  const at = (order: string) => [...order].map((id) => five.find((x) => x.id === id) ?? { id, n: 1 });
  it.each<[string, unknown, unknown, string[]]>([
    ['nothing', { a: [1, { b: 2 }] }, { a: [1, { b: 2 }] }, []],
    ['a member', { a: { 'x/y~z': 1 } }, { a: { 'x/y~z': 2 } }, ['replace /a/x~1y~0z']],
    ['one added, one gone', { a: 1 }, { b: 1 }, ['remove /a', 'add /b']],
    ['undefined is not there', { a: undefined, b: 1 }, { b: 1, c: undefined }, []],
    ['a list without ids', [1, 2, 3], [1, 9, 3], ['replace /1']],
    ['a longer one', { a: [1] }, { a: [1, 2] }, ['replace /a']],
    ['another kind of thing', { a: [] }, { a: {} }, ['replace /a']],
    ['the whole', 1, null, ['replace ']],
    ['the first to the end', five, at('bcdea'), ['remove /0', 'add /4']],
    ['the last to the front', five, at('eabcd'), ['remove /4', 'add /0']],
    ['two that change places', five, at('adcbe'), ['remove /3', 'add /1', 'remove /2', 'add /3']],
    ['one in the middle', five, at('abXcde'), ['add /2']],
    ['three gone', five, at('ae'), ['remove /1', 'remove /1', 'remove /1']],
    ['names that JavaScript has', { a: { constructor: 1 } }, { a: { constructor: 2 } }, ['replace /a']],
  ])('are few: %s', (_, before, after, few) => {
    const patches = patchesBetween(before, after);
    expect(patches.map((p) => `${p.op} ${p.path}`)).toEqual(few);
    expect(JSON.stringify(patched(JSON.parse(JSON.stringify(before)), patches))).toBe(JSON.stringify(after));
  });

  it('say a long list whole where all of it moved, and do not copy what was patched before', () => {
    const long = Array.from({ length: 5000 }, (_, i) => ({ id: `n${i}`, n: 0 }));
    expect(patchesBetween({ a: long }, { a: [...long].reverse() })).toHaveLength(1);
    const first = { op: 'add', path: '/a', value: long[0] } as const;
    const given = structuredClone(first);
    const there = patched({ a: {}, b: 1 }, [first, { op: 'replace', path: '/a/n', value: 7 }]);
    expect(there).toEqual({ a: { id: 'n0', n: 7 }, b: 1 });
    // The patch itself is as it was: it is told to others too.
    expect(first).toEqual(given);
  });

  it.each([
    ['replace', '/b'],
    ['remove', '/list/2'],
    ['add', '/list/3'],
    ['add', '/list/-'],
    ['add', '/list/1.5'],
    ['replace', '/list/x'],
    ['replace', '/list/0/n/deep'],
    ['add', '/nowhere/x'],
    ['remove', ''],
    ['add', '/__proto__/polluted'],
    ['replace', '/__proto__'],
    ['replace', '/toString'],
    ['add', '/constructor'],
  ])('that do not fit are refused: %s %s', (op, path) => {
    const doc = {
      a: 1,
      list: [
        { id: 'x', n: 1 },
        { id: 'y', n: 1 },
      ],
    };
    const patch = op === 'remove' ? { op, path } : { op, path, value: 1 };
    expect(isPatch(patch)).toBe(true);
    expect(() => patched(doc, [patch as never])).toThrow(Unfit);
    expect(Object.hasOwn(Object.prototype, 'polluted')).toBe(false);
  });

  it.each([
    [null],
    [{ op: 'move', path: '/a', from: '/b' }],
    [{ op: 'test', path: '/a', value: 1 }],
    [{ op: 'add', path: '/a' }],
    [{ op: 'remove', path: '/a', value: 1 }],
    [{ op: 'replace', path: 'a', value: 1 }],
    [{ op: 'replace', path: `/${'a'.repeat(3000)}`, value: 1 }],
    [{ op: 'replace', path: '/a', value: 1, more: 1 }],
    [{ op: 'replace', path: 3, value: 1 }],
  ])('that are none are told: %j', (v) => expect(isPatch(v)).toBe(false));
});
