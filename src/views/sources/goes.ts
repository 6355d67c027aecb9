import { dependantsOf } from '../../core/derive/dependants.ts';
import type { SourceBundle } from '../../core/source/source.ts';
import type { DeskSnapshot, TemplatesIn } from '../../core/wire/wire.ts';
import { listed } from './draft.ts';

/** What deleting a source takes with it, in sentences. */
export function whatGoes(
  bundle: SourceBundle,
  { bundles, derived, documents }: Pick<DeskSnapshot, 'bundles' | 'derived'> & TemplatesIn,
): string {
  const on = dependantsOf(
    bundle,
    bundles,
    derived.map((d) => d.doc),
    documents.template,
  );
  const { length: fed } = on.fields;
  const { length: alone } = on.alone;
  const tables = bundle.document?.tables.map((t) => t.name) ?? [];
  const made = [...on.derived.map((d) => d.name), ...on.templates.map((t) => `the template ${t.name}`)];
  return [
    fed === 0
      ? 'No field is fed by it.'
      : alone === fed
        ? `It feeds ${fed} ${fed === 1 ? 'field, which' : 'fields, which'} will stand still.`
        : alone === 0
          ? `It feeds ${fed} ${fed === 1 ? 'field, which has' : 'fields, which all have'} another source.`
          : `It feeds ${fed} fields; ${alone} of them ${alone === 1 ? 'has' : 'have'} no other source and will stand still.`,
    tables.length
      ? `With it ${tables.length === 1 ? 'goes the table' : 'go the tables'} ${listed(tables)}.`
      : '',
    made.length ? `Made of that: ${listed(made)}.` : '',
  ]
    .filter(Boolean)
    .join(' ');
}
