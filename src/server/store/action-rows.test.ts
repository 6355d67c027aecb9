import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { pastOf } from './action-rows.ts';
import type { ActionRow } from './models.ts';

const older = JSON.parse(
  readFileSync(new URL('../../../tests/older/template-2/lower-third.json', import.meta.url), 'utf8'),
) as { inputs: object[] };
const row = (undo: object) =>
  ({
    id: 'a',
    kind: 'pin',
    body: '{}',
    text: 'A',
    desk: '',
    who: '',
    view: '',
    undone: false,
    past: JSON.stringify({ undo, back: null }),
  }) as unknown as ActionRow;

it('what takes an action back is read as an older Foothill wrote it', () => {
  const input = { key: 'x', label: 'X', kind: 'text' };
  const was = { ...older, inputs: [...older.inputs, { ...input, first: 'Kestrel', afresh: true }] };
  const edits = [
    { kind: 'template', key: 'lower-third', was, is: was },
    { kind: 'template', key: 'gone', was: null, is: { schema: 2, name: 'half' } },
    { kind: 'pin', key: 'home.score', was: null, is: { value: 1, at: 0 } },
  ];
  const { undo } = pastOf(row({ edits, become: { memory: {}, zero: 4 } }));
  expect(undo.reset).toEqual({ memory: {}, zero: 4 });
  expect(undo).not.toHaveProperty('become');
  for (const side of ['was', 'is'] as const)
    expect(undo.edits[0]![side]).toMatchObject({
      schema: 3,
      inputs: expect.arrayContaining([{ ...input, default: 'Kestrel', resets: true }]) as unknown,
    });
  // What cannot be read stays as it was written.
  expect(undo.edits.slice(1)).toEqual(edits.slice(1));
  // What is of today is not touched.
  const again = pastOf(row(undo)).undo;
  expect(again).toEqual(undo);
});
