import { AppError, UNKEEPABLE } from '@kindred-baton/contracts/errors';

/** PostgreSQL's SQLSTATE, wherever the driver or Drizzle put it. */
function findSqlState(error: unknown): { code: string; constraint: string; message: string } | undefined {
  for (let at: unknown = error; at instanceof Error; at = at.cause) {
    const { code, constraint } = at as Error & { code?: unknown; constraint?: unknown };
    if (typeof code === 'string' && /^[0-9A-Z]{5}$/.test(code)) {
      return { code, constraint: typeof constraint === 'string' ? constraint : '', message: at.message };
    }
  }
  return undefined;
}

const UNIQUE_SENTENCES: readonly (readonly [RegExp, string])[] = [
  [/^nodes_.*code/, 'That code is already on the map. Choose another.'],
  [/^tests_.*code/, 'That code is already in the library. Choose another.'],
  [/^scenarios_.*code/, 'There is a scenario with that code already. Choose another.'],
  [/^scenario_rows_/, 'Two data rows have the same name.'],
  [/^cycles_.*code/, 'There is a cycle with that code already. Choose another.'],
  [/^attempts_/, 'Somebody else has just begun this turn.'],
  [/^test_versions_/, 'Somebody else has just begun a draft of this test.'],
];

const TOO_LONG = 'Looking this up takes too long, so it was stopped. Choose less of it: a branch of the map, a team.';

const SENTENCES: Readonly<Record<string, (error: { constraint: string; message: string }) => AppError | undefined>> = {
  '23505': ({ constraint }) => {
    const sentence = UNIQUE_SENTENCES.find(([pattern]) => pattern.test(constraint))?.[1];
    return new AppError('conflict', sentence ?? 'That exists already.');
  },
  '23503': () => new AppError('conflict', 'Something that this points to is gone, or something still points to it.'),
  '23514': ({ constraint }) => new AppError('invalid', `The values do not fit together (${constraint}).`),
  '40001': () => new AppError('conflict', 'Somebody else changed this at the same moment. Try again.'),
  '40P01': () => new AppError('conflict', 'Somebody else changed this at the same moment. Try again.'),
  '22021': () => new AppError('invalid', UNKEEPABLE),
  '22P05': () => new AppError('invalid', UNKEEPABLE),
  '57014': () => new AppError('too large', TOO_LONG),
  KB001: () => new AppError('conflict', 'An agreed version does not change; edit makes a new draft.'),
  KB003: () => new AppError('conflict', 'What was planned when a cycle opened is kept as it was.'),
  KB002: () => new AppError('conflict', 'A finished attempt is kept as it is.'),
};

const AWAY = 'The database does not answer right now. Try again in a moment; nothing was changed.';

/** A connection that is refused, breaks off or is not to be had in time: of PostgreSQL (classes 08 and 57P), of Node.js, or of the driver. */
function isAway(error: unknown): boolean {
  for (let at: unknown = error; at instanceof Error; at = at.cause) {
    const { code } = at as Error & { code?: unknown };
    if (typeof code === 'string' && /^(08\w{3}|57P0\w|53300|ECONNREFUSED|ECONNRESET|EPIPE|ETIMEDOUT|ENOTFOUND|EHOSTUNREACH)$/.test(code))
      return true;
    if (/^(Connection terminated|timeout exceeded when trying to connect|Client has encountered a connection error)/.test(at.message))
      return true;
    if (at instanceof AggregateError && at.errors.some(isAway)) return true;
  }
  return false;
}

/** Turns a driver's error into ours, by its code; anything else passes through as it is. */
export function translateDriverError(error: unknown): unknown {
  if (error instanceof AppError) return error;
  if (isAway(error)) return new AppError('unavailable', AWAY, { cause: error });
  const state = findSqlState(error);
  const translated = state && SENTENCES[state.code]?.(state);
  return translated ? Object.assign(translated, { cause: error }) : error;
}
