import type { Scalar } from '../board/values.ts';
import { Each, One, Strict } from '../document/check.ts';
import {
  AnyScalar,
  Count,
  Is,
  Key,
  ListOf,
  Maybe,
  Name,
  Num,
  OneOf,
  Text,
  Whole,
  YesNo,
} from '../document/rules.ts';
import type { Parsed } from '../document/problems.ts';
import { readDocument } from '../document/upgrade.ts';
import { bindingsOf, layersOf, type GuideLines, type Layer, type Layout } from '../layers/kinds.ts';
import { LAYER } from '../layers/read.ts';
import { namesIn } from '../value/value.ts';
import { layersByName } from './template-1.ts';
import { inputsByDefault } from './template-2.ts';

/** What an operator can fill in: a text, one of a few, on or off, a number, a colour, a picture of the library. */
export const INPUT_KINDS = ['text', 'choice', 'switch', 'number', 'colour', 'picture'] as const;
export type InputKind = (typeof INPUT_KINDS)[number];

@Strict
class InputChoice {
  @Text(0, 2000) value!: string;
  @Name() label!: string;
}

/** The rows of a table, of which one is chosen: the input holds the row's key, by which look-ups find it. */
@Strict
class InputRows {
  @Text(1, 80) table!: string;
  /** The column that people read. */
  @Text(1, 80) column!: string;
}

/** How choices are drawn: as words, as the pictures or in the colours that they stand for. */
export const CHOICES_AS = ['text', 'picture', 'colour'] as const;

/** What a template lets the operator fill in. */
@Strict
export class InputDef {
  @Key() key!: string;
  @Name() label!: string;
  @OneOf(...INPUT_KINDS) kind!: InputKind;
  /** What else the operator should know about it. */
  @Maybe() @Text(0, 300) help?: string;
  @Maybe() @Each(() => InputChoice) choices?: InputChoice[];
  /** A choice among the rows of a table, in the place of a list of its own. */
  @Maybe() @One(() => InputRows) rows?: InputRows;
  @Maybe() @OneOf(...CHOICES_AS) as?: (typeof CHOICES_AS)[number];
  /** The heading of the form that it begins; those after it stand under it too. */
  @Maybe() @Text(1, 80) section?: string;
  /** It has a line of the form to itself. */
  @Maybe() @YesNo() wide?: boolean;
  /** Once it was on air it begins anew; else it keeps what was filled in. */
  @Maybe() @YesNo() resets?: boolean;
  @Maybe() @YesNo() required?: boolean;
  @Maybe() @Whole(1, 2000) maxLength?: number;
  /** Bounds of a number, both included. */
  @Maybe() @Num() min?: number;
  @Maybe() @Num() max?: number;
  /** What it holds in a new item. */
  @Maybe() @AnyScalar() default?: Scalar;
  @Maybe() @AnyScalar() sample?: Scalar;
}

const place = (v: unknown) => typeof v === 'number' && v >= 0 && v <= 20_000;

/** Where guides stand, in px. */
@Strict
class Guides implements GuideLines {
  @Count(0, 200) @ListOf(place, 'must be numbers from 0 to 20000') x!: number[];
  @Count(0, 200) @ListOf(place, 'must be numbers from 0 to 20000') y!: number[];
}

/** A template's layers for one size, in px. */
@Strict
class LayoutDoc implements Layout {
  @Key() key!: string;
  @Num(0, 20_000) width!: number;
  @Num(0, 20_000) height!: number;
  @Each(() => LAYER) layers!: Layer[];
  @Maybe() @One(() => Guides) guides?: GuideLines;
}

@Strict
export class Template {
  @Is(3) schema!: 3;
  @Key() key!: string;
  @Name() name!: string;
  /** The folder of the library that it lies in; without it, in none. */
  @Maybe() @Text(1, 80) folder?: string;
  @Each(() => InputDef) inputs!: InputDef[];
  @Count(1, 100, 'a template needs at least one layout') @Each(() => LayoutDoc) layouts!: LayoutDoc[];
}

/** What is wrong with the layers of a layout: two with one id, or a Value that asks for an input that is not there. */
function problemsIn(layout: Layout, inputs: ReadonlySet<string>): string[] {
  const problems: string[] = [];
  const ids = new Set<string>();
  for (const layer of layersOf(layout.layers)) {
    if (ids.has(layer.id)) problems.push(`layouts.${layout.key}: two layers have the id "${layer.id}"`);
    ids.add(layer.id);
    for (const { prop, value } of bindingsOf(layer))
      for (const key of namesIn(value).inputs)
        if (!inputs.has(key))
          problems.push(`layouts.${layout.key}.${layer.name}.${prop}: there is no input "${key}"`);
  }
  return problems;
}

/**
 * Reads a template; refuses one with two layers of one id, or two layouts of one key, or that asks for an input it does not
 * declare, or whose choice has nothing to choose from.
 */
export function parseTemplate(input: unknown): Parsed<Template> {
  return readDocument(Template, [layersByName, inputsByDefault], input, ({ inputs, layouts }) => {
    const keys = new Set(inputs.map((i) => i.key));
    return [
      ...inputs
        .filter((i) => i.kind === 'choice' && !i.choices?.length && !i.rows)
        .map((i) => `inputs: "${i.label}" has nothing to choose from`),
      ...layouts
        .filter((l, i) => layouts.findIndex((other) => other.key === l.key) !== i)
        .map((l) => `layouts: two have the key "${l.key}"`),
      ...layouts.flatMap((layout) => problemsIn(layout, keys)),
    ];
  });
}
