import type { Scalar } from '../board/values.ts';
import { byWord } from '../document/check.ts';
import { AnyScalar, Count, Is, Key, ListOf, Maybe, Name, Num, OneOf, Whole } from '../document/rules.ts';

/** A time in ms. */
export const Ms = () => Whole(0, 60_000_000);

const GROUPS = ['clocks', 'home', 'away', 'situation', 'game', 'derived'] as const;

class Base {
  @Key() key!: string;
  @Name() label!: string;
  @OneOf(...GROUPS) group!: (typeof GROUPS)[number];
  /** What it is when a game begins, a clock in ms; what its kind suggests where it is not said (`firstValue`). */
  @Maybe() @AnyScalar() default?: Scalar;
}
class TextField extends Base {
  @Is('text') kind!: 'text';
  @Whole(1, 500) maxLength = 120;
}
class ChoiceField extends Base {
  @Is('choice') kind!: 'choice';
  @Count(1, 1000)
  @ListOf((v) => typeof v === 'string' && v.length <= 500, 'must be texts')
  choices!: string[];
}
class IntegerField extends Base {
  @Is('integer') kind!: 'integer';
  @Num() min!: number;
  @Num() max!: number;
}
class FlagField extends Base {
  @Is('flag') kind!: 'flag';
}
class ColourField extends Base {
  @Is('colour') kind!: 'colour';
}
class PictureField extends Base {
  @Is('picture') kind!: 'picture';
}
/** Worked out of other fields: whatever comes of it. */
class DerivedField extends Base {
  @Is('derived') kind!: 'derived';
}
class ClockField extends Base {
  @Is('clock') kind!: 'clock';
  /** The longest time it can show, in ms. */
  @Ms() max!: number;
  @OneOf('down', 'up') direction!: 'down' | 'up';
  @OneOf('m:ss', 's') form: 'm:ss' | 's' = 'm:ss';
  @Ms() tenthsBelow = 0;
  /** `whistle`: it stands while play does; `runs on`: it goes through stoppages. */
  @OneOf('whistle', 'runs on') stops: 'whistle' | 'runs on' = 'whistle';
  /** The clock that it starts and stops with. */
  @Maybe() @Key() with?: string;
}

/** One field of the board as a sport profile declares it. */
export type FieldDef =
  | TextField
  | ChoiceField
  | IntegerField
  | FlagField
  | ColourField
  | PictureField
  | DerivedField
  | ClockField;

/** True for a field that may be set by hand on a pad: what a game changes, not what it is called. */
export const isForHand = (def: FieldDef): boolean => !['text', 'colour', 'picture'].includes(def.kind);

/** Reads one field of a profile. */
export const FIELD = byWord<FieldDef>('kind', {
  text: TextField,
  choice: ChoiceField,
  integer: IntegerField,
  flag: FlagField,
  colour: ColourField,
  picture: PictureField,
  derived: DerivedField,
  clock: ClockField,
});
