import { AppError, UNKEEPABLE } from '@kindred-baton/contracts/errors';
import type { Route } from '@kindred-baton/contracts/route';
import type { RouteName } from '@kindred-baton/contracts/routes';
import { ROUTES } from '@kindred-baton/contracts/routes';
import type { Actor } from '@kindred-baton/store/actor';
import { requireRight } from '@kindred-baton/store/actor';
import type { APIContext, APIRoute } from 'astro';
import type { z } from 'zod';
import { answerError } from './answer-error.ts';
import { askAside } from './aside/ask-aside.ts';
import { ANSWERS } from './answers/answers.ts';
import type { Call } from './call.ts';
import { findRoute } from './find-route.ts';
import { findUnkeepable } from './find-unkeepable.ts';
import { readJson } from './read-body.ts';
import { bind } from './bind.ts';
import { findAskingObserver, requireForObserver } from './which-observer.ts';
import { requireForReader } from './which-reader.ts';
import { requireForRunner } from './which-runner.ts';
import { findActor } from './who-asks.ts';
import { writeAnswer } from './write-answer.ts';

const MAX_JSON_BYTES = 2 * 1024 * 1024;

/** Every request under /api/<programme>: find the route → actor → right → parse → answer → check what goes out. No rule lives here. */
export const serve: APIRoute = async (context) => {
  try {
    const found = findRoute<RouteName>(ROUTES, context.request.method, `/${context.params['path'] ?? ''}`);
    const programme = context.params['programme'] ?? '';
    const actor = await findAsking(context.locals, programme);
    if (!found) throw new AppError('not found', `There is nothing at ${context.request.method} ${context.url.pathname}.`);
    if (actor.runnerId) requireForRunner(actor, ROUTES[found.name], programme);
    if (context.locals.reader) requireForReader(actor, ROUTES[found.name], programme);
    return await answer(context, actor, found);
  } catch (error) {
    return answerError(error, context.locals.requestId);
  }
};

/** The same for whoever has the link to a board, under /api/shown/<token>: that board and its tiles, and nothing else. */
export const serveShown: APIRoute = async (context) => {
  try {
    const observer = await findAskingObserver(context.params['token'] ?? '');
    const found = findRoute<RouteName>(ROUTES, context.request.method, `/${context.params['path'] ?? ''}`);
    if (!found) throw new AppError('not found', `There is nothing at ${context.request.method} ${context.url.pathname}.`);
    requireForObserver(observer, ROUTES[found.name], found.params);
    return await answer(context, observer, found);
  } catch (error) {
    return answerError(error, context.locals.requestId);
  }
};

async function findAsking({ runner, reader, personId }: App.Locals, programme: string): Promise<Actor> {
  const byToken = runner ?? reader;
  if (byToken) return byToken;
  if (!personId) throw new AppError('not signed in', 'Sign in first.');
  return findActor(personId, programme);
}

async function answer(
  { request, url }: APIContext,
  actor: Actor,
  { name, params }: { readonly name: RouteName; readonly params: Readonly<Record<string, string>> },
): Promise<Response> {
  const route: Route = ROUTES[name];
  requireRight(actor, route.right);
  const call: Call<object, unknown> = {
    ...{ actor, request, url, ...bind(actor, route, askAside(actor, request.signal)) },
    params: parseParams(route, params),
    input: route.input && (await readInput(route.input, request, url)),
  };
  // The table of answers has been checked against the table of routes, name by name; here the name is any.
  const output = await (ANSWERS[name] as (given: typeof call) => Promise<unknown>)(call);
  if (route.output === null) return output as Response;
  const text = writeAnswer(route, output);
  // With its length known, a short answer is not compressed (server.mjs): at 150 words a second that is felt.
  return new Response(text, {
    headers: { 'content-type': 'application/json', 'cache-control': 'no-store', 'content-length': String(Buffer.byteLength(text)) },
  });
}

function parseParams(route: Route, texts: Readonly<Record<string, string>>): Record<string, unknown> {
  requireKeepable(texts);
  return Object.fromEntries(Object.entries(texts).map(([name, text]) => [name, route.params?.[name]?.parse(text) ?? text]));
}

async function readInput(schema: z.ZodType, request: Request, url: URL): Promise<unknown> {
  const given = request.method === 'GET' ? Object.fromEntries(url.searchParams) : await readJson(request, MAX_JSON_BYTES);
  requireKeepable(given);
  return schema.parse(given);
}

/** Said before anything is begun, and at the field that holds it. */
function requireKeepable(given: unknown): void {
  const path = findUnkeepable(given)?.join('.');
  if (path === undefined) return;
  throw new AppError('invalid', UNKEEPABLE, { details: { problems: [{ path, message: UNKEEPABLE }] } });
}
