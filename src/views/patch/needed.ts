import { bindingsOf, layersOf } from '../../core/layers/kinds.ts';
import type { Template } from '../../core/documents/template.ts';
import { namesIn } from '../../core/value/value.ts';

/** For each field the names of the templates that show it. */
export function neededFields(templates: readonly Template[]): Map<string, Set<string>> {
  const needed = new Map<string, Set<string>>();
  for (const template of templates)
    for (const layout of template.layouts)
      for (const layer of layersOf(layout.layers))
        for (const { value } of bindingsOf(layer))
          for (const key of namesIn(value).fields)
            needed.set(key, (needed.get(key) ?? new Set()).add(template.name));
  return needed;
}
