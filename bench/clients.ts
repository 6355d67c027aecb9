import { fork } from 'node:child_process';

/** Many at once who follow streams, in a process of their own. */
export interface Clients {
  /** How long it took until all had their snapshot, ms. */
  took: number;
  /** Which numbers they were told since they were asked last, and when (ms since the epoch). */
  heard: () => Promise<[number, number][]>;
  end: () => void;
}

/** Follows all of these addresses; done when each has its snapshot, or is open where there is none. */
export async function clientsOf(urls: readonly string[]): Promise<Clients> {
  const child = fork('bench/clients.mjs', [JSON.stringify({ urls })]);
  const says = <T>() =>
    new Promise<T>((done, failed) => {
      const ended = () => failed(new Error('the clients ended before they had their pictures'));
      child.once('exit', ended);
      child.once('message', (message) => {
        child.off('exit', ended);
        done(message as T);
      });
    });
  const { took } = await says<{ took: number }>();
  return {
    took,
    heard: async () => {
      const said = says<{ heard: [number, number][] }>();
      child.send({});
      return (await said).heard;
    },
    end: () => void child.kill(),
  };
}
