import { describe, expect, it } from 'vitest';
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
});
