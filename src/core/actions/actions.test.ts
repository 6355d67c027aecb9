import { readdirSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { ROLES } from './action.ts';
import { ACTIONS, actionOf, readAction, type ActionKind } from './actions.ts';

const KINDS = Object.keys(ACTIONS) as ActionKind[];
const declared = Object.values(import.meta.glob('./*.ts', { eager: true })).flatMap((module) =>
  Object.values(module as object).filter((made): made is { decide: unknown } => {
    return typeof made === 'object' && made !== null && 'decide' in made && 'sentence' in made;
  }),
);

it('every action that a file declares can be asked for', () => {
  const known = new Set<unknown>(KINDS.map(actionOf));
  expect(declared.length).toBeGreaterThan(35);
  expect(declared.filter((one) => !known.has(one))).toEqual([]);
  expect(readdirSync(new URL('.', import.meta.url)).length).toBeGreaterThan(40);
});

describe.each(KINDS)('%s', (kind) => {
  const { role, request } = actionOf(kind);
  const refused = (more: object) => {
    const read = readAction({ id: 'an-action', kind, ...more });
    return typeof read === 'string' ? read : '';
  };
  it('has a role that is told in words, and a request of its own kind', () => {
    expect(ROLES).toHaveProperty(role);
    expect(KINDS.filter((k) => actionOf(k).request === request)).toEqual([kind]);
  });
  it('refuses what its request does not name, whatever it is', () => {
    for (const name of ['frobnicate', '__proto__x', 'undo']) expect(refused({ [name]: 1 })).toContain(name);
  });
  it('refuses an id that is none, and asks for what it cannot do without', () => {
    expect(refused({ id: ' ' })).toContain('id');
    expect(readAction({ kind })).toContain('id');
  });
});

it.each([null, [], 'take', 7, {}, { kind: 'frob' }, { kind: 'constructor' }, { kind: ['take'] }])(
  'what is no action is refused in words: %j',
  (body) => expect(readAction(body)).toMatch(/\w+.*\./),
);
