import type { APIRoute } from 'astro';
import type { z } from 'zod';
import { answerError } from './answer-error.ts';
import { readJson } from './read-body.ts';

const MAX_JSON_BYTES = 64 * 1024;

/** An endpoint for whoever has no account yet: parse → act → answer. */
export function definePublicEndpoint<Body>(
  input: z.ZodType<Body>,
  handle: (body: Body, params: Readonly<Record<string, string | undefined>>) => Promise<object>,
): APIRoute {
  return async ({ request, params, locals }) => {
    try {
      return Response.json(await handle(input.parse(await readJson(request, MAX_JSON_BYTES)), params), {
        headers: { 'cache-control': 'no-store' },
      });
    } catch (error) {
      return answerError(error, locals.requestId);
    }
  };
}
