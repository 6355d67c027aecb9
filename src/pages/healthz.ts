import type { APIRoute } from 'astro';
import { answerHealth } from '../server/http/endpoints.ts';
import { asResponse } from '../server/http/reply.ts';

/** Whether all is well. */
export const GET: APIRoute = async ({ locals: { engine } }) => asResponse(await answerHealth(engine));
