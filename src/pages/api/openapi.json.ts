import type { APIRoute } from 'astro';

/** What can be asked for, described for programs. */
export const GET: APIRoute = async () => {
  const { openApi } = await import('../../server/http/openapi.ts');
  return Response.json(openApi());
};
