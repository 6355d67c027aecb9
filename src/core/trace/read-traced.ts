import { byProperty, One, readAs, Strict } from '../document/check.ts';
import { Text } from '../document/rules.ts';
import type { CellAt, Traced } from './traced.ts';

@Strict
class Cell implements CellAt {
  @Text(1, 400) table!: string;
  @Text(1, 400) row!: string;
  @Text(1, 400) column!: string;
}
@Strict
class Layer {
  @Text(1, 400) mount!: string;
  @Text(1, 400) id!: string;
}
@Strict
class OfField {
  @Text(1, 400) field!: string;
}
@Strict
class OfCell {
  @One(() => Cell) cell!: Cell;
}
@Strict
class OfLayer {
  @One(() => Layer) layer!: Layer;
}
const TRACED = byProperty<Traced>({ field: OfField, cell: OfCell, layer: OfLayer }, 'cannot be traced');

/** Reads what a page asks to be traced; null for what is none. */
export function readTraced(input: unknown): Traced | null {
  const read = readAs(TRACED, input);
  return read.ok ? read.value : null;
}
