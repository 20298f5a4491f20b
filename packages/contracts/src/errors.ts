/** The one error that crosses packages. A message says what, which one, and what to do. */
export const ERROR_STATUS = {
  invalid: 400,
  'not signed in': 401,
  forbidden: 403,
  'not found': 404,
  conflict: 409,
  'too large': 413,
  unsupported: 415,
  'too many': 429,
  broken: 500,
  unavailable: 503,
} as const;

export type ErrorCode = keyof typeof ERROR_STATUS;

/** One thing that is wrong with a request, and where in it. */
export interface Problem {
  readonly path: string;
  readonly message: string;
}

export class AppError extends Error {
  readonly code: ErrorCode;
  readonly details: unknown;

  constructor(code: ErrorCode, message: string, options: { cause?: unknown; details?: unknown } = {}) {
    super(message, { cause: options.cause });
    this.name = 'AppError';
    this.code = code;
    this.details = options.details;
  }
}

/** What a client gets instead of an answer. */
export interface ErrorAnswer {
  readonly code: ErrorCode;
  readonly message: string;
  readonly problems?: readonly Problem[] | undefined;
  readonly details?: unknown;
}

export const UNKEEPABLE = 'It holds a character that cannot be kept (a NUL, or half of one). Take it out and try again.';
