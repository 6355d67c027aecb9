import { afterAir } from '../workshop/inputs.ts';
import type { Edit } from './change.ts';
import { edit } from './change.ts';
import type { Situation } from './situation.ts';

/** What is changed in an item that leaves the air: its inputs that begin anew do. */
export function begunAnew({ show, world }: Situation, id: string | undefined): Edit[] {
  const item = id === undefined ? undefined : show.items.get(id);
  const template = item && world.documents.template.get(item.template);
  if (!template?.inputs.some((i) => i.afresh)) return [];
  return [edit('item', item!.id, item!, { ...item!, inputs: afterAir(template, item!.inputs) })];
}
