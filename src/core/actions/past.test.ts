import { expect, it } from 'vitest';
import { PastActions, type Past } from './past.ts';

const of = (id: string, desk: string, more: Partial<Past> = {}): Past => ({
  id,
  by: { desk, name: '', view: 'live' },
  text: id,
  asked: { kind: 'pin' },
  undo: { edits: [] },
  back: null,
  undone: false,
  ...more,
});
const ode = of('', 'ode').by;

it('remembers as many as it says, of one person, of all, and of whole boards, the newest ones', () => {
  const past = new PastActions();
  const board = { edits: [], reset: { memory: {} as never, zero: 0 } };
  for (let i = 0; i < 12; i++) past.add(of(`board ${i}`, 'ode', { undo: board }));
  expect(past.stateOf(ode).past).toHaveLength(10);
  for (let i = 0; i < 95; i++) past.add(of(`pin ${i}`, 'ode'));
  const known: string[] = [];
  for (let p = past.undoable(ode); p; p = past.undoable(ode)) {
    known.push(p.id);
    past.mark(p.id, true, null);
  }
  expect(known.slice(0, 2)).toEqual(['pin 94', 'pin 93']);
  expect(known.filter((id) => id.startsWith('board'))).toHaveLength(5);
  expect(known).toHaveLength(100);
  expect(past.redoable(ode)?.id).toBe('board 7');
  for (let i = 0; i < 500; i++) past.add(of(`other ${i}`, `desk ${i}`));
  expect(past.told()).toHaveLength(400);
  expect(past.told().some((s) => s.desk === 'ode')).toBe(false);
});
