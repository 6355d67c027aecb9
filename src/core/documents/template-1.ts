import { freshId } from '../text/keys.ts';
import { isRecord } from '../board/own.ts';
import type { Step } from '../document/upgrade.ts';

type Plain = Record<string, unknown>;

const plain = (v: unknown): Plain => (isRecord(v) ? v : {});
const listed = (v: unknown): unknown[] => (Array.isArray(v) ? v : []);

/** Content that was written as a Value, `{ fixed: … }`, though it is none, where the property can hold it itself. */
const eased = (value: unknown, holds: (v: unknown) => boolean): unknown =>
  isRecord(value) && Object.keys(value).length === 1 && holds(value['fixed']) ? value['fixed'] : value;
const isText = (v: unknown) => typeof v === 'string';
const isNumber = (v: unknown) => typeof v === 'number';
const HOLDS: Record<string, (v: unknown) => boolean> = {
  shows: (v) => typeof v === 'boolean',
  text: isText,
  fill: isText,
  picture: isText,
  on: isText,
  off: isText,
  which: isText,
  colour: isText,
  count: isNumber,
  of: isNumber,
};

function layer(old: unknown, ids: Set<string>, within: string | null): unknown {
  if (!isRecord(old)) return old;
  const { kind, name, box, window, style, layers, moments, ...rest } = old;
  const { anchor, ...type } = plain(style);
  const { x: anchorX, y: anchorY } = plain(anchor);
  const { clock, above, below } = plain(window);
  const made: Plain = {
    id: freshId(ids, String(name)),
    kind,
    name,
    ...(within === 'one-of' ? { member: name } : {}),
    ...plain(box),
    ...(clock === undefined ? {} : { windowClock: clock }),
    ...(above === undefined ? {} : { windowAbove: above }),
    ...(below === undefined ? {} : { windowBelow: below }),
    ...rest,
    ...type,
    ...(anchor === undefined ? {} : { anchorX, anchorY }),
    ...(moments === undefined ? {} : { moments }),
  };
  for (const name of Object.keys(made)) {
    const holds = Object.hasOwn(HOLDS, name) ? HOLDS[name] : undefined;
    if (holds) made[name] = eased(made[name], holds);
  }
  return Array.isArray(layers) ? { ...made, layers: layers.map((l) => layer(l, ids, String(kind))) } : made;
}

/**
 * From version 1 to 2: a layer was known by its name, had its box and its type in objects of their own, and a one-of group
 * chose its member by name.
 */
export const layersByName: Step = (doc) => ({
  ...doc,
  layouts: listed(doc['layouts']).map((layout) => {
    const ids = new Set<string>();
    return isRecord(layout)
      ? { ...layout, layers: listed(layout['layers']).map((l) => layer(l, ids, null)) }
      : layout;
  }),
});
