import { readFileSync } from 'node:fs';
import lacrosse from '../../data/basic/profile/box-lacrosse.json' with { type: 'json' };
import bar from '../../data/demo/template/scoreboard-bar.json' with { type: 'json' };
import card from '../../data/demo/template/player-card.json' with { type: 'json' };
import { parseGame } from '../../src/core/show/game-doc.ts';
import type { SourceBundle } from '../../src/core/source/source.ts';
import { parseBundle } from '../../src/core/source/bundle.ts';
import { parseProfile } from '../../src/core/sport/profile.ts';
import { parseTemplate } from '../../src/core/documents/template.ts';

export const read = (path: string) =>
  JSON.parse(readFileSync(new URL(`../../data/${path}`, import.meta.url), 'utf8')) as unknown;
export const ok = <T>(r: { ok: true; value: T } | { ok: false; problems: string[] }): T => {
  if (!r.ok) throw new Error(r.problems.join('\n'));
  return r.value;
};
export const profile = ok(parseProfile(lacrosse));
export const game = ok(parseGame(read('demo/game/opening-night.json')));
export const templates = [ok(parseTemplate(bar)), ok(parseTemplate(card))];

/** A source of two readings with these links. */
export function source(key: string, links: object[], enabled = true): SourceBundle {
  return ok(
    parseBundle({
      schema: 1,
      source: {
        schema: 1,
        key,
        name: key.toUpperCase(),
        enabled,
        transport: { kind: 'http', url: 'http://127.0.0.1/x' },
        limits: { late: 1000, lost: 2000 },
      },
      document: {
        schema: 1,
        key,
        readings: ['home score', 'running', 'period'].map((name) => ({ name, place: '/a', as: 'text' })),
        tables: [
          {
            key: `t-${key}`,
            name: 'T',
            rows: '/a/b',
            columns: [{ name: 'n', place: '@n', as: 'text' }],
            keyed: ['n'],
          },
        ],
      },
      patch: links.length ? { schema: 1, key, source: key, links } : null,
    }),
  );
}
