import { readFileSync } from 'node:fs';
import { ROUTES } from '@kindred-baton/contracts/routes';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { printClientRoutes, printRouteList } from '../server/print-routes.ts';
import { call, toAddress } from './call.ts';
import { RequestError, toMessage } from './request.ts';
import { isStale, listTopics } from './stale.ts';

const answer = (body: unknown, status = 200) => vi.fn(async () => new Response(JSON.stringify(body), { status }));
afterEach(() => vi.unstubAllGlobals());

describe('what is written from the table of routes', () => {
  const read = (path: string) => readFileSync(new URL(path, import.meta.url), 'utf8');
  it('is as the table is: else run npm run routes', () => {
    expect(read('./routes.generated.ts')).toBe(printClientRoutes(ROUTES));
    expect(read('../../../../docs/routes.md')).toBe(printRouteList(ROUTES));
  });

  it('names every method and path once', () => {
    const places = Object.values(ROUTES).map(({ method, path }) => `${method} ${path}`);
    expect(places.filter((place, index) => places.indexOf(place) < index)).toEqual([]);
  });
});

describe('the address of a route', () => {
  it('has its parameters, and the query of a read without what is not said', () => {
    expect(toAddress('/api/x', 'getTest', { params: { code: 'A/B 1' }, input: { version: 2 } })).toBe('/api/x/tests/A%2FB%201?version=2');
    expect(toAddress('/api/x', 'getHistory', { input: { person: undefined, subject: 'turn' } })).toBe('/api/x/set-up/history?subject=turn');
    expect(toAddress('/api/x', 'getMap', {})).toBe('/api/x/map');
    expect(toAddress('/api/x', 'getLikelySame', { input: { attemptId: 'a', stepIndex: 0, title: '', seen: 'ü&' } })).toBe(
      '/api/x/defects/likely?attemptId=a&stepIndex=0&title=&seen=%C3%BC%26',
    );
    expect(toAddress('/api/x', 'moveDefect', { params: { code: 'D-1' }, input: { from: 'new', to: 'fixed' } })).toBe(
      '/api/x/defects/D-1/move',
    );
  });
});

describe('a call', () => {
  it('sends a body as JSON with its method, and a form as it is', async () => {
    const fetched = answer({ done: true });
    vi.stubGlobal('fetch', fetched);
    await call('/api/x', 'moveDefect', { params: { code: 'D-1' }, input: { from: 'new', to: 'fixed' } });
    expect(fetched).toHaveBeenLastCalledWith('/api/x/defects/D-1/move', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: '{"from":"new","to":"fixed"}',
    });
    const form = new FormData();
    await call('/api/x', 'importMap', { form });
    expect(fetched).toHaveBeenLastCalledWith('/api/x/map/import', { method: 'POST', body: form });
  });

  it('rejects with the server’s sentence and its places, and says when nothing answers', async () => {
    vi.stubGlobal('fetch', answer({ code: 'invalid', message: 'Not so.', problems: [{ path: 'name', message: 'Give a name.' }] }, 400));
    await expect(call('/api/x', 'getMap', {})).rejects.toMatchObject({
      code: 'invalid',
      message: 'Not so.',
      problems: [{ path: 'name', message: 'Give a name.' }],
    });
    vi.stubGlobal(
      'fetch',
      vi.fn(() => Promise.reject(new TypeError('failed'))),
    );
    await expect(call('/api/x', 'getMap', {})).rejects.toMatchObject({ code: 'unavailable' });
    vi.stubGlobal(
      'fetch',
      vi.fn(async () => new Response('<html>', { status: 502 })),
    );
    await expect(call('/api/x', 'getMap', {})).rejects.toMatchObject({ code: 'unavailable' });
    vi.stubGlobal(
      'fetch',
      vi.fn(async () => new Response('<html>', { status: 404 })),
    );
    await expect(call('/api/x', 'getMap', {})).rejects.toMatchObject({ code: 'broken' });
    expect([toMessage(new RequestError({ code: 'invalid', message: 'Not so.' })), toMessage('?')]).toEqual([
      'Not so.',
      'Something went wrong.',
    ]);
  });
});

describe('what a change makes stale', () => {
  it('is every read that shares a topic with it, whatever it was asked with; nothing of other keys', () => {
    expect(isStale(['getGuide', { params: { turn: 't' } }], listTopics('finishAttempt'))).toBe(true);
    expect(isStale(['getSetUp', {}], listTopics('finishAttempt'))).toBe(false);
    expect(isStale(['getStrip', {}], listTopics('moveCycle'))).toBe(true);
    expect([isStale(['unknown'], ['turns']), isStale([], ['turns']), isStale([1], ['turns'])]).toEqual([false, false, false]);
  });

  it('reaches what the busiest write must not: nobody’s view waits for a recorded step', () =>
    expect(listTopics('recordStep')).toEqual([]));

  it.each([
    ['passTurn', ['getTurnsHome', 'getGuide', 'getProgress', 'getStrip', 'getPlan']],
    ['moveDefect', ['getDefect', 'listDefects', 'getTurnsHome', 'getProgress', 'getRunOverlay', 'getAcceptance']],
    ['agreeTest', ['listTests', 'getScenario', 'getMap']],
    ['editMap', ['getStrip', 'getMap', 'getProgress', 'getTraceability', 'getChoices']],
    ['changeScope', ['listCycles', 'getCycle', 'getTurnsHome', 'listScenarios', 'getStrip']],
    ['saveTeam', ['getSetUp', 'getChoices']],
  ] as const)('after %s are %s, among others', (name, reads) =>
    expect(reads.filter((read) => !isStale([read, {}], listTopics(name)))).toEqual([]),
  );
});
