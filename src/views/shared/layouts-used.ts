import type { Layout } from '../../core/layers/kinds.ts';
import type { DeskSnapshot } from '../../core/wire/wire.ts';

/** The layouts of all that is on air or can be taken: what they are written in is loaded before a picture is drawn. */
export const layoutsUsed = ({ documents }: Pick<DeskSnapshot, 'documents'>): Layout[] =>
  documents.template
    .filter((t) => documents.item.some((i) => i.template === t.key))
    .flatMap((t) => t.layouts);
