import type { ServerResponse } from 'node:http';

/** An answer as plain data, so that an endpoint serves both our own server and the pages' renderer. */
export interface Reply {
  status: number;
  headers: Record<string, string>;
  /** Null where an answer has no body, as a 304. */
  body: string | null;
}

/** An answer in JSON. */
export const jsonReply = (body: unknown, status = 200, headers: Record<string, string> = {}): Reply => ({
  status,
  headers: { 'content-type': 'application/json', ...headers },
  body: JSON.stringify(body),
});

/** The answer as the pages' renderer has it. */
export const asResponse = ({ status, headers, body }: Reply): Response =>
  new Response(body, { status, headers });

/** Sends the answer, beside the headers that are set already. */
export function sendReply(response: ServerResponse, { status, headers, body }: Reply): void {
  const length = body === null ? {} : { 'content-length': Buffer.byteLength(body) };
  response.writeHead(status, { ...headers, ...length }).end(body ?? undefined);
}
