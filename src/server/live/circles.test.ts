import { expect, it } from 'vitest';
import { read, setUp } from '../../../tests/support/engine.ts';

const OF_ADA = { desk: 'desk-of-ada', who: 'Ada', view: 'data' };

it('takes on nothing that goes in a circle, by whatever way it would come about, and says its path', async () => {
  const { act } = await setUp();
  const put = (what: string, body: object) => act({ kind: 'put-document', what, body, ...OF_ADA });
  const lookup = { table: 'own.rows', key: { fixed: '7' }, column: 'n' };
  const field = {
    schema: 1,
    key: 'own.n',
    derived: { what: 'field', key: 'own.n', name: 'Number', value: { lookup } },
  };
  const rows = {
    schema: 1,
    key: 'own.rows',
    derived: {
      ...{ what: 'table', key: 'own.rows', name: 'Rows', from: ['home.players'] },
      compute: [{ name: 'n', value: { field: 'own.n' } }],
    },
  };
  // A look-up in a table that is not there yet is none; that table is refused once it would be.
  expect(await put('derived', field)).toMatchObject({ ok: true });
  const path = 'Rows would depend on itself: own.rows → own.n → own.rows.';
  expect(await put('derived', rows)).toMatchObject({ status: 409, reason: path });
  expect(await act({ kind: 'remove-document', what: 'derived', key: 'own.n', ...OF_ADA })).toMatchObject({
    ok: true,
  });
  expect(await act({ kind: 'put-document', what: 'derived', body: rows })).toMatchObject({ ok: true });
  expect(await act({ kind: 'undo', ...OF_ADA })).toMatchObject({
    reason: 'Number would depend on itself: own.n → own.rows → own.n.',
  });

  const template = structuredClone(read('demo/template/scoreboard-bar.json')) as {
    layouts: { layers: { id: string; name: string; mask?: string }[] }[];
  };
  const [a, b] = template.layouts[0]!.layers;
  Object.assign(a!, { mask: b!.id });
  expect(await put('template', template)).toMatchObject({ ok: true });
  Object.assign(b!, { mask: a!.id });
  expect(await put('template', template)).toMatchObject({
    reason: expect.stringContaining(`masks go in a circle: ${a!.name} → ${b!.name} → ${a!.name}.`) as string,
  });
});
