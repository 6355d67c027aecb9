import { describe, expect, it } from 'vitest';
import type { Layer } from '../layers/kinds.ts';
import { shownIn } from '../layers/shown.ts';
import { withoutEffect } from './effect.ts';

const input = (key: string, more: object = {}) => ({ key, label: key.toUpperCase(), kind: 'text', ...more });
const text = (id: string, more: object = {}) => ({ id, kind: 'text', name: id, ...more });
const group = (id: string, layers: object[], more: object = {}) => ({
  id,
  kind: 'group',
  name: id,
  layers,
  ...more,
});
const held = (values: Record<string, unknown>, fields: Record<string, unknown> = {}) => ({
  input: (key: string) => (values[key] ?? null) as never,
  field: (key: string) => (fields[key] ?? null) as never,
});
const idle = (inputs: object[], layers: object[], values: Record<string, unknown>, fields = {}) =>
  withoutEffect({ inputs: inputs as never }, { layers: layers as Layer[] })(held(values, fields));

describe('inputs without effect', () => {
  const callOut = group('call-out', [text('words', { text: { input: 'line' } })], { shows: { input: 'on' } });
  const inputs = [input('line'), input('on', { kind: 'switch' })];
  it('the text of a call-out that is switched off says what would switch it on', () => {
    expect(idle(inputs, [callOut], { line: 'x', on: false })).toEqual([
      { input: 'line', hidden: 'call-out', fix: { input: 'on', label: 'ON', value: true, text: 'on' } },
    ]);
    expect(idle(inputs, [callOut], { on: true })).toEqual([]);
  });
  it('one that another layer shows too has its effect', () => {
    expect(idle(inputs, [callOut, text('also', { text: { input: 'line' } })], { on: false })).toEqual([]);
  });
  it('a switch that is turned over is switched off', () => {
    const turned = group('g', [text('t', { text: { input: 'line' } })], {
      shows: { input: 'on', format: 'not' },
    });
    expect(idle(inputs, [turned], { on: true })[0]!.fix).toMatchObject({ value: false, text: 'off' });
  });
  it('what stands in another member of a one-of group says which one to choose', () => {
    const choices = [
      { value: 'a', label: 'Plain' },
      { value: 'b', label: 'With a badge' },
    ];
    const which = {
      id: 'w',
      kind: 'one-of',
      name: 'badge',
      which: { input: 'pick' },
      layers: [text('a'), group('g', [text('t', { text: { input: 'line' } })], { member: 'b' })],
    };
    const found = idle([input('line'), input('pick', { kind: 'choice', choices })], [which], { pick: 'a' });
    expect(found).toEqual([
      {
        input: 'line',
        hidden: 'g',
        fix: { input: 'pick', label: 'PICK', value: 'b', text: 'With a badge' },
      },
    ]);
  });
  it('what a field hides has no fix here; what is hidden for good has none', () => {
    const byField = group('g', [text('t', { text: { input: 'line' } })], { shows: { field: 'f' } });
    expect(idle(inputs, [byField], {}, { f: false })[0]).toMatchObject({ hidden: 'g', fix: null });
    const never = text('t', { text: { input: 'line' }, shows: false });
    expect(idle(inputs, [never], {})[0]).toMatchObject({ hidden: 't', fix: null });
  });
  it('what shows a layer itself, and what no layer asks for, are no such inputs', () => {
    expect(idle(inputs, [callOut], { on: false }).map((i) => i.input)).toEqual(['line']);
    expect(idle([input('nobody')], [callOut], {})).toEqual([]);
  });
});

it('only what shows is gone through, with what may also be hidden', () => {
  const layers = [
    text('plain'),
    text('off', { shows: false }),
    group('g', [text('in')], { shows: { input: 'on' } }),
    { id: 'o', kind: 'one-of', name: 'o', which: { input: 'pick' }, layers: [text('a'), text('b')] },
  ] as unknown as Layer[];
  const ids = (values: object) =>
    [...shownIn(layers, held(values as never))].map((s) => `${s.layer.id}${s.gated ? '?' : ''}`);
  expect(ids({ on: true, pick: 'b' })).toEqual(['plain', 'g?', 'in?', 'o', 'b']);
  expect(ids({ on: false, pick: 'c' })).toEqual(['plain', 'o']);
});
