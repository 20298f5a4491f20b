import type { ErrorAnswer, ErrorCode } from '@kindred-baton/contracts/errors';
import { ERROR_STATUS } from '@kindred-baton/contracts/errors';
import type { RouteName } from '@kindred-baton/contracts/routes';
import type { Viewer } from '@kindred-baton/contracts/programmes/programme';
import type { Right } from '@kindred-baton/core/programmes/roles';
import { RIGHTS } from '@kindred-baton/core/programmes/roles';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, configure, render } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import type { ReactNode } from 'react';
import { afterEach, vi } from 'vitest';
import type { Output } from '../src/client/call.ts';
import { CLIENT_ROUTES } from '../src/client/routes.generated.ts';
import { AddressProvider } from '../src/features/frame/address-context.tsx';
import { LitProvider } from '../src/features/frame/lit-context.tsx';
import { ProgrammeProvider } from '../src/features/frame/programme-context.tsx';
import { NoticeProvider } from '../src/ui/notices.tsx';
// What screens fetch when it is needed is here before a test begins, so that none waits for it.
import '../src/ui/dialog-window.tsx';
import '../src/ui/menus/open-choose.tsx';
import '../src/ui/menus/open-menu.tsx';

/** What a route was called with. */
interface FakeCall {
  readonly name: RouteName;
  readonly params: Readonly<Record<string, string>>;
  /** The query of a GET, the body of others, the options of a form. */
  readonly input: Readonly<Record<string, unknown>>;
}

type Answerer<Name extends RouteName> = (call: FakeCall) => Output<Name> | Promise<Output<Name>>;

/** The server as a screen sees it: routes that are answered as a test says. A route that is not said refuses with 404. */
export interface FakeServer {
  readonly calls: FakeCall[];
  readonly on: <Name extends RouteName>(name: Name, answer: Answerer<Name>) => void;
  /** How often a route was called. */
  readonly count: (name: RouteName) => number;
  /** From now on the network does not answer at all. */
  readonly goAway: (isAway?: boolean) => void;
}

/** What an answerer throws to refuse. */
export class Refusal extends Error {
  readonly answer: ErrorAnswer;
  constructor(code: ErrorCode, message: string, more: Partial<ErrorAnswer> = {}) {
    super(message);
    this.answer = { code, message, ...more };
  }
}

const VIEWER: Viewer = {
  person: { id: 'person-lea' as Viewer['person']['id'], name: 'Lea Marsh' },
  ...{ roles: ['lead'], rights: [...RIGHTS], programmes: [{ key: 'brindlemere', name: 'Brindlemere Water Trust' }] },
  programme: {
    ...{ key: 'brindlemere', name: 'Brindlemere Water Trust', timeZone: 'Europe/London', isDemo: false, severityNames: {} },
    levels: ['Stream', 'Process', 'Activity'],
  },
};

const PATTERNS = Object.entries(CLIENT_ROUTES).map(([name, [method, path]]) => ({
  name: name as RouteName,
  method,
  names: [...path.matchAll(/:(\w+)/g)].map(([, param = '']) => param),
  pattern: new RegExp(`^/api/brindlemere${path.replace(/:\w+/g, '([^/]+)')}$`),
}));

async function readInput(url: URL, init: RequestInit): Promise<FakeCall['input']> {
  if (init.body instanceof FormData) return JSON.parse(String(init.body.get('options') ?? '{}')) as FakeCall['input'];
  if (typeof init.body === 'string') return JSON.parse(init.body) as FakeCall['input'];
  return Object.fromEntries(url.searchParams);
}

function startServer(): FakeServer {
  const answers = new Map<RouteName, Answerer<RouteName>>();
  const calls: FakeCall[] = [];
  let isAway = false;
  const answer = async (input: string, init: RequestInit = {}): Promise<Response> => {
    if (isAway) throw new TypeError('fetch failed');
    const url = new URL(input, location.href);
    const method = init.method ?? 'GET';
    for (const { name, method: own, names, pattern } of PATTERNS) {
      const found = own === method ? pattern.exec(url.pathname) : null;
      if (!found) continue;
      const params = Object.fromEntries(names.map((param, index) => [param, decodeURIComponent(found[index + 1] ?? '')]));
      const call: FakeCall = { name, params, input: await readInput(url, init) };
      calls.push(call);
      const answerer = answers.get(name);
      if (!answerer) break;
      try {
        return Response.json((await answerer(call)) ?? null);
      } catch (error) {
        if (!(error instanceof Refusal)) throw error;
        return Response.json(error.answer, { status: ERROR_STATUS[error.answer.code] });
      }
    }
    return Response.json({ code: 'not found', message: `The test answers no ${method} ${url.pathname}.` }, { status: 404 });
  };
  vi.stubGlobal('fetch', answer);
  return {
    calls,
    on: (name, answerer) => void answers.set(name, answerer as Answerer<RouteName>),
    count: (name) => calls.filter((call) => call.name === name).length,
    goAway: (value = true) => (isAway = value),
  };
}

/** What jsdom has not. */
class Observer {
  observe(): void {}
  unobserve(): void {}
  disconnect(): void {}
}

interface ScreenOptions {
  readonly rights?: readonly Right[];
  /** Path and query, below the programme. */
  readonly address?: string;
}

/** A view within the frame’s contexts, before a server that answers as the test says. */
export function openScreen(view: ReactNode, { rights = RIGHTS, address = '/' }: ScreenOptions = {}) {
  vi.stubGlobal('ResizeObserver', Observer);
  vi.stubGlobal('CSS', { supports: () => false, escape: (text: string) => text.replace(/[^\w-]/g, '\\$&') });
  Element.prototype.scrollIntoView = () => {};
  // Every frame is as large as a page, so that lists that draw only what is seen draw their first rows.
  Object.defineProperty(Element.prototype, 'clientHeight', { configurable: true, value: 600 });
  Object.defineProperty(Element.prototype, 'clientWidth', { configurable: true, value: 900 });
  const server = startServer();
  const client = new QueryClient({ defaultOptions: { queries: { retry: false, staleTime: 60_000 } } });
  const path = `/brindlemere${address}`;
  history.replaceState(null, '', path);
  const user = userEvent.setup();
  const show = () =>
    render(
      <QueryClientProvider client={client}>
        <AddressProvider address={path}>
          <ProgrammeProvider viewer={{ ...VIEWER, rights: [...rights] }}>
            <NoticeProvider>
              <LitProvider>{view}</LitProvider>
            </NoticeProvider>
          </ProgrammeProvider>
        </AddressProvider>
      </QueryClientProvider>,
    );
  return { server, client, user, show };
}

/** A promise that the test settles. */
export function defer<Value>() {
  let resolve: (value: Value) => void = () => {};
  let reject: (error: unknown) => void = () => {};
  const promise = new Promise<Value>((give, refuse) => {
    resolve = give;
    reject = refuse;
  });
  return { promise, resolve, reject };
}

// A slow machine is no failure.
configure({ asyncUtilTimeout: 10_000 });

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});
