import type { APIRoute } from 'astro';
import { answering, atATime, deskOf, incomingOf, PACE, readBytes } from '../../../server/http/body.ts';

/** The largest file that is taken in, in bytes, compressed or not. */
const LARGEST = 128_000_000;

/** Takes in a tape that was exported, as the body. */
export const POST: APIRoute = ({ request, locals: { engine } }) => {
  const refuse = (status: number, reason: string) => Response.json({ ok: false, reason }, { status });
  return answering(() =>
    atATime(deskOf(request), async () => {
      const bytes = await readBytes(incomingOf(request), LARGEST, PACE);
      const info = await engine.runImport(() => engine.deck.bring(bytes));
      if (typeof info === 'object' && 'reason' in info) return refuse(info.status, info.reason);
      return typeof info === 'string' ? refuse(415, info) : Response.json({ ok: true, name: info.name });
    }),
  );
};
