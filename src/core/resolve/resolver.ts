import { sameValue, type FieldValue, type Scalar } from '../board/values.ts';
import { bindingsOf, layersOf, type Layout, type Prop } from '../template/template.ts';
import { evaluate, namesIn, type Scope, type Value } from '../value/value.ts';

/** What the stage needs to know of one layer beside its template: the content of each of its Values. */
export type LayerProps = Partial<Record<Prop, FieldValue>>;

/** A change of one layer of one mounted layout. */
export interface LayerDelta {
  mount: string;
  layer: string;
  props: LayerProps;
}

export type Inputs = Readonly<Record<string, Scalar>>;

interface Binding {
  mount: string;
  layer: string;
  prop: Prop;
  value: Value;
  scope: Scope;
  fields: Set<string>;
  last: FieldValue;
}

/**
 * Turns field changes into layer changes. It keeps, for each field, the bindings that ask for it, so that a
 * change costs what it touches and never what is mounted.
 */
export class Resolver {
  private readonly asking = new Map<string, Set<Binding>>();
  private readonly mounts = new Map<string, Binding[]>();

  constructor(private readonly read: (key: string) => FieldValue) {}

  /** Starts following a layout under the name `mount`; gives the content of all its layers, by layer name. */
  mount(mount: string, layout: Layout, inputs: Inputs): Record<string, LayerProps> {
    this.unmount(mount);
    const scope: Scope = { field: this.read, input: (key) => inputs[key] ?? null };
    const bindings: Binding[] = [];
    const states: Record<string, LayerProps> = {};
    for (const layer of layersOf(layout.layers)) {
      const props: LayerProps = (states[layer.name] = {});
      for (const { prop, value } of bindingsOf(layer)) {
        const { fields } = namesIn(value);
        const last = evaluate(value, scope);
        props[prop] = last;
        if (fields.size === 0) continue;
        const binding: Binding = { mount, layer: layer.name, prop, value, scope, fields, last };
        bindings.push(binding);
        for (const key of fields) {
          const set = this.asking.get(key);
          if (set) set.add(binding);
          else this.asking.set(key, new Set([binding]));
        }
      }
    }
    this.mounts.set(mount, bindings);
    return states;
  }

  /** Stops following. A name that is not mounted is no error. */
  unmount(mount: string): void {
    for (const binding of this.mounts.get(mount) ?? []) {
      for (const key of binding.fields) {
        const set = this.asking.get(key);
        set?.delete(binding);
        if (set?.size === 0) this.asking.delete(key);
      }
    }
    this.mounts.delete(mount);
  }

  /** Evaluates what asks for any of the fields; gives the layers whose content changed. */
  touch(keys: Iterable<string>): LayerDelta[] {
    const dirty = new Set<Binding>();
    for (const key of keys) for (const binding of this.asking.get(key) ?? []) dirty.add(binding);
    const deltas = new Map<string, LayerDelta>();
    for (const b of dirty) {
      const now = evaluate(b.value, b.scope);
      if (sameValue(now, b.last)) continue;
      b.last = now;
      const id = `${b.mount}\n${b.layer}`;
      let delta = deltas.get(id);
      if (!delta) deltas.set(id, (delta = { mount: b.mount, layer: b.layer, props: {} }));
      delta.props[b.prop] = now;
    }
    return [...deltas.values()];
  }

  /** Where a field is seen: each mounted layer and property that asks for it. */
  usesOf(key: string): { mount: string; layer: string; prop: Prop }[] {
    return [...(this.asking.get(key) ?? [])].map(({ mount, layer, prop }) => ({ mount, layer, prop }));
  }
}
