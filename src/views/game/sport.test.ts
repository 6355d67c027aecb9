import { describe, expect, it } from 'vitest';
import lacrosse from '../../../data/basic/profile/box-lacrosse.json' with { type: 'json' };
import bar from '../../../data/demo/template/scoreboard-bar.json' with { type: 'json' };
import type { SourceBundle } from '../../core/source/source.ts';
import { parseProfile } from '../../core/sport/profile.ts';
import { parseTemplate } from '../../core/documents/template.ts';
import { losses, namedForSide, newField, ownFields, problemsOf, renamed, withRenamed } from './sport.ts';

const parsed = parseProfile(lacrosse);
if (!parsed.ok) throw new Error(parsed.problems.join());
const profile = parsed.value;

describe('a sport that is edited', () => {
  it('shows its own fields alone, and makes new ones under keys that nobody has', () => {
    const own = ownFields(profile).map((f) => f.key);
    expect(own).toContain('home.score');
    expect(own).not.toContain('home.name');
    const keys = profile.fields.map((f) => f.key);
    const hits = newField('Hits', 'home', keys);
    expect(hits).toMatchObject({ key: 'home.hits', label: 'Home hits', kind: 'integer' });
    expect(newField('Score', 'home', keys).key).toBe('home.score-2');
    expect(newField('Power play', 'clocks', keys)).toMatchObject({ key: 'clock.power-play', kind: 'clock' });
    // A new key follows the name until it is typed by hand; one that was saved stays, for others point to it.
    const all = [...keys, hits.key];
    expect(renamed(hits, 'Home big hits', all, false)).toMatchObject({ key: 'home.big-hits' });
    expect(renamed({ ...hits, key: 'home.x' }, 'Home big hits', all, false).key).toBe('home.x');
    expect(renamed(hits, 'Home big hits', all, true)).toMatchObject({
      key: 'home.hits',
      label: 'Home big hits',
    });
  });
  it.each<[string, Partial<(typeof profile.fields)[number]>, RegExp]>([
    ['no name', { label: '' }, /^home.score: label, a name is missing/],
    ['a key of another form', { key: 'Home Score' }, /^Home score: key, a key is lower-case/],
    ['a key that is taken', { key: 'away.score' }, /"away.score" is there twice/],
    ['no room', { min: 5, max: 1 }, /^Home score: from 5 to 1 leaves nothing/],
  ])('says what is wrong with a field with %s', (_, part, said) => {
    const fields = profile.fields.map((f) => (f.key === 'home.score' ? { ...f, ...part } : f));
    expect(problemsOf({ ...profile, fields } as typeof profile)).toEqual([expect.stringMatching(said)]);
    expect(problemsOf(profile)).toEqual([]);
    const nameless = { ...profile, periods: { ...profile.periods, word: '' } };
    expect(problemsOf(nameless)).toEqual(['periods word: a name is missing']);
  });
  it.each([
    ['Left', 'Left', 'Away left'],
    ['Away left', 'Away left', 'Away left'],
    ['Home VAR checks', 'Home VAR checks', 'Away VAR checks'],
    ['Würfe', 'Würfe', 'Away würfe'],
  ])('names a pair at once while %j is typed, letter by letter', (typed, home, away) => {
    const pair = (['home', 'away'] as const).map((g) => newField('New field', g, []));
    const isNew = (key: string) => key !== 'home.score';
    let fields = pair;
    // Everything that was there is typed over.
    for (let n = 0; n <= typed.length; n++)
      fields = withRenamed(fields, fields[0]!, typed.slice(0, n), { keys: fields.map((f) => f.key), isNew });
    expect(fields.map((f) => f.label)).toEqual([home, away]);
    const [key, other] = fields.map((f) => f.key);
    expect(other).toBe(key!.replace('home.', 'away.'));
    expect(namedForSide(home, 'home')).toBe(`Home${away.slice(4)}`);
    // One that was saved is called by itself.
    const saved = fields.map((f) => ({ ...f, key: f.key.replace(/\.\S+/, '.score') }));
    const after = withRenamed(saved, saved[0]!, 'Home x', { keys: [], isNew });
    expect(after.map((f) => f.label)).toEqual(['Home x', away]);
  });

  it('says what loses a field, with who feeds it and who shows it', () => {
    const bundles = [
      {
        source: { key: 'c', name: 'Controller', enabled: true },
        patch: { links: [{ reading: 'r', field: 'home.score' }] },
      },
    ] as unknown as SourceBundle[];
    const template = parseTemplate(bar);
    if (!template.ok) throw new Error(template.problems.join());
    const without = { ...profile, fields: profile.fields.filter((f) => !/^home.s(core|hots)$/.test(f.key)) };
    expect(losses(profile, without, { bundles, documents: { template: [template.value] } })).toEqual([
      'Home score (fed by Controller, shown by the template Scoreboard bar)',
      'Home shots',
    ]);
    expect(losses(profile, profile, { bundles, documents: { template: [] } })).toEqual([]);
  });
});
