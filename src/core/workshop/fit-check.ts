import { own } from '../board/own.ts';
import type { Scalar } from '../board/values.ts';
import { PALETTE } from '../documents/palette.ts';
import type { InputDef, Template } from '../documents/template.ts';
import {
  bindingsOf,
  contentsOf,
  layersOf,
  type Layer,
  type LayerOf,
  type LayerProps,
} from '../layers/kinds.ts';
import { coerced, isValue } from '../layers/property.ts';
import {
  lineOf,
  PARTS,
  rulesOf,
  runsOf,
  stylesOf,
  type RunStyle,
  type Verticals,
} from '../layers/written.ts';
import type { Game, Team } from '../show/game-doc.ts';
import { LEGIBLE, fitScale, writeText, type MeasureRun } from '../text/fit.ts';
import { compiled, namesIn, textOf, type Scope, type Work } from '../value/value.ts';

type Row = Readonly<Record<string, Scalar>>;

/** What the texts of templates are tried with: a team, a player, a row of a table. */
export interface FitRecord {
  /** What people call it: `Bram Fennimarsh, Herons`. */
  label: string;
  /** `teams`, `players`, or the key of the table that it is a row of. */
  among: string;
  /** What the fields of a side say of a team, by the end of their keys: `name`, `short`. */
  team: Readonly<Record<string, Scalar>> | null;
  /** What any look-up finds; a table that it is no row of is looked up as the board has it. */
  row: Row | null;
  /** The tables that it is a row of. */
  tables: readonly string[];
  /** What an operator would type: it goes into inputs of text. */
  typed: string;
}

const TEAM_PARTS = ['name', 'short', 'abbr', 'nickname'] as const;
const PLAYERS = ['home.players', 'away.players'];
/** The tables whose rows are no records: the game's own people are records already, and colours are none. */
const OTHERS: ReadonlySet<string> = new Set([...PLAYERS, 'home.staff', 'away.staff', PALETTE]);
/** Whether the rows of a table are records that templates are tried with. */
export const hasRecords = (table: string): boolean => !OTHERS.has(table);

const teamPart = (team: Team): Record<string, Scalar> =>
  Object.fromEntries(TEAM_PARTS.map((part) => [part, team[part]]));

/**
 * Every team and player of the games, and every row of the tables; none twice, though a team plays many games.
 * @param tables the board's tables by key; those of the game's own people say nothing more
 */
export function fitRecords(
  games: readonly Pick<Game, 'home' | 'away'>[],
  tables: ReadonlyMap<string, readonly Row[]>,
): FitRecord[] {
  const records = new Map<string, FitRecord>();
  for (const team of games.flatMap((g) => [g.home, g.away])) {
    const part = teamPart(team);
    records.set(`team ${JSON.stringify(part)}`, {
      label: team.name,
      among: 'teams',
      team: part,
      row: null,
      tables: [],
      typed: team.name,
    });
    for (const { id: _, ...player } of team.players) {
      const name = `${player.first} ${player.last}`.trim();
      const row = { ...player, name };
      records.set(`player ${team.name} ${JSON.stringify(row)}`, {
        label: `${name || player.number}, ${team.short}`,
        among: 'players',
        team: part,
        row,
        tables: PLAYERS,
        typed: name,
      });
    }
  }
  for (const [key, rows] of tables)
    for (const [i, row] of hasRecords(key) ? rows.entries() : []) {
      const words = Object.values(row).filter((v): v is string => typeof v === 'string' && v !== '');
      records.set(`row ${key} ${i}`, {
        label: `${key}: ${words.slice(0, 2).join(', ').slice(0, 60)}`,
        among: key,
        team: null,
        row,
        tables: [key],
        typed: '',
      });
    }
  return [...records.values()];
}

/** Where a text of a template stands. */
export interface FitText {
  template: string;
  templateName: string;
  layout: string;
  layer: LayerOf<'text'>;
  /** The height of the picture that it goes out in, in px. */
  pictureHeight: number;
  /** What the template's inputs hold while it is tried. */
  inputs: Readonly<Record<string, Scalar>>;
  /** The inputs that names are typed into, with how long they may be. */
  typed: ReadonlyMap<string, number>;
}

/** How one content fits. */
export interface FitResult {
  text: FitText;
  record: string;
  /** What is written, part by part. */
  runs: string[];
  /** The scale that it needs, across and down. */
  scale: { x: number; y: number };
  /** The size at which it is drawn, in px. */
  size: number;
  cut: boolean;
  /** Smaller than the eye reads in that picture. */
  small: boolean;
}

/** Every text that shows content which changes: bound, or handed to the operator. */
export function textsOf(
  templates: readonly Pick<Template, 'key' | 'name' | 'inputs' | 'layouts'>[],
  inputsOf: (template: string) => Readonly<Record<string, Scalar>>,
  heightOf: (template: string) => number | null,
): FitText[] {
  return templates.flatMap(({ key, name, inputs, layouts }) =>
    layouts.flatMap((layout) =>
      [...layersOf(layout.layers)].flatMap((layer: Layer): FitText[] =>
        layer.kind === 'text' && PARTS.some((part) => isValue(layer[part]))
          ? [
              {
                template: key,
                templateName: name,
                layout: layout.key,
                layer,
                pictureHeight: heightOf(key) ?? layout.height,
                inputs: inputsOf(key),
                typed: new Map(
                  inputs.flatMap((i) => (takesNames(i) ? [[i.key, i.maxLength ?? 2000] as const] : [])),
                ),
              },
            ]
          : [],
      ),
    ),
  );
}

/** An input that names are typed into: it is called so, or nothing can go out without it. */
export const takesNames = ({ kind, label, required }: InputDef) =>
  kind === 'text' && (required === true || /name|player|team|person|coach|who/i.test(label));

