import type { ErrorAnswer, ErrorCode, Problem } from '@kindred-baton/contracts/errors';

/** The server's refusal, or a network that did not answer (code *unavailable*). */
export class RequestError extends Error {
  readonly code: ErrorCode;
  readonly problems: readonly Problem[];
  readonly details: unknown;

  constructor(answer: ErrorAnswer) {
    super(answer.message);
    this.name = 'RequestError';
    this.code = answer.code;
    this.problems = answer.problems ?? [];
    this.details = answer.details;
  }
}

const OFFLINE: ErrorAnswer = {
  code: 'unavailable',
  message: 'The server does not answer. What you typed is kept; it is sent when the server is back.',
};

async function send(input: string, init: RequestInit): Promise<Response> {
  try {
    return await fetch(input, init);
  } catch (cause) {
    throw Object.assign(new RequestError(OFFLINE), { cause });
  }
}

async function readAnswer<Answer>(response: Response): Promise<Answer> {
  const body: unknown = await response.json().catch(() => null);
  if (response.ok) return body as Answer; // the server checks what it sends against the same contract
  throw new RequestError((body as ErrorAnswer | null) ?? { ...OFFLINE, code: response.status >= 500 ? 'unavailable' : 'broken' });
}

export async function getJson<Answer>(path: string, signal?: AbortSignal): Promise<Answer> {
  return readAnswer<Answer>(await send(path, { headers: { accept: 'application/json' }, ...(signal ? { signal } : {}) }));
}

/** A file. An answer that refuses it is no file. */
export async function getBlob(path: string): Promise<Blob> {
  const response = await send(path, {});
  return response.ok ? response.blob() : readAnswer<never>(response);
}

export async function sendJson<Answer>(method: 'POST' | 'PUT' | 'PATCH' | 'DELETE', path: string, body?: unknown): Promise<Answer> {
  const init: RequestInit = { method, headers: { 'content-type': 'application/json' } };
  if (body !== undefined) init.body = JSON.stringify(body);
  return readAnswer<Answer>(await send(path, init));
}

export async function sendForm<Answer>(path: string, form: FormData): Promise<Answer> {
  return readAnswer<Answer>(await send(path, { method: 'POST', body: form }));
}

export function toMessage(error: unknown): string {
  return error instanceof Error ? error.message : 'Something went wrong.';
}
