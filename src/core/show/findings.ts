import type { Documents } from '../documents/kinds.ts';
import { bindingsOf, layersOf } from '../layers/kinds.ts';
import { counted } from '../text/words.ts';
import { namesIn } from '../value/value.ts';
import type { SourceState } from '../wire/wire.ts';
import type { Item, Place } from './item.ts';
import { placeKey } from './item.ts';
import { SEVERITIES, type Finding, type Fix, type PreflightScope, type Severity } from './finding.ts';
import { ofDerived, ofGroups, ofSides, ofTriggers } from './findings-of-data.ts';
import { fitIn, layoutFor } from './layout.ts';
import { wrongWithPage } from './pages.ts';
import { preflight, type BoardView } from './preflight.ts';
import { airing, type Output, type Zone } from './show.ts';
import { coverageOf } from './zones.ts';

/** Under this an item's texts in a zone were looked at. */
export const fitKey = (item: string, place: Pick<Place, 'output' | 'zone'>): string =>
  `${item} ${placeKey(place)}`;

/** Less room on the disk than this, in bytes, is soon none. */
const LITTLE_ROOM = 500e6;

const go = (label: string, href: string): Fix => ({ label, href });

/** All that would embarrass, the worst first. Nothing is left out because something else is worse. */
export function findings(night: PreflightScope, board: BoardView): Finding[] {
  const found = [
    ...ofThePlace(night),
    ...night.sources.flatMap(ofSource),
    ...ofPages(night),
    ...night.documents.item.flatMap((item) => ofItem(night, item, board)),
    ...unfed(night, board),
    ...ofPictures(night),
    ...ofRules(night),
    ...ofTriggers(night, board),
    ...ofDerived(night),
    ...ofSides(board),
    ...ofGroups(night),
    ...night.documents.output.flatMap(ofZones),
  ];
  return SEVERITIES.flatMap((severity) => found.filter((f) => f.severity === severity));
}

/** Database, disk, a rehearsal, test cards, and what could not be read. */
function ofThePlace({ database, disk, rehearsal, cards, documents, unread }: PreflightScope): Finding[] {
  const of = (key: string, severity: Severity, subject: string, text: string, fix: Fix): Finding => ({
    ...{ key, severity, subject, text, fix },
  });
  const found: Finding[] = [];
  if (!database.ok)
    found.push(
      of(
        'database',
        'now',
        'Database',
        'It does not answer: nothing can be changed.',
        go('Health', '/healthz'),
      ),
    );
  if (disk !== null && disk < LITTLE_ROOM)
    found.push(
      of(
        'disk',
        'now',
        'Disk',
        `Only ${Math.round(disk / 1e6)} MB are left.`,
        go('Tapes and media', '/tapes'),
      ),
    );
  if (rehearsal)
    found.push(
      of('rehearsal', 'now', 'Rehearsal', 'A tape is played: what is on air is no game.', {
        label: 'End the rehearsal',
        act: { kind: 'rehearse', do: 'end' },
      }),
    );
  for (const key of cards) {
    const name = documents.output.find((o) => o.key === key)?.name ?? key;
    const act = { kind: 'test-card', output: key, on: false } as const;
    found.push(of(`card ${key}`, 'now', name, 'Its test card is on.', { label: 'Take it off', act }));
  }
  for (const { kind, name } of unread)
    found.push(
      of(`unread ${kind} ${name}`, 'taken', name, `This ${kind} cannot be read.`, go('Live', '/live')),
    );
  return found;
}

function ofSource({ key, name, health }: SourceState): Finding[] {
  if (health !== 'late' && health !== 'lost') return [];
  return [
    {
      key: `source ${key}`,
      severity: 'now',
      subject: name,
      text: `It is ${health}.`,
      fix: go('Sources', '/sources'),
    },
  ];
}

/** Outputs that nobody shows, and pages that do not show what is on air. */
function ofPages({ documents, pages, gone }: PreflightScope): Finding[] {
  const nameOf = (key: string) => documents.output.find((o) => o.key === key)?.name ?? key;
  const bad = [...gone, ...pages].flatMap((page): Finding[] => {
    const problem = wrongWithPage(page, (item) => documents.item.find((i) => i.key === item)?.name ?? item);
    const key = `page ${page.id} ${page.state}`;
    return problem
      ? [
          {
            key,
            severity: 'now',
            subject: nameOf(page.output),
            text: `The page at ${page.from} ${problem}.`,
            fix: go('Outputs', '/outputs'),
          },
        ]
      : [];
  });
  const shut = documents.output.filter((o) => !pages.some((p) => p.output === o.key));
  return [
    ...bad,
    ...shut.map(({ key, name }): Finding => ({
      ...{ key: `shut ${key}`, severity: 'look', subject: name, text: 'No page has it open.' },
      fix: go('Open its page', `/air/${key}`),
    })),
  ];
}

