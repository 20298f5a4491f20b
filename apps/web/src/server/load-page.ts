import { AppError, ERROR_STATUS } from '@kindred-baton/contracts/errors';
import type { StripQuery, StripView } from '@kindred-baton/contracts/map/strip';
import { stripQuerySchema } from '@kindred-baton/contracts/map/strip';
import type { Viewer } from '@kindred-baton/contracts/programmes/programme';
import { getStrip } from '@kindred-baton/store/map/get-strip';
import { getViewer } from '@kindred-baton/store/programmes/get-viewer';
import type { AstroGlobal } from 'astro';
import { ZodError } from 'zod';
import { toAppError, WENT_WRONG } from './answer-error.ts';
import { askAside } from './aside/ask-aside.ts';
import type { Asker } from './call.ts';
import { getLog } from './log.ts';
import { findActor } from './who-asks.ts';

export type LoadedPage<Content> =
  | { readonly ok: true; readonly viewer: Viewer; readonly strip: StripView | null; readonly address: string; readonly content: Content }
  | { readonly ok: false; readonly viewer: Viewer | null; readonly message: string };

export interface PageOptions<Content> {
  /** Turns, the tester's home, has no strip. */
  readonly hasStrip?: boolean;
  readonly load: (ask: Asker) => Promise<Content>;
}

/** Loads a page's first content on the server, all its questions at once. What is refused becomes a sentence and a status. */
export async function loadPage<Content>(astro: AstroGlobal, { hasStrip = true, load }: PageOptions<Content>): Promise<LoadedPage<Content>> {
  let viewer: Viewer | null = null;
  try {
    if (!astro.locals.personId) throw new AppError('not signed in', 'Sign in first.');
    const actor = await findActor(astro.locals.personId, astro.params['programme'] ?? '');
    const asker = askAside(actor, astro.request.signal);
    const about = asker(getViewer, undefined).then((found) => (viewer = found));
    const [known, strip, content] = await Promise.all([about, hasStrip ? asker(getStrip, readBranch(astro.url)) : null, load(asker)]);
    return { ok: true, viewer: known, strip, address: astro.url.pathname + astro.url.search, content };
  } catch (error) {
    // The middleware shows in its place that the database is away.
    if (toAppError(error).code === 'unavailable') throw error;
    const status = error instanceof AppError ? ERROR_STATUS[error.code] : error instanceof ZodError ? 400 : 500;
    astro.response.status = status;
    if (status === 500) getLog().error({ error, requestId: astro.locals.requestId }, 'a page failed');
    return { ok: false, viewer, message: describe(error) };
  }
}

/** What is no code scopes to nothing; the view itself says so. */
function readBranch(url: URL): StripQuery {
  const read = stripQuerySchema.safeParse({ branch: url.searchParams.get('scope') ?? undefined });
  return read.success ? read.data : {};
}

function describe(error: unknown): string {
  if (error instanceof AppError) return error.message;
  if (error instanceof ZodError)
    return `This address is not complete: ${error.issues.map((issue) => `${issue.path.join('.')} ${issue.message}`).join('; ')}`;
  return WENT_WRONG;
}
