import type { Output } from '../../core/show/show.ts';

/** Every zone of the outputs, as it is chosen from a list. */
export const zonesOf = (outputs: readonly Output[]) =>
  outputs.flatMap((o) =>
    o.zones.map((z) => ({ ...z, output: o.key, zone: z.key, label: `${o.name}, ${z.name}` })),
  );