/** What the audience would see wrong of an item, in each of its zones. */
function ofItem({ documents, lanes, fits }: PreflightScope, item: Item, board: BoardView): Finding[] {
  const template = documents.template.find((t) => t.key === item.template);
  const fix = go('Edit', `/rundown?item=${encodeURIComponent(item.key)}`);
  const subject = `${item.number} ${item.name}`;
  const usual: Severity = airing(lanes, item.key).length ? 'now' : 'taken';
  const one = (text: string, severity: Severity = usual): Finding => ({
    ...{ key: `item ${item.key} ${text}`, severity, subject, text, fix },
  });
  if (!template) return [one('Its template is missing.')];
  if (item.zones.length === 0) return [one('It goes to no zone yet.', 'look')];
  const problems = new Set<string>();
  const found: Finding[] = [];
  for (const place of item.zones) {
    const output = documents.output.find((o) => o.key === place.output);
    const zone = output?.zones.find((z) => z.key === place.zone);
    if (!output || !zone) {
      found.push(one(`It goes to a zone that is gone: ${placeKey(place)}.`));
      continue;
    }
    for (const text of preflight(layoutFor(template, zone), item.inputs, template.inputs, board))
      problems.add(text);
    for (const text of fits.get(fitKey(item.key, place)) ?? [])
      problems.add(`${output.name}, ${zone.name}: ${text}`);
    if (unfit(template, zone))
      found.push(one(`No layout has the shape of ${output.name}, ${zone.name}.`, 'look'));
  }
  return [...[...problems].map((text) => one(text)), ...found];
}

/** True where a layout stands in the middle of a zone because none has its shape. */
const unfit = (template: Documents['template'], zone: Zone): boolean =>
  fitIn(layoutFor(template, zone), zone).how === 'off';

/** Fields that items show and nobody feeds. */
function unfed({ documents, bundles }: PreflightScope, board: BoardView): Finding[] {
  const fed = new Set(
    bundles.flatMap((b) => (b.source.enabled ? (b.patch?.links.map((l) => l.field) ?? []) : [])),
  );
  const needed = new Map<string, string>();
  for (const item of documents.item) {
    const template = documents.template.find((t) => t.key === item.template);
    for (const layout of template?.layouts ?? [])
      for (const layer of layersOf(layout.layers))
        for (const { value } of bindingsOf(layer))
          for (const key of namesIn(value).fields) if (!needed.has(key)) needed.set(key, item.name);
  }
  return [...needed].flatMap(([key, item]): Finding[] => {
    const def = board.def(key);
    if (!def || fed.has(key) || board.stateOf(key)?.quality !== 'none') return [];
    return [
      {
        ...{
          key: `unfed ${key}`,
          severity: 'look',
          subject: def.label,
          text: `Nothing feeds it, and ${item} shows it.`,
        },
        fix: go('Patch', '/patch'),
      },
    ];
  });
}

/** Pictures that rows ask for and the library has not: headshots, sponsors. */
function ofPictures({ tables }: PreflightScope): Finding[] {
  return tables.flatMap(({ key, name, rows }): Finding[] => {
    const missing = rows
      .filter(([, row]) => row['found'] === false)
      .map(([, row]) => String(row['path'] ?? ''));
    if (missing.length === 0) return [];
    const some = missing.slice(0, 3).join(', ');
    return [
      {
        ...{ key: `pictures ${key}`, severity: 'taken', subject: name },
        text: `${counted(missing.length, 'picture is', 'pictures are')} missing: ${some}${missing.length > 3 ? ' …' : ''}.`,
        fix: go('Media', '/media'),
      },
    ];
  });
}

/** Triggers that could not take their item; keys and numbers that two things have. */
function ofRules({ documents }: PreflightScope): Finding[] {
  const found: Finding[] = documents.trigger.flatMap((t): Finding[] => {
    const item = documents.item.find((i) => i.key === t.item);
    const why = !item ? 'Its item is gone.' : item.zones.length === 0 ? 'Its item goes to no zone.' : null;
    return t.on && why
      ? [{ key: `trigger ${t.key}`, severity: 'taken', subject: t.name, text: why, fix: go('Live', '/live') }]
      : [];
  });
  const keyed = [...documents.item, ...documents.look].filter((one) => one.hotkey !== '');
  for (const one of keyed) {
    const other = keyed.find((k) => k !== one && k.hotkey === one.hotkey);
    if (other && keyed.indexOf(other) > keyed.indexOf(one))
      found.push({
        ...{ key: `key ${one.hotkey}`, severity: 'taken', subject: one.hotkey },
        text: `${one.name} and ${other.name} have the same key.`,
        fix: go('Rundown', '/rundown'),
      });
  }
  for (const one of documents.item) {
    const other = documents.item.find((i) => i.number === one.number && i.key > one.key);
    if (other)
      found.push({
        ...{ key: `number ${one.number}`, severity: 'taken', subject: String(one.number) },
        text: `${one.name} and ${other.name} have the same number.`,
        fix: go('Edit', `/rundown?item=${encodeURIComponent(other.key)}`),
      });
  }
  return found;
}

/** Gaps and overlaps of a board that is all zones, and what is outside. */
function ofZones(output: Output): Finding[] {
  const { gaps, overlaps, outside } = coverageOf(output);
  const fix = go('Outputs', `/outputs`);
  const one = (what: string, text: string): Finding => ({
    ...{ key: `zones ${output.key} ${what}`, severity: 'look', subject: output.name, text, fix },
  });
  return [
    ...(output.venue && gaps.length
      ? [one('gaps', `${counted(gaps.length, 'part')} of it ${gaps.length === 1 ? 'is' : 'are'} in no zone.`)]
      : []),
    ...(overlaps.length ? [one('overlaps', `${counted(overlaps.length, 'pair')} of zones overlap.`)] : []),
    ...(outside.length ? [one('outside', `${counted(outside.length, 'zone')} reach beyond it.`)] : []),
  ];
}
