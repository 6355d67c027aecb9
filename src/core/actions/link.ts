import { Each, One } from '../document/check.ts';
import { Count, Key, Maybe, OneOf, OrNull, Text } from '../document/rules.ts';
import { inWords, same } from '../document/merge.ts';
import { PatchLink } from '../patch/patch-doc.ts';
import { isByHand, readingName, readingsOf, type SourceBundle } from '../source/source.ts';
import { counted } from '../text/words.ts';
import { action, refuse } from './action.ts';
import { ActionRequest } from './request.ts';
import { bundleEdits, refuseOverParts } from './saving.ts';
import { knownSource, type Situation } from './situation.ts';
import { refuseInRehearsal, refuseOthers } from './source.ts';

/** One link of a source's patch, put in the place of what stood there. */
class LinkChange {
  @Text(1, 80) source!: string;
  @Key() field!: string;
  /** What stood there, as the page saw it; null for nothing. */
  @OrNull() @One(() => PatchLink) was!: PatchLink | null;
  /** What is to stand there; null for nothing. */
  @OrNull() @One(() => PatchLink) is!: PatchLink | null;
}

class LinkRequest extends ActionRequest {
  @OneOf('link') kind!: 'link';
  @Count(1, 500) @Each(() => LinkChange) links!: LinkChange[];
  /** Done though somebody changed the same link meanwhile. */
  @Maybe() @OneOf(true) over?: true;
}

/** Changes what feeds which field, link by link, all or none. */
export const link = action({
  request: LinkRequest,
  role: 'connect',
  decide: (now, { links, over }) => {
    refuseInRehearsal(now);
    const after = new Map<string, SourceBundle>();
    for (const change of links) {
      const known = after.get(change.source) ?? knownSource(now, change.source);
      after.set(change.source, linked(now, known, change, over === true));
    }
    const edits = [...after].flatMap(([key, bundle]) => {
      refuseOverParts(now.world, key);
      const known = knownSource(now, key);
      refuseOthers(now, bundle, known);
      return bundleEdits(known, bundle);
    });
    return { change: { edits } };
  },
  sentence: ({ board, sources }, { links }) => {
    const [first] = links;
    const label = board.def(first!.field)?.label ?? first!.field;
    const bundle = sources.bundle(first!.source);
    const name = bundle?.source.name ?? first!.source;
    if (links.length > 1) return `Changed ${counted(links.length, 'link')} of the patch`;
    return first!.is
      ? `${name} feeds ${label} with ${bundle ? readingName(bundle, first!.is.reading) : first!.is.reading}`
      : `${name} no longer feeds ${label}`;
  },
});

function linked(now: Situation, bundle: SourceBundle, change: LinkChange, over: boolean): SourceBundle {
  const { field, was, is } = change;
  const { key, name } = bundle.source;
  const links = bundle.patch?.links ?? [];
  const current = links.find((l) => l.field === field) ?? null;
  if (is && is.field !== field) refuse('A link stands under the field that it feeds.');
  if (!over && !same(current, was) && !same(current, is))
    refuse(
      `What ${name} feeds ${now.board.def(field)?.label ?? field} with was changed at another desk meanwhile (${inWords(current && readingName(bundle, current.reading))} now). Look again before you change it.`,
    );
  const readings = readingsOf(bundle).map((r) => r.id);
  const byHand = isByHand(bundle.source);
  for (const reading of [is?.reading, is?.running])
    if (reading !== undefined && !byHand && !readings.includes(reading))
      refuse(`${name} has no reading "${reading}".`);
  const next = current
    ? links.flatMap((l) => (l.field === field ? (is ? [is] : []) : [l]))
    : is
      ? [...links, is]
      : links;
  const patch = bundle.patch ?? { schema: 1 as const, key, source: key };
  return { ...bundle, patch: next.length ? { ...patch, links: next } : null };
}
