import { WebSocket } from 'ws';
import { layersOf, type Layer } from '../../src/core/layers/kinds.ts';
import type { DeskSnapshot } from '../../src/core/wire/wire.ts';
import type { World } from './world.ts';

/** What somebody gets who joins a stream now. */
export function snapshot<T>(world: World, stream: string): Promise<T> {
  return new Promise((done, failed) => {
    const socket = new WebSocket(`${world.url.replace('http', 'ws')}/socket?stream=${stream}`);
    socket.once('message', (data) => {
      done((JSON.parse(String(data)) as { body: T }).body);
      socket.close();
    });
    socket.once('error', failed);
  });
}

/** What stands on air now: by `output/zone` the item, null for nothing. */
export const onAirIn = async (world: World): Promise<Record<string, string | null>> =>
  Object.fromEntries(
    (await snapshot<DeskSnapshot>(world, 'desk')).lanes.map((l) => [
      `${l.output}/${l.zone}`,
      l.onAir?.item ?? null,
    ]),
  );

/** The layers of a template's first layout, as the server has them: those of groups too. */
export const layersIn = async (world: World, template: string): Promise<Layer[]> => {
  const { documents } = await snapshot<DeskSnapshot>(world, 'desk');
  return [...layersOf(documents.template.find((t) => t.key === template)!.layouts[0]!.layers)];
};
