import { describe, expect, it } from 'vitest';
import type { Layer } from '../layers/kinds.ts';
import { preflight } from './preflight.ts';
import { profile, templates } from '../../../tests/support/prepared.ts';

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
  it('names a font that is neither shipped nor brought in, where something shows that is written in it', () => {
    const text = (id: string, font: string, more: object = {}) =>
      ({
        id,
        kind: 'text',
        name: id,
        x: 0,
        y: 0,
        width: 9,
        height: 9,
        size: 9,
        font,
        text: 'x',
        ...more,
      }) as Layer;
    const layers = [
      text('a', 'Harbor Blocks', { text2: 'y', font2: 'Gone Grotesk' }),
      text('b', 'Oswald'),
      text('c', 'Nowhere', { shows: false }),
      text('d', 'Mine'),
    ];
    const layout = { key: 'l', width: 9, height: 9, layers };
    const all = (font?: (family: string) => boolean) =>
      preflight(layout, {}, [], { ...board, ...(font && { font }) });
    expect(all((family) => family === 'Mine')).toEqual([
      'The font Harbor Blocks is missing.',
      'The font Gone Grotesk is missing.',
    ]);
    expect(all()).toEqual([]);
  });
});
