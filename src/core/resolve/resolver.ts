import { setOwn } from '../board/own.ts';
import { NONE, withMore } from '../board/lists.ts';
import { sameValue, type FieldValue, type Scalar } from '../board/values.ts';
import {
  bindingsOf,
  layersOf,
  type Binding as Bound,
  type Layer,
  type LayerProps,
  type Layout,
} from '../layers/kinds.ts';
import { coerced } from '../layers/property.ts';
import { MEDIA_TOKEN } from '../media/media.ts';
import { compiled, isKeyed, textOf, type Scope } from '../value/value.ts';
import { Dependents, type BoardReader, type Followed } from './dependents.ts';

/** A change of one layer, known by its id, of one mounted layout. */
export interface LayerDelta {
  mount: string;
  layer: string;
  props: LayerProps;
}

export type Inputs = Readonly<Record<string, Scalar>>;

/** A property of a mounted layer that is followed. */
export interface Use extends Readonly<Bound> {
  readonly mount: string;
  readonly layer: Layer;
  readonly scope: Scope;
  /** What it says now. */
  readonly last: FieldValue;
}

interface Binding extends Followed, Use {
  last: FieldValue;
  /** It is a picture whose path is worked out from a key. */
  readonly keyed: boolean;
  /** What its layer says now, for whoever joins. */
  props: LayerProps;
  /** Where the changes of its layer gather, in the round that is being worked out. */
  slot: { round: number; delta: LayerDelta | null };
}

/** Turns changes of the board into layer changes, for what is mounted. */
export class Resolver {
  private readonly mounts = new Map<string, { bindings: Binding[]; states: Record<string, LayerProps> }>();
  private round = 0;
  private readonly dependents: Dependents<Binding>;

  constructor(
    board: BoardReader,
    /** The address of a picture by its path, which may be worked out from a key; null where there is none. */
    private readonly picture: (path: string, keyed: boolean) => string | null = (path) => path,
  ) {
    this.dependents = new Dependents(board);
  }

  /** Starts following a layout under the name `mount`; gives what its Values say, by the layers' ids. */
  mount(mount: string, layout: Layout, inputs: Inputs): Record<string, LayerProps> {
    this.unmount(mount);
    const scope = this.dependents.scope(inputs);
    const bindings: Binding[] = [];
    const states: Record<string, LayerProps> = {};
    for (const layer of layersOf(layout.layers)) {
      const props: LayerProps = {};
      setOwn(states, layer.id, props);
      const slot = { round: 0, delta: null };
      for (const { prop, property, value } of bindingsOf(layer)) {
        const binding: Binding = {
          mount,
          layer,
          prop,
          property,
          value,
          work: compiled(value),
          keyed: property.type === 'picture' && isKeyed(value),
          scope,
          tokens: new Set(),
          last: null,
          props,
          slot,
        };
        this.dependents.followFields(binding);
        if (property.type === 'picture') this.dependents.follow(binding, MEDIA_TOKEN);
        binding.last = props[prop] = this.content(binding);
        if (binding.tokens.size > 0 || binding.rows) bindings.push(binding);
      }
    }
    this.mounts.set(mount, { bindings, states });
    return states;
  }

  /** What a mounted layout says now, by the layers' ids; nothing is worked out for it. Empty for a name that is not mounted. */
  states(mount: string): Readonly<Record<string, LayerProps>> {
    return this.mounts.get(mount)?.states ?? {};
  }

  /** Stops following. A name that is not mounted is no error. */
  unmount(mount: string): void {
    for (const binding of this.mounts.get(mount)?.bindings ?? []) this.dependents.drop(binding);
    this.mounts.delete(mount);
  }

  /**
   * Works out what depends on any of the tokens (fields' keys, rows); gives the layers whose content changed. With the time (ms) a
   * picture that changed says since when it is another: a loop runs in step on all pages, also on those that join later.
   */
  touch(tokens: readonly string[], at?: number): readonly LayerDelta[] {
    this.round++;
    this.at = at;
    this.deltas = NONE;
    this.dependents.forEachDependent(tokens, this.renew);
    return this.deltas;
  }

  private deltas: readonly LayerDelta[] = NONE;
  private at: number | undefined;

  /** Works one binding out again. */
  private readonly renew = (b: Binding): void => {
    const now = this.content(b);
    if (sameValue(now, b.last)) return;
    b.last = now;
    b.props[b.prop] = now;
    // All that changed of one layer goes together.
    const { slot } = b;
    if (slot.round !== this.round) {
      slot.round = this.round;
      slot.delta = { mount: b.mount, layer: b.layer.id, props: {} };
      this.deltas = withMore(this.deltas, slot.delta);
    }
    slot.delta!.props[b.prop] = now;
    if (b.prop === 'picture' && this.at !== undefined)
      slot.delta!.props['since'] = b.props['since'] = this.at;
  };

  private content(binding: Binding): FieldValue {
    const value = this.dependents.work(binding);
    const { property } = binding;
    if (property.type !== 'picture') return coerced(property, value);
    return this.picture(textOf(value), binding.keyed) ?? '';
  }

  /** Another one whenever what is mounted, or the rows that something reads, are others. */
  get version(): number {
    return this.dependents.version;
  }

  /** Where a field or a row is seen: each property of a mounted layer that asks for its token, with its Value. */
  usesOf(token: string): Use[] {
    return [...this.dependents.of([token])];
  }

  /** The properties of one mounted layer that ask for anything. */
  layer(mount: string, id: string): Use[] {
    return (this.mounts.get(mount)?.bindings ?? []).filter((b) => b.layer.id === id);
  }
}
