import type { APIRoute } from 'astro';
import { contentAt } from '../../../server/http/content.ts';

/** A picture of the media library made small, for lists; its address is its hash, so it is the same for ever. */
export const GET: APIRoute = (context) =>
  contentAt(context, async ({ library }, hash) => {
    const bytes = await library.small(hash);
    return bytes && { bytes, type: 'image/webp' };
  });
