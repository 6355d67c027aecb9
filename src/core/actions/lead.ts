import type { World } from './world.ts';

/**
 * How long after it is told a take or a clear on these outputs happens, in ms: the longest of their leads, so that it is one moment
 * on all of them.
 */
export const leadOf = ({ documents }: Pick<World, 'documents'>, outputs: Iterable<string>): number =>
  Math.max(0, ...[...outputs].map((key) => documents.output.get(key)?.lead ?? 0));
