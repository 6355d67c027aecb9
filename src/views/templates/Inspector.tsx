import Hand from 'lucide-react/icons/hand';
import Link2 from 'lucide-react/icons/link-2';
import Link2Off from 'lucide-react/icons/link-2-off';
import { memo, useState } from 'react';
import type { FieldValue, Scalar } from '../../core/board/values.ts';
import { propertiesOf, type Layer, type LayerProps } from '../../core/layers/kinds.ts';
import { isValue, means, type Property, type Section } from '../../core/layers/property.ts';
import { PALETTE, paletteKeyOf } from '../../core/documents/palette.ts';
import { evaluate, textOf, type Value } from '../../core/value/value.ts';
import { inputKindFor, membersIn } from '../../core/workshop/inputs.ts';
import { takes } from '../../core/workshop/showing.ts';
import { later } from '../../ui/Later.tsx';
import { NumberField } from '../../ui/NumberField.tsx';
import { useRemembered } from '../../ui/remembered.ts';
import { useStable } from '../../ui/stable.ts';
import { Switch } from '../../ui/Switch.tsx';
import { tip } from '../../ui/tip.ts';
import type { Desk } from '../shared/desk.ts';
import type { ValueContext } from '../value/context.ts';
import { carriedIn, carriesValue } from './carried.ts';
import { FontChoice } from './FontChoice.tsx';
import css from './Inspector.module.css';

const ValueEditor = later(() => import('../value/ValueEditor.tsx').then((m) => m.ValueEditor));
const ColourChoice = later(() => import('../shared/ColourChoice.tsx').then((m) => m.ColourChoice));
const PicturePicker = later(() => import('../shared/PicturePicker.tsx').then((m) => m.PicturePicker));

/** The sections, in the order in which they stand. */
const SECTIONS: Record<Section, string> = {
  content: 'Content',
  place: 'Place',
  parts: 'More in the same line',
  type: 'Type',
  fit: 'Fit',
  look: 'Look',
  corners: 'Corners',
  shadow: 'Shadow',
  order: 'Within',
  mask: 'Mask and soft edges',
  showing: 'When it shows',
};

type Held = FieldValue | Value | undefined;
const heldIn = (layer: Layer, prop: string): Held => (layer as unknown as LayerProps)[prop];

/** What a property of a layer holds, its first content where the layer says nothing. */
const heldOr = (layer: Layer, prop: string): Held =>
  heldIn(layer, prop) ?? propertiesOf(layer.kind).find(([name]) => name === prop)?.[1].default;

interface Props {
  layers: readonly Layer[];
  /** All layers of the layout. */
  all: readonly Layer[];
  context: ValueContext;
  desk: Desk;
  /** Hands a property to the operator. */
  onHandOver: (prop: string) => void;
  /** Sets a property of these layers, each to what stands at its place. */
  onSet: (prop: string, label: string, held: readonly Held[]) => void;
  onEnd: () => void;
}

/** The properties that all of the chosen layers have. */
function shared(layers: readonly Layer[]): readonly [string, Property][] {
  const [first, ...rest] = layers;
  if (!first) return [];
  return propertiesOf(first.kind).filter(([name, property]) =>
    rest.every((l) => propertiesOf(l.kind).some(([n, p]) => n === name && p.type === property.type)),
  );
}

/** What the chosen layers have in common, each property as its kind declares it. */
export function Inspector(props: Props) {
  const { layers } = props;
  const onSet = useStable(props.onSet);
  const onHandOver = useStable(props.onHandOver);
  const onEnd = useStable(props.onEnd);
  const [closed, setClosed] = useRemembered('workshop.closed', 'parts corners shadow mask showing');
  const shut = new Set(closed.split(' '));
  const all = shared(layers).filter(([, property]) =>
    layers.some((l) => means(property, (prop) => heldOr(l, prop))),
  );
  return (
    <div className={css['inspector']}>
      {(Object.keys(SECTIONS) as Section[]).map((section) => {
        const list = all.filter(([, p]) => p.section === section);
        if (list.length === 0) return null;
        return (
          <details key={section} open={!shut.has(section)} className={css['section']}>
            <summary
              onClick={(e) => {
                e.preventDefault();
                if (!shut.delete(section)) shut.add(section);
                setClosed([...shut].join(' '));
              }}
            >
              {SECTIONS[section]}
            </summary>
            {!shut.has(section) && (
              <div className={css['rows']}>
                {list.map(([name, property]) => (
                  <Row key={name} {...props} {...{ name, property, onSet, onHandOver, onEnd }} />
                ))}
              </div>
            )}
          </details>
        );
      })}
    </div>
  );
}

