import { bindingsOf, layersOf, memberOf, type Layer, type Layout } from '../layers/kinds.ts';
import { isValue } from '../layers/property.ts';
import { isHidden, memberThatShows } from '../layers/shown.ts';
import { evaluate, isBlank, type Scope, type Value } from '../value/value.ts';
import { boxOf, holdersOf, originOf } from './tree.ts';

/** How strongly a layer is drawn that does not show just now. */
const FAINT = 0.35;
/** The ids of what is drawn faintly begin so: no layer that is made has such a one. */
const GHOST = 'faint-';

/** The id of a layer, also of one that is drawn faintly in its place. */
export const plainId = (id: string): string => (id.startsWith(GHOST) ? id.slice(GHOST.length) : id);

/** A chosen layer that does not show as all stands, and why. */
export interface Unseen {
  layer: Layer;
  why: string;
}

const byItself = (layer: Layer): string =>
  layer.shows === false ? 'it is hidden' : 'the value of Shows is no';

/** Why a layer does not show as all stands, by itself, by what holds it, or for it has no content; null where it does. */
function whyUnseen(layer: Layer, holders: readonly Layer[], scope: Scope): string | null {
  const chain = [...holders, layer];
  for (const [i, one] of chain.entries()) {
    if (isHidden(one, scope))
      return one === layer ? byItself(layer) : `${one.name}, in which it is, does not show: ${byItself(one)}`;
    const holder = chain[i - 1];
    const shows = holder ? memberThatShows(holder, scope) : null;
    if (holder && shows !== null && memberOf(one) !== shows)
      return shows === ''
        ? `${holder.name} shows nothing of what is in it`
        : `${holder.name} shows ${shows} now`;
  }
  // What it is there for is blank: a text, or a picture.
  const main = bindingsOf(layer).find(({ property }) => property.main);
  if (main && isBlank(evaluate(main.value, scope)))
    return `its ${main.property.label.toLowerCase()} is blank now`;
  return null;
}

/** The chosen layers that do not show as all stands, each with the reason. */
export function unseen(
  { layers }: Pick<Layout, 'layers'>,
  chosen: ReadonlySet<string>,
  scope: Scope,
): Unseen[] {
  if (chosen.size === 0) return [];
  return [...layersOf(layers)].flatMap((layer) => {
    if (!chosen.has(layer.id)) return [];
    const why = whyUnseen(layer, holdersOf(layers, layer.id) ?? [], scope);
    return why === null ? [] : [{ layer, why }];
  });
}

/**
 * The layout with layers that do not show drawn faintly over it, each where it would stand; a blank text as what it was drawn with, or
 * as what it is bound to.
 * @param words what a Value is called
 */
export function withFaint<T extends Pick<Layout, 'layers'>>(
  layout: T,
  those: readonly Unseen[],
  words: (value: Value) => string,
): T {
  if (those.length === 0) return layout;
  const ghosts = those.map(({ layer }) => {
    const from = originOf(layout.layers, layer.id);
    const copy = structuredClone(layer);
    for (const one of layersOf([copy])) {
      one.id = GHOST + one.id;
      one.name = `${one.name}, faintly`;
      one.shows = true;
      delete one.moments;
      delete one.member;
      if (one.kind === 'text' && isValue(one.text)) one.text = one.sample || words(one.text);
    }
    const { x, y } = boxOf(layer);
    return { ...copy, x: from.x + x, y: from.y + y, opacity: FAINT };
  });
  return { ...layout, layers: [...layout.layers, ...ghosts] };
}
