import { layersOf, type Layout } from '../layers/kinds.ts';
import { fontStack } from './font-stack.ts';

/** A family of faces that ships with Foothill. */
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

/** The faces that layouts are written in, each once, as CSS names them: `600 20px "Oswald", …`. */
export function facesOf(layouts: Iterable<Layout>): string[] {
  const faces = new Set<string>();
  for (const { layers } of layouts)
    for (const layer of layersOf(layers)) {
      if (layer.kind !== 'text' && layer.kind !== 'clock') continue;
      const face = (font: string, weight = 400) => faces.add(`${weight} 20px ${fontStack(font)}`);
      face(layer.font, layer.weight);
      if (layer.kind !== 'text') continue;
      if (layer.text2) face(layer.font2 || layer.font, layer.weight2);
      if (layer.text3) face(layer.font3 || layer.font, layer.weight3);
      if (layer.text4) face(layer.font4 || layer.font, layer.weight4);
    }
  return [...faces].sort();
}