type RowProps = Props & { name: string; property: Property };

/** What a row shows of what stands around its property: other layers, the library, or what values say now. */
const looksAround = ({ name, property: { type } }: RowProps, held: readonly Held[]) =>
  ['mask', 'which'].includes(name) || type === 'picture' || name.startsWith('font') || held.some(isValue);

/** Most rows stay as they are at a key or a drag: only those that show something else are drawn again. */
function sameRow(before: RowProps, now: RowProps): boolean {
  const was = before.layers.map((l) => heldIn(l, before.name));
  const is = now.layers.map((l) => heldIn(l, now.name));
  return (
    before.property === now.property &&
    // What a binding begins with is one of these.
    before.context.defs === now.context.defs &&
    before.layers.length === now.layers.length &&
    now.layers.every((l, i) => l.id === before.layers[i]!.id && is[i] === was[i]) &&
    !looksAround(now, is)
  );
}

const Row = memo(function Row({
  layers,
  all,
  onHandOver,
  name,
  property,
  context,
  desk,
  onSet,
  onEnd,
}: RowProps) {
  const [over, setOver] = useState(false);
  const held = layers.map((l) => heldIn(l, name));
  const [one] = held;
  const mixed = held.some((h) => JSON.stringify(h) !== JSON.stringify(one));
  const setEach = (to: readonly Held[]) => onSet(name, property.label, to);
  const set = (to: Held) => setEach(layers.map(() => to));
  const bound = !mixed && isValue(one) ? one : null;
  const named = property.type === 'colour' ? paletteKeyOf(bound) : null;
  const shown = one === undefined ? property.default : one;
  const wide = (bound !== null && named === null) || ['text', 'picture', 'clock'].includes(property.type);
  return (
    <div
      className={css['row']}
      data-prop={name}
      data-wide={wide}
      data-over={over || undefined}
      onBlur={onEnd}
      onDragOver={(e) => {
        if (e.defaultPrevented || !property.bound || !carriesValue(e.dataTransfer)) return;
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        setOver(false);
        // A line takes it in among what stands there.
        if (e.defaultPrevented) return;
        const carried = carriedIn(e.dataTransfer);
        if (!carried || !takes(property, carried.what)) return;
        e.preventDefault();
        set(carried.value);
      }}
    >
      <span className={css['label']}>
        {property.label}
        {property.bound && property.type !== 'clock' && (
          <button
            type="button"
            className={css['bind']}
            aria-label={bound ? `Stop binding ${property.label}` : `Bind ${property.label}`}
            {...tip(
              bound ? 'Stop binding it: it stays as it is now' : 'Let it come from a field or an input',
            )}
            onClick={() =>
              set(
                bound
                  ? (fixedAs(property, bound, context) as Held)
                  : firstValue(property, shown as Scalar, context),
              )
            }
          >
            {bound ? <Link2Off size={14} /> : <Link2 size={14} />}
          </button>
        )}
        {!bound && layers.length === 1 && inputKindFor(property) && (
          <button
            type="button"
            className={css['bind']}
            aria-label={`Hand ${property.label} to the operator`}
            {...tip('Let the operator fill it in')}
            onClick={() => onHandOver(name)}
          >
            <Hand size={14} />
          </button>
        )}
      </span>
      {named !== null ? (
        <ColourChoice
          desk={desk}
          label={property.label}
          value={textOf(evaluate(bound!, context.scope))}
          chosen={named}
          name={textOf(desk.row(PALETTE, named)?.['name'] ?? `${named} is gone`)}
          onChange={set}
          onValue={set}
        />
      ) : bound ? (
        <ValueEditor value={bound} context={context} onChange={set} label={property.label} />
      ) : (
        <Editor
          name={name}
          property={property}
          shown={mixed ? null : (shown as FieldValue)}
          mixed={mixed}
          held={mixed ? layers.map((l) => heldOr(l, name)) : []}
          desk={desk}
          others={all.filter((l) => !layers.includes(l))}
          members={name === 'which' && layers.length === 1 ? membersIn(layers[0]!) : []}
          onSet={set}
          onSetEach={setEach}
        />
      )}
    </div>
  );
}, sameRow);

