import type { APIRoute } from 'astro';

/** A tape as a file: JSON Lines, compressed (docs/tape-format.md). */
export const GET: APIRoute = ({ params, locals: { engine } }) => {
  const found = engine.deck.file(params['key'] ?? '');
  if (!found) return new Response('There is no such tape.\n', { status: 404 });
  const name = found.info.name.replace(/[^\p{L}\p{N} .-]+/gu, '').trim() || 'tape';
  const parts = found.parts[Symbol.asyncIterator]();
  const body = new ReadableStream<Uint8Array>({
    async pull(stream) {
      const { value, done } = await parts.next();
      if (done) stream.close();
      else stream.enqueue(value);
    },
  });
  return new Response(body, {
    headers: {
      'content-type': 'application/gzip',
      'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}.jsonl.gz`,
    },
  });
};
