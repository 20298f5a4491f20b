import type { ErrorAnswer, Problem } from '@kindred-baton/contracts/errors';
import { AppError, ERROR_STATUS } from '@kindred-baton/contracts/errors';
import { ZodError } from 'zod';
import { translateDriverError } from '@kindred-baton/store/driver-errors';
import { getLog } from './log.ts';

export const WENT_WRONG = 'Something went wrong on the server. It is noted; try again.';

/** Every problem of a request with its path, as data. */
function toProblems(error: ZodError): Problem[] {
  return error.issues.map((issue) => ({ path: issue.path.join('.'), message: issue.message }));
}

export function toAppError(thrown: unknown): AppError {
  const error = translateDriverError(thrown);
  if (error instanceof AppError) return error;
  if (error instanceof ZodError) {
    const problems = toProblems(error);
    return new AppError('invalid', problems.map(({ path, message }) => (path ? `${path}: ${message}` : message)).join(' '), {
      details: { problems },
    });
  }
  return new AppError('broken', WENT_WRONG, { cause: error });
}

/** The one translator: logs the original, shows only what is public. */
export function answerError(error: unknown, requestId: string): Response {
  const known = toAppError(error);
  const status = ERROR_STATUS[known.code];
  if (status >= 500) getLog().error({ requestId, error: known.cause ?? known }, known.message);
  const details = known.details as { problems?: Problem[] } | undefined;
  const answer: ErrorAnswer = { code: known.code, message: known.message, problems: details?.problems, details: known.details };
  // A body that was cut off is still on its way: the connection is of no more use.
  const headers = { 'cache-control': 'no-store', ...(known.code === 'too large' ? { connection: 'close' } : {}) };
  return Response.json(answer, { status, headers });
}
