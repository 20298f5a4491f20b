import { randomUUID } from 'node:crypto';
import { AppError } from '@kindred-baton/contracts/errors';
import { defineMiddleware } from 'astro:middleware';
import { answerError, toAppError } from './server/answer-error.ts';
import { getLog } from './server/log.ts';
import { startPost } from './server/post.ts';
import { findAskingReader } from './server/which-reader.ts';
import { findAskingRunner } from './server/which-runner.ts';
import { findPerson, forgetPeople } from './server/who-asks.ts';
import { watchRunners } from './server/watch-runners.ts';
import { takeUpgrades } from './server/window/take-upgrades.ts';
import { startWorker } from './server/worker.ts';

const SAFE_METHODS = new Set(['GET', 'HEAD', 'OPTIONS']);
const PUBLIC =
  /^\/(sign-in|begin|password(\/[^/]*)?|invitation\/.*|calendar\/.*|api\/(auth\/.*|begin|invitation\/.*|shown\/.*|health)|shown\/[^/]+|away|404|500|favicon\.svg|_astro\/.*)$/;

/** Who is asking, and whether from a page of ours; what rights she has is decided with each operation. */
export const onRequest = defineMiddleware(async (context, next) => {
  const { request, url, locals } = context;
  locals.requestId = randomUUID();
  startWorker().catch((error: unknown) => getLog().error({ error }, 'the worker does not start'));
  startPost();
  watchRunners();
  takeUpgrades();
  const isApi = url.pathname.startsWith('/api/');
  try {
    const reader = isApi && SAFE_METHODS.has(request.method) ? await findAskingReader(request, url) : undefined;
    const runner = isApi && !reader ? await findAskingRunner(request) : undefined;
    if (reader) locals.reader = reader;
    else if (runner) locals.runner = runner;
    // A token is sent by its machine alone: no page of others makes a browser send it.
    else if (!SAFE_METHODS.has(request.method)) requireOwnOrigin(request, url);
    if (!runner && !reader && !PUBLIC.test(url.pathname)) {
      const personId = await findPerson(request);
      if (personId) locals.personId = personId;
      else if (isApi) throw new AppError('not signed in', 'Your session is over. Sign in again; what you typed is kept in this browser.');
      else return context.redirect(`/sign-in?to=${encodeURIComponent(url.pathname + url.search)}`);
    }
    return finish(await next(), url);
  } catch (error) {
    // No redirect: the address stays, and the page comes back by itself.
    if (!isApi && toAppError(error).code === 'unavailable') return context.rewrite('/away');
    if (isApi || error instanceof AppError) return answerError(error, locals.requestId);
    getLog().error({ error, requestId: locals.requestId }, 'a page failed');
    throw error;
  }
});

function finish(response: Response, url: URL): Response {
  if (url.pathname.startsWith('/api/auth/')) forgetPeople();
  setHeaders(response);
  return response;
}

function requireOwnOrigin(request: Request, url: URL): void {
  const origin = request.headers.get('origin');
  if (origin !== url.origin) throw new AppError('forbidden', 'This request does not come from a page of Kindred Baton.');
}

function setHeaders({ headers }: Response): void {
  headers.set('x-content-type-options', 'nosniff');
  headers.set('referrer-policy', 'same-origin');
  headers.set('x-frame-options', 'DENY');
}
