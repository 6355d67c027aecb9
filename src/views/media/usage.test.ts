import { describe, expect, it } from 'vitest';
import type { MediaEntry } from '../../core/media/media.ts';
import type { DeskSnapshot } from '../../core/wire/wire.ts';
import { aboutText, sizeText, usageOf, usesOf } from './usage.ts';
import { game, templates } from '../../../tests/support/prepared.ts';

describe('the library in words', () => {
  it.each([
    [999, '999 B'],
    [12_345, '12 kB'],
    [3_400_000, '3.4 MB'],
  ])('%i bytes', (n, text) => expect(sizeText(n)).toBe(text));
  it('says what a picture is and where it is used', () => {
    const entry = {
      path: 'headshots/herons/7.svg',
      hash: 'a'.repeat(64),
      type: 'image/gif' as const,
      size: 500,
      width: 9,
      height: 8,
      alpha: true,
      length: 1200,
    };
    expect(aboutText(entry)).toBe('GIF · 9 × 8 · transparent · 1.2 s · 500 B');
    const keyed = {
      what: 'pictures' as const,
      key: 'home.headshots',
      name: 'Headshots',
      from: ['home.players'],
      path: 'number',
      fallback: 'Headshots/Silhouette.png',
    };
    const uses = usageOf({
      documents: {
        template: templates,
        game: [game],
        item: [{ name: 'Item', inputs: { picture: 'HEADSHOTS/Herons/7' } }],
      },
      derived: [{ doc: keyed, own: true }],
      tables: [{ key: 'home.headshots', rows: [['7', { path: 'headshots/Herons/7' }]] }],
    } as unknown as DeskSnapshot);
    // What is found by a key means what stands at its path; what was chosen goes along when it is moved.
    const at = (path: string, ...formerly: string[]) => ({ path, formerly }) as unknown as MediaEntry;
    expect(usesOf(uses, at('headshots/Herons/7.png'))).toEqual(['item Item', 'Headshots']);
    expect(usesOf(uses, at('old/7.png', 'headshots/Herons/7.png'))).toEqual(['item Item']);
    expect(uses.get('headshots/silhouette')).toEqual(['Headshots']);
    expect(uses.get('marks/herons')).toEqual(['game Herons v Foxes']);
  });
});