/** What measures: in a page its layout, in a worker a canvas. */
export interface Measuring {
  /** The width of a text in a style, in px at its set size. */
  width(text: string, style: RunStyle): number;
  verticals(style: RunStyle): Verticals;
}

/** What a text's properties hold while nobody fills anything in: what is bound as the board says it. */
function propsOf(layer: LayerOf<'text'>, scope: Scope): LayerProps {
  const props = contentsOf(layer);
  for (const { prop, property, value } of bindingsOf(layer))
    if (!(PARTS as readonly string[]).includes(prop)) props[prop] = coerced(property, compiled(value)(scope));
  return props;
}

/**
 * Puts every record into every text, and says how each fits, worst first: what is cut off, then by its scale. One content of
 * one text is named once, by the first record that has it. What a record says nothing of, the board says.
 */
export function fitCheck(
  texts: readonly FitText[],
  records: readonly FitRecord[],
  board: Omit<Scope, 'input'>,
  measuring: Measuring,
): FitResult[] {
  const results: FitResult[] = [];
  for (const text of texts) {
    const { layer } = text;
    const props = propsOf(layer, scopeWith(NOBODY, board, text));
    const styles = stylesOf(props);
    const verticals = styles.map((style) => measuring.verticals(style));
    const measure: MeasureRun = (t, run) => (t === '' ? 0 : measuring.width(t, styles[run]!));
    const works: (string | Work)[] = PARTS.map((part) => {
      const held = layer[part];
      return isValue(held) ? compiled(held) : (held ?? '');
    });
    const asked = PARTS.flatMap((part) => {
      const held = layer[part];
      return isValue(held) ? [namesIn(held)] : [];
    });
    const tables = new Set(asked.flatMap((n) => [...n.tables]));
    const inputs = asked.some((n) => [...n.inputs].some((key) => text.typed.has(key)));
    const sides = asked.some((n) => [...n.fields].some((f) => SIDE.test(f)));
    const seen = new Set<string>();
    for (const record of records) {
      // A record that the text asks nothing of would only say again what the board says.
      const concerns =
        record.tables.some((t) => tables.has(t)) || (record.team && sides) || (inputs && record.typed !== '');
      if (!concerns) continue;
      const scope = scopeWith(record, board, text);
      const runs = runsOf(
        works.map((work) => (typeof work === 'string' ? work : textOf(work(scope)))),
        layer.upper === true,
      );
      const key = runs.join('\0');
      if (key === '' || seen.has(key)) continue;
      seen.add(key);
      const rules = rulesOf(props, lineOf(verticals.filter((_, run) => run === 0 || runs[run])).height);
      const scale = fitScale(runs, measure, rules);
      const { cut } = writeText(runs, measure, rules, scale);
      const drawn = styles[0]!.size * scale.y;
      results.push({
        text,
        record: record.label,
        runs,
        scale,
        size: drawn,
        cut,
        small: drawn < LEGIBLE * text.pictureHeight,
      });
    }
  }
  return results.sort(worse);
}

/** The shortest and the longest content of each text, as they are set, by `layout layer`. */
export function extremesOf(
  results: readonly FitResult[],
  measuring: Pick<Measuring, 'width'>,
): Map<string, { shortest: string; longest: string }> {
  const styles = new Map<FitText, RunStyle[]>();
  const found = new Map<string, { shortest: string; longest: string; least: number; most: number }>();
  for (const { text, runs } of results) {
    const known = styles.get(text) ?? stylesOf(contentsOf(text.layer));
    styles.set(text, known);
    const wide = runs.reduce((sum, run, i) => sum + measuring.width(run, known[i]!), 0);
    const key = `${text.layout} ${text.layer.id}`;
    const said = runs.join('');
    const now = found.get(key) ?? { shortest: said, longest: said, least: wide, most: wide };
    if (wide < now.least) Object.assign(now, { shortest: said, least: wide });
    if (wide > now.most) Object.assign(now, { longest: said, most: wide });
    found.set(key, now);
  }
  return found;
}

const worse = (a: FitResult, b: FitResult) =>
  Number(b.cut) - Number(a.cut) ||
  Math.min(a.scale.x, a.scale.y) - Math.min(b.scale.x, b.scale.y) ||
  a.size - b.size;

/** A field of a side's team: `home.name`. */
const SIDE = /^(home|away)\.(name|short|abbr|nickname)$/;

/** What says nothing of anything. */
const NOBODY: FitRecord = { label: '', among: '', team: null, row: null, tables: [], typed: '' };

/**
 * What an input holds while a record is tried. A name goes where an operator types one, if it may be so long; what chooses or counts
 * stays as it is; and whatever a row is looked up by, it is found, but a look-up by nothing finds none.
 * @param most how long a name it takes; 0 for none
 */
export const inputWith = (
  { typed, row }: Pick<FitRecord, 'typed' | 'row'>,
  most: number,
  held: Scalar,
): Scalar => (typed !== '' && typed.length <= most ? typed : (held ?? (row ? '1' : null)));

/** What a record says, and the board where it says nothing. */
export function scopeWith(
  { team, row, tables, typed }: FitRecord,
  board: Omit<Scope, 'input'>,
  text: Pick<FitText, 'inputs' | 'typed'>,
): Scope {
  const among = new Set(tables);
  return {
    field: (key) => {
      const part = team && SIDE.exec(key)?.[2];
      return part ? (team[part] ?? null) : board.field(key);
    },
    input: (key) => inputWith({ typed, row }, text.typed.get(key) ?? 0, own(text.inputs, key) ?? null),
    row: (table, key) => (row && among.has(table) ? row : board.row?.(table, key)),
    ranked: (table, rank) => (row && among.has(table) ? row : board.ranked?.(table, rank)),
  };
}
