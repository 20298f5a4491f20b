import { AppError } from '@kindred-baton/contracts/errors';
import type { Actor } from '@kindred-baton/store/actor';
import type { Operation, Query } from '@kindred-baton/store/operation';
import { ask, perform } from '@kindred-baton/store/operation';
import type { APIContext, APIRoute } from 'astro';
import type { z } from 'zod';
import { answerError } from './answer-error.ts';
import { readJson } from './read-body.ts';
import { getStore } from './store.ts';
import { findActor } from './who-asks.ts';

const MAX_JSON_BYTES = 2 * 1024 * 1024;

/** What a handler works with: the actor is bound, so that every operation is asked in her name. */
export interface EndpointContext<Body> {
  readonly actor: Actor;
  readonly body: Body;
  readonly request: Request;
  readonly url: URL;
  readonly param: (name: string) => string;
  readonly ask: <Input, Output>(query: Query<Input, Output>, input: Input) => Promise<Output>;
  readonly perform: <Input, Output>(operation: Operation<Input, Output>, input: Input) => Promise<Output>;
}

export interface EndpointSpec<Body, Output> {
  /** What a JSON body, or the query of a GET, must look like. */
  readonly input?: z.ZodType<Body>;
  /** What goes out is checked too: a bad answer is our mistake. */
  readonly output: z.ZodType<Output>;
  readonly handle: (context: EndpointContext<Body>) => Promise<NoInfer<Output>>;
}

/** An endpoint does: parse → actor → operation → answer. No rule lives in it. */
export function defineEndpoint<Body, Output>(spec: EndpointSpec<Body, Output>): APIRoute {
  return defineRawEndpoint(async (context) => {
    const isRead = context.request.method === 'GET';
    const raw =
      spec.input === undefined
        ? undefined
        : isRead
          ? Object.fromEntries(context.url.searchParams)
          : await readJson(context.request, MAX_JSON_BYTES);
    const body = spec.input === undefined ? (undefined as Body) : spec.input.parse(raw);
    const output = await spec.handle({ ...context, body });
    const checked = spec.output.safeParse(output);
    if (!checked.success) throw new AppError('broken', 'The server’s answer was not as agreed.', { cause: checked.error });
    return Response.json(checked.data, { headers: { 'cache-control': 'no-store' } });
  });
}

/** An endpoint that reads or answers something else than JSON: files, streams. */
export function defineRawEndpoint(handle: (context: EndpointContext<undefined>) => Promise<Response>): APIRoute {
  return async (context) => {
    try {
      return await handle(await toContext(context));
    } catch (error) {
      return answerError(error, context.locals.requestId);
    }
  };
}

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

async function toContext({ locals, params, request, url }: APIContext): Promise<EndpointContext<undefined>> {
  if (!locals.personId) throw new AppError('not signed in', 'Sign in first.');
  const store = getStore();
  const actor = await findActor(locals.personId, params['programme'] ?? '');
  return {
    ...{ actor, request, url, body: undefined },
    param: (name) => params[name] ?? '',
    ask: (query, input) => ask(store, actor, query, input),
    perform: (operation, input) => perform(store, actor, operation, input),
  };
}
