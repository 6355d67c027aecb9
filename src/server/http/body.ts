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

/** The body as it comes, given up as soon as it is longer than the limit, whatever its header says. */
export async function readBytes(incoming: Incoming, limit: number): Promise<Uint8Array> {
  const tooLong = new BodyProblem(413, `That is too long; ${megabytes(limit)} is the limit.`);
  if (Number(incoming.length ?? 0) > limit) throw tooLong;
  const parts: Uint8Array[] = [];
  let length = 0;
  try {
    for await (const part of incoming.body ?? []) {
      length += part.length;
      if (length > limit) throw tooLong;
      parts.push(part);
    }
  } catch (error) {
    throw error instanceof BodyProblem ? error : new BodyProblem(400, 'The request broke off on its way.');
  }
  return Buffer.concat(parts);
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

let taking = 0;
/** As many large bodies are taken at a time: each is held whole. */
const MOST_AT_ONCE = 2;

/** Does work that holds a large body, a few at a time. */
export async function atATime(work: () => Promise<Response>): Promise<Response> {
  if (taking >= MOST_AT_ONCE)
    throw new BodyProblem(
      503,
      'Other files are being taken in at this moment. Try again when they are done.',
    );
  taking++;
  try {
    return await work();
  } finally {
    taking--;
  }
}