/** What a property begins with when it is bound: the text or number that stood there, to which chips can be added. */
function firstValue(property: Property, held: Scalar, { defs }: ValueContext): Value {
  if (property.type === 'text') return { pieces: [{ fixed: String(held ?? '') }] };
  const kind = property.type === 'colour' ? 'colour' : property.type === 'flag' ? 'flag' : null;
  const field = kind && defs.find((d) => d.kind === kind);
  return field ? { field: field.key } : { fixed: held };
}

/** What stands there when a binding is taken away: what it says now. */
function fixedAs(property: Property, value: Value, { scope }: ValueContext): FieldValue {
  if ('fixed' in value) return value.fixed;
  const now =
    'field' in value ? scope.field(value.field) : 'input' in value ? scope.input(value.input) : null;
  return property.type === 'text' ? String(now ?? '') : property.type === typeof now ? now : property.default;
}

function Editor({
  name,
  property,
  shown,
  mixed,
  held,
  desk,
  others,
  members,
  onSet,
  onSetEach,
}: {
  name: string;
  property: Property;
  shown: FieldValue;
  mixed: boolean;
  /** Where they differ: what each of the layers holds. */
  held: readonly Held[];
  desk: Desk;
  others: readonly Layer[];
  /** Of a one-of group: what can show. */
  members: readonly { value: string; label: string }[];
  onSet: (to: Held) => void;
  onSetEach: (to: readonly Held[]) => void;
}) {
  const { label, type } = property;
  const written = mixed || shown === null ? '' : String(shown);
  switch (type) {
    case 'number': {
      const share = property.share === true;
      const by = share ? 100 : 1;
      const numbers = held.filter((h) => typeof h === 'number');
      return (
        <NumberField
          name={label}
          value={typeof shown === 'number' ? shown * by : null}
          placeholder={mixed ? 'mixed' : '–'}
          unit={share ? '%' : (property.unit ?? '')}
          decimals={property.whole || share ? 0 : property.unit === 'em' ? 3 : 1}
          step={property.unit === 'em' ? 0.01 : name.startsWith('weight') ? 100 : 1}
          size={5}
          drags
          {...(property.min === undefined ? {} : { min: property.min * by })}
          {...(property.max === undefined ? {} : { max: property.max * by })}
          onChange={(n) => onSet(n / by)}
          {...(numbers.length > 0 &&
            numbers.length === held.length && {
              each: {
                values: numbers.map((n) => n * by),
                onChange: (to) => onSetEach(to.map((n) => n / by)),
              },
            })}
        />
      );
    }
    case 'flag':
      return <Switch label={label} on={shown === true} onChange={onSet} />;
    case 'choice':
      return (
        <select aria-label={label} value={written} onChange={(e) => onSet(e.target.value)}>
          {mixed && <option value="">mixed</option>}
          {property.choices!.map((c) => (
            <option key={String(c)} value={String(c)}>
              {property.words?.[String(c)] ?? String(c)}
            </option>
          ))}
        </select>
      );
    case 'colour':
      return (
        <span className={css['colour']}>
          <ColourChoice
            desk={desk}
            label={label}
            value={written}
            onChange={onSet}
            {...(property.bound ? { onValue: onSet } : {})}
          />
          <input
            value={written}
            placeholder={mixed ? 'mixed' : 'none'}
            aria-label={label}
            size={9}
            onChange={(e) => onSet(e.target.value)}
          />
        </span>
      );
    case 'picture':
      return <PicturePicker path={written} library={desk.media} label="" onChange={onSet} />;
    default:
      if (members.length)
        return (
          <select aria-label={label} value={written} onChange={(e) => onSet(e.target.value)}>
            {!members.some((m) => m.value === written) && (
              <option value={written}>{written || 'none'}</option>
            )}
            {members.map((m) => (
              <option key={m.value} value={m.value}>
                {m.label}
              </option>
            ))}
          </select>
        );
      if (name.startsWith('font')) return <FontChoice {...{ desk, label, written, onSet }} />;
      if (name === 'mask')
        return (
          <select aria-label={label} value={written} onChange={(e) => onSet(e.target.value)}>
            <option value="">everywhere</option>
            {others
              .filter((l) => l.kind === 'shape' || l.kind === 'picture' || l.id === written)
              .map((l) => (
                <option key={l.id} value={l.id}>
                  {l.name}
                </option>
              ))}
          </select>
        );
      return (
        <input
          value={written}
          placeholder={mixed ? 'mixed' : ''}
          aria-label={label}
          maxLength={property.most ?? 2000}
          onChange={(e) => onSet(e.target.value)}
        />
      );
  }
}
