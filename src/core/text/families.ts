import { layersOf, type Layer, type Layout } from '../layers/kinds.ts';
import { fontsOf } from '../media/fonts.ts';
import type { MediaEntry } from '../media/media.ts';
import { fontStack } from './font-stack.ts';

/** A family of faces. */
export interface Family {
  name: string;
  /** What it is, in the words of type. */
  style: string;
  /** Its lightest and its heaviest weight. */
  weights: readonly [from: number, to: number];
}

/** The families that ship, all under open licences. */
export const FAMILIES: readonly Family[] = [
  { name: 'Barlow Condensed', style: 'condensed', weights: [100, 900] },
  { name: 'Sofia Sans Extra Condensed', style: 'very condensed', weights: [1, 1000] },
  { name: 'Archivo', style: 'grotesque', weights: [100, 900] },
  { name: 'Hanken Grotesk', style: 'grotesque, round', weights: [100, 900] },
  { name: 'Unbounded', style: 'wide', weights: [200, 900] },
  { name: 'Roboto Slab', style: 'slab', weights: [100, 900] },
  { name: 'Oswald', style: 'headlines', weights: [200, 700] },
  { name: 'Big Shoulders Display', style: 'display figures', weights: [100, 900] },
  { name: 'Teko', style: 'low display figures', weights: [300, 700] },
  { name: 'Rubik', style: 'Latin, Cyrillic, Hebrew, Arabic', weights: [300, 900] },
];

const plain = (family: string) => family.toLowerCase().replace(/ variable$/, '');

/** The family of that name which ships, however it is written; undefined where none does. */
export const shipped = (family: string): Family | undefined =>
  FAMILIES.find((f) => plain(f.name) === plain(family));

/** The families that were brought in, by name: each with the weights of all its files. */
export function familiesIn(entries: Iterable<MediaEntry>): Family[] {
  const families = new Map<string, Family>();
  for (const { family, weights } of fontsOf(entries).values()) {
    const [from, to] = families.get(family)?.weights ?? weights;
    const all = [Math.min(from, weights[0]), Math.max(to, weights[1])] as const;
    families.set(family, { name: family, style: 'yours', weights: all });
  }
  return [...families.values()].sort((a, b) => a.name.localeCompare(b.name, 'en'));
}

/** All families that can be written in: those that were brought in, then those that ship. */
export const allFamilies = (entries: Iterable<MediaEntry>): Family[] => [...familiesIn(entries), ...FAMILIES];

/** The fonts and weights that a layer is written in, each part's; none where it is no text and no clock. */
export function* writtenBy(layer: Layer): Iterable<{ font: string; weight: number }> {
  if (layer.kind !== 'text' && layer.kind !== 'clock') return;
  const { font } = layer;
  yield { font, weight: layer.weight ?? 400 };
  if (layer.kind !== 'text') return;
  if (layer.text2) yield { font: layer.font2 || font, weight: layer.weight2 ?? 400 };
  if (layer.text3) yield { font: layer.font3 || font, weight: layer.weight3 ?? 400 };
  if (layer.text4) yield { font: layer.font4 || font, weight: layer.weight4 ?? 400 };
}

/** The faces that layouts are written in, each once, as CSS names them: `600 20px "Oswald", …`. */
export function facesOf(layouts: Iterable<Layout>): string[] {
  const faces = new Set<string>();
  for (const { layers } of layouts)
    for (const layer of layersOf(layers))
      for (const { font, weight } of writtenBy(layer)) faces.add(`${weight} 20px ${fontStack(font)}`);
  return [...faces].sort();
}
