import type { RouteName, Routes } from '@kindred-baton/contracts/routes';
import { ROUTES } from '@kindred-baton/contracts/routes';
import type { GivenOf, OutputOf, Route } from '@kindred-baton/contracts/route';

/** The server refused it for good, with a sentence: sending it again would not help. */
export class Refused extends Error {
  readonly status: number;

  constructor(status: number, message: string) {
    super(message);
    this.name = 'Refused';
    this.status = status;
  }
}

/** The server is away, or could not answer just now. */
export class Away extends Error {
  override readonly name = 'Away';
}

export interface ServerOptions {
  /** With the programme: http://host:port/programme. */
  readonly address: string;
  readonly token: string;
}

interface Asked {
  readonly params?: Readonly<Record<string, string>>;
  readonly form?: FormData;
  readonly signal?: AbortSignal;
  readonly limitMs?: number;
}

export type CallServer = <Name extends RouteName>(
  name: Name,
  input: GivenOf<Routes[Name]>,
  asked?: Asked,
) => Promise<OutputOf<Routes[Name]>>;

const LIMIT_MS = 20_000;
/** Answers after which the same may be asked again. */
const COMES_BACK = new Set([408, 425, 429]);

/** Asks the server by the same routes as the pages do, with the token of this machine. What comes back is checked. */
export function createServerCall({ address, token }: ServerOptions): CallServer {
  const { origin, pathname } = new URL(address);
  const programme = pathname.replaceAll('/', '');
  return async (name, input, { params = {}, form, signal, limitMs = LIMIT_MS } = {}) => {
    const route: Route = ROUTES[name];
    const path = route.path.replace(/:(\w+)/g, (_, key: string) => encodeURIComponent(params[key] ?? ''));
    const body = form ?? (input === undefined ? null : JSON.stringify(input));
    // Forms without an origin are refused as forged.
    const headers = {
      authorization: `Bearer ${token}`,
      origin,
      ...(form || input === undefined ? {} : { 'content-type': 'application/json' }),
    };
    const limit = AbortSignal.timeout(limitMs);
    const response = await fetch(`${origin}/api/${programme}${path}`, {
      method: route.method,
      headers,
      body,
      signal: signal ? AbortSignal.any([signal, limit]) : limit,
    }).catch((error: unknown) => {
      throw new Away(`The server does not answer at ${origin}: ${readCause(error)}`);
    });
    const answer = (await response.json().catch(() => ({}))) as { message?: string };
    if (response.ok) return route.output?.parse(answer) as never;
    const words = answer.message ?? `The server answers with ${response.status}.`;
    throw response.status >= 500 || COMES_BACK.has(response.status) ? new Away(words) : new Refused(response.status, words);
  };
}

function readCause(error: unknown): string {
  const { cause, message } = error as { cause?: { code?: string; message?: string }; message?: string };
  return cause?.code ?? cause?.message ?? message ?? String(error);
}
