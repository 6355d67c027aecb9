import type { SourceBundle } from '../source/source.ts';
import { bindingsOf, layersOf } from '../layers/kinds.ts';
import type { Template } from '../documents/template.ts';
import { namesIn } from '../value/value.ts';
import type { Derived } from './derived.ts';
import { needs } from './derivations.ts';

/** What stands still or is gone without a source. */
export interface Dependants {
  /** The keys of the fields that it feeds, and of those the ones that nothing else in use feeds. */
  fields: string[];
  alone: string[];
  /** Derivations that its tables are in, directly or by another derivation. */
  derived: Derived[];
  /** Templates that look into its tables, or into what is derived from them. */
  templates: Template[];
}

/** What depends on a source: the fields it feeds, and all that is made of its tables. */
export function dependantsOf(
  bundle: SourceBundle,
  bundles: readonly SourceBundle[],
  derived: readonly Derived[],
  templates: readonly Template[],
): Dependants {
  const fields = (bundle.patch?.links ?? []).map((l) => l.field);
  const others = new Set(
    bundles
      .filter((b) => b.source.key !== bundle.source.key && b.source.enabled)
      .flatMap((b) => b.patch?.links.map((l) => l.field) ?? []),
  );
  const gone = new Set(bundle.document?.tables.map((t) => t.key) ?? []);
  const found: Derived[] = [];
  // One derivation may be made of another that is only found after it.
  for (let more = gone.size > 0; more;) {
    const next = derived.filter((d) => !found.includes(d) && [...needs(d)].some((key) => gone.has(key)));
    for (const d of next) gone.add(d.key);
    found.push(...next);
    more = next.length > 0;
  }
  return {
    fields,
    alone: fields.filter((f) => !others.has(f)),
    derived: found,
    templates: templates.filter((t) =>
      t.layouts.some(({ layers }) =>
        [...layersOf(layers)].some((l) =>
          bindingsOf(l).some(({ value }) => {
            const names = namesIn(value);
            return [...names.tables, ...names.fields].some((key) => gone.has(key));
          }),
        ),
      ),
    ),
  };
}
