import type { APIRoute } from 'astro';
import { contentAt } from '../../../server/http/content.ts';

/** A content of the media library. Its address is its hash, so it is the same for ever. */
export const GET: APIRoute = (context) => contentAt(context, ({ library }, hash) => library.content(hash));
