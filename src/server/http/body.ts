/** The longest body of an action, in bytes. */
export const LONGEST = 512 * 1024;
/** How deep a body may be nested. */
const DEEPEST = 100;

/** A body that cannot be taken: its status and one sentence. */
export class BodyProblem extends Error {
  constructor(
    readonly status: number,
    reason: string,
  ) {
    super(reason);
  }

  get response(): Response {
    return Response.json({ ok: false, reason: this.message }, { status: this.status });
  }
}

/** A request's body on its way, and how long its header says that it is. */
export interface Incoming {
  length: string | null | undefined;
  body: AsyncIterable<Uint8Array> | null;
}

/** The body of a request as the pages' renderer has it. */
export const incomingOf = ({ headers, body }: Request): Incoming => ({
  length: headers.get('content-length'),
  body: body as AsyncIterable<Uint8Array> | null,
});

const megabytes = (n: number) => `${(n / 1e6).toFixed(1)} MB`;

/** What a body must bring, in bytes a second, looked at every so many ms: one that drips holds a place that others want. */
export const PACE = { least: 16_000, every: 5000 };

/** What comes in place of a part that does not come in its time. */
const LATE = Symbol('late');

/** What a promise comes to within so many ms; else `LATE`. */
async function within<T>(work: Promise<T> | undefined, ms: number): Promise<T | typeof LATE | undefined> {
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<typeof LATE>((done) => (timer = setTimeout(() => done(LATE), Math.max(0, ms))));
  try {
    return await Promise.race([work, late]);
  } finally {
    clearTimeout(timer);
  }
}

/**
 * The body as it comes, given up as soon as it is longer than the limit, whatever its header says, or comes slower than a pace.
 * Throws a BodyProblem.
 */
export async function readBytes(incoming: Incoming, limit: number, pace?: typeof PACE): Promise<Uint8Array> {
  const tooLong = new BodyProblem(413, `That is too long; ${megabytes(limit)} is the limit.`);
  if (Number(incoming.length ?? 0) > limit) throw tooLong;
  const parts: Uint8Array[] = [];
  let length = 0;
  let look = pace ? performance.now() + pace.every : Infinity;
  let lookedAt = 0;
  const body = incoming.body?.[Symbol.asyncIterator]();
  let coming = body?.next();
  try {
    for (;;) {
      const next = await (pace ? within(coming, look - performance.now()) : coming);
      if (next !== LATE) {
        if (!next || next.done) return Buffer.concat(parts);
        length += next.value.length;
        if (length > limit) throw tooLong;
        parts.push(next.value);
        coming = body!.next();
      }
      if (!pace || performance.now() < look) continue;
      if (length - lookedAt < (pace.least * pace.every) / 1000)
        throw new BodyProblem(
          408,
          `That came too slowly or stopped on its way; at least ${pace.least / 1000} kB a second are needed.`,
        );
      look += pace.every;
      lookedAt = length;
    }
  } catch (error) {
    // It may wait for what never comes: nobody waits for it to end.
    void Promise.resolve(body?.return?.()).catch(() => {});
    throw error instanceof BodyProblem ? error : new BodyProblem(400, 'The request broke off on its way.');
  }
}

/** How deep a value is nested; stops looking below `most`. */
function deeper(value: unknown, most: number): boolean {
  if (typeof value !== 'object' || value === null) return false;
  return most === 0 || Object.values(value).some((v) => deeper(v, most - 1));
}

/** JSON of at most `limit` bytes, not nested too deep for what works on it. Throws a BodyProblem. */
export async function readJson(incoming: Incoming, limit = LONGEST): Promise<unknown> {
  const bytes = await readBytes(incoming, limit);
  let body: unknown;
  try {
    body = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes));
  } catch {
    throw new BodyProblem(400, 'The request is not JSON.');
  }
  refuseDeep(body);
  return body;
}

/** Throws a BodyProblem where a value is nested too deep for what works on it. */
export function refuseDeep(body: unknown): void {
  if (deeper(body, DEEPEST)) throw new BodyProblem(400, `The request is nested more than ${DEEPEST} deep.`);
}

/** Answers with what the work gives; what is wrong with the body is told in its own words. */
export async function answering(work: () => Promise<Response>): Promise<Response> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof BodyProblem) return error.response;
    throw error;
  }
}

/** As many large bodies are taken at a time, of all and of one person: each is held whole. */
const MOST_AT_ONCE = 4;
const MOST_OF_ONE = 2;
/** Who each of those is of that are being taken. */
const taking: string[] = [];

/** Does work that holds a large body, a few at a time, and fewer of one person. */
export async function atATime(who: string, work: () => Promise<Response>): Promise<Response> {
  const own = taking.filter((one) => one === who).length;
  if (own >= MOST_OF_ONE || taking.length >= MOST_AT_ONCE)
    throw new BodyProblem(
      503,
      own >= MOST_OF_ONE
        ? `${own} files of yours are being taken in at this moment. Try again when one of them is done.`
        : 'Files of others are being taken in at this moment. Try again when one of them is done.',
    );
  taking.push(who);
  try {
    return await work();
  } finally {
    taking.splice(taking.indexOf(who), 1);
  }
}

/** Who asks, as far as a request says: its desk; else it is one with all that do not say. */
export const deskOf = (request: Request): string => request.headers.get('foothill-desk')?.slice(0, 64) ?? '';
