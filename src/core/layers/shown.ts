import { evaluate, textOf, type Scope } from '../value/value.ts';
import { COMMON } from './common.ts';
import { memberOf, type Layer } from './kinds.ts';
import { coerced, isValue, type Property } from './property.ts';

/** A layer that shows as all stands, and whether it or what holds it may also be hidden. */
export interface Shown {
  layer: Layer;
  gated: boolean;
}

/** Whether a layer says itself that it is hidden, as all stands. */
export const isHidden = ({ shows }: Layer, scope: Scope): boolean =>
  shows === false || (isValue(shows) && coerced(COMMON.shows as Property, evaluate(shows, scope)) === false);

/** The member of a one-of group that shows, by its name; null for a layer that is no such group. */
export const memberThatShows = (layer: Layer, scope: Scope): string | null =>
  layer.kind !== 'one-of'
    ? null
    : isValue(layer.which)
      ? textOf(evaluate(layer.which, scope))
      : (layer.which ?? '');

/** The layers that show as all stands: without what is hidden, and of a one-of group the member that stands. */
export function* shownIn(layers: readonly Layer[], scope: Scope, within = false): Generator<Shown> {
  for (const layer of layers) {
    if (isHidden(layer, scope)) continue;
    const gated = within || layer.shows !== undefined || layer.windowClock !== undefined;
    yield { layer, gated };
    if (!('layers' in layer)) continue;
    const which = memberThatShows(layer, scope);
    yield* shownIn(
      which === null ? layer.layers : layer.layers.filter((inner) => memberOf(inner) === which),
      scope,
      gated,
    );
  }
}
