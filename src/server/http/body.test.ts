import { describe, expect, it } from 'vitest';
import { atATime, readBytes } from './body.ts';

const pace = { least: 10_000, every: 100 };
/** A body of parts, each so many bytes long and so many ms after the one before; `never` comes at its end. */
async function* dripping(bytes: number, ms: number, parts: number, never = false) {
  for (let i = 0; i < parts; i++) {
    await new Promise((done) => setTimeout(done, ms));
    yield new Uint8Array(bytes);
  }
  if (never) await new Promise(() => {});
}
const read = (body: AsyncIterable<Uint8Array>) => readBytes({ length: null, body }, 1e6, pace);

describe('a large body', () => {
  it('may take its time as long as it comes', async () => {
    expect(await read(dripping(500, 10, 40))).toHaveLength(20_000);
    expect(await read(dripping(5, 0, 1))).toHaveLength(5);
  });

  it.each([
    ['drips', dripping(1, 10, 1000)],
    ['stops on its way', dripping(50_000, 0, 1, true)],
    ['never begins', dripping(0, 0, 0, true)],
  ])('that %s is given up in words', async (_, body) => {
    await expect(read(body)).rejects.toMatchObject({
      status: 408,
      message: expect.stringMatching(/came too slowly or stopped/) as string,
    });
  });

  it('takes a place of its desk’s: one desk leaves room for the others, and each is free again when it is done', async () => {
    const ends: (() => void)[] = [];
    const hold = (who: string) =>
      atATime(who, () => new Promise<Response>((done) => ends.push(() => done(new Response()))));
    const held = [hold('a'), hold('a'), hold('b')];
    await expect(hold('a')).rejects.toMatchObject({
      status: 503,
      message: expect.stringMatching(/2 files of yours/) as string,
    });
    held.push(hold('c'));
    await expect(hold('d')).rejects.toMatchObject({
      status: 503,
      message: expect.stringMatching(/Files of others/) as string,
    });
    for (const end of ends.splice(0)) end();
    await Promise.all(held);
    const last = hold('a');
    ends[0]!();
    expect((await last).status).toBe(200);
  });
});
