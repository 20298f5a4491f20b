import { randomUUID } from 'node:crypto';
import type { ErrorAnswer } from '@kindred-baton/contracts/errors';
import type { TurnList } from '@kindred-baton/contracts/turns/turn';
import { beforeAll, describe, expect, inject, it } from 'vitest';
import { DEMO_PASSWORD } from '../support/demo-password.ts';

const API = '/api/brindlemere';

describe('a wrong request', () => {
  const baseUrl = inject('baseUrl');
  const cookies = new Map<string, string>();

  const signIn = async (email: string) => {
    const response = await fetch(`${baseUrl}/api/auth/sign-in/email`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', origin: baseUrl },
      body: JSON.stringify({ email, password: DEMO_PASSWORD }),
    });
    cookies.set(
      email,
      response.headers
        .getSetCookie()
        .map((cookie) => cookie.split(';')[0])
        .join('; '),
    );
  };
  beforeAll(async () => {
    for (const name of ['lea.marsh', 'cora.vane', 'jory.lind']) await signIn(`${name}@brindlemere.example`);
  });

  const send = (method: string, path: string, options: { as?: string; body?: unknown; headers?: Record<string, string> } = {}) => {
    const body =
      options.body instanceof FormData || typeof options.body === 'string' || options.body === undefined
        ? (options.body as FormData | string | undefined)
        : JSON.stringify(options.body);
    const headers: Record<string, string> = {
      origin: baseUrl,
      cookie: options.as === undefined ? '' : (cookies.get(`${options.as}@brindlemere.example`) ?? ''),
      ...options.headers,
    };
    if (!(options.body instanceof FormData)) headers['content-type'] = 'application/json';
    return fetch(baseUrl + path, { method, headers, redirect: 'manual', ...(body === undefined ? {} : { body }) });
  };
  const answer = async (response: Response) => ({ status: response.status, ...((await response.json()) as ErrorAnswer) });

  it('gets 400 with the place of a character that cannot be kept', async () => {
    const body = { code: 'C-N', name: 'One\u0000two' };
    expect(await answer(await send('POST', `${API}/cycles`, { as: 'lea.marsh', body }))).toMatchObject({
      ...{ status: 400, code: 'invalid' },
      problems: [{ path: 'name' }],
    });
  });

  it('gets 400 with every problem and its path', async () => {
    const bad = await answer(
      await send('POST', `${API}/cycles`, {
        as: 'lea.marsh',
        body: { code: 'a b', name: '', purpose: 'fun', environmentId: 'x', startsOn: '2026-02-30', endsOn: 'soon', scope: [] },
      }),
    );
    expect(bad).toMatchObject({ status: 400, code: 'invalid' });
    expect(bad.problems?.map(({ path }) => path).sort()).toEqual([
      'code',
      'endsOn',
      'environmentId',
      'name',
      'purpose',
      'scope',
      'startsOn',
    ]);
    const steps = await answer(
      await send('PUT', `${API}/tests/BIL-01`, {
        as: 'lea.marsh',
        body: {
          base: { number: 1, revision: 1 },
          name: 'N',
          minutes: 1,
          steps: [
            { do: 'press', target: 'S' },
            { do: 'dance', target: '' },
          ],
          needs: [],
          gives: [],
          rows: [],
        },
      }),
    );
    expect(steps.problems?.map(({ path }) => path)).toEqual(['steps.1.do', 'steps.1.target']);
  });

  it.each([
    ['no JSON', 'POST', `${API}/tests`, '{'],
    ['an id that is none', 'GET', `${API}/turns/1`, undefined],
    ['a filter that is unknown', 'GET', `${API}/turns/list?cycle=ACC-2&status=lost`, undefined],
    ['a hold that is none', 'GET', `${API}/turns/list?cycle=ACC-2&hold=x`, undefined],
  ])('with %s is 400, not 500', async (_, method, path, body) => {
    expect((await send(method, path, { as: 'lea.marsh', body })).status).toBe(400);
  });

  it('without a session is 401 for the program, and leads a person to sign in and back', async () => {
    expect((await send('GET', `${API}/map`)).status).toBe(401);
    const page = await send('GET', '/brindlemere/progress?scope=NS');
    expect([page.status, page.headers.get('location')]).toEqual([302, '/sign-in?to=%2Fbrindlemere%2Fprogress%3Fscope%3DNS']);
  });

  it('without the right is 403, and shows nothing', async () => {
    const refused = await answer(
      await send('PATCH', `${API}/map`, { as: 'cora.vane', body: { edits: [{ kind: 'add', code: 'X', name: 'X', parent: null, at: 0 }] } }),
    );
    expect(refused).toMatchObject({
      status: 403,
      message: "Your role (observer) does not allow you to edit map. Ask the programme's lead.",
    });
    const form = new FormData();
    form.set('file', new File(['x'], 'x.xlsx'));
    expect((await send('POST', `${API}/imports`, { as: 'jory.lind', body: form })).status).toBe(403);
    expect((await send('GET', '/api/elsewhere/map', { as: 'lea.marsh' })).status).toBe(404);
  });

  it('from another page is refused, whatever its content', async () => {
    for (const origin of ['http://evil.example', '']) {
      expect((await send('PATCH', `${API}/map`, { as: 'lea.marsh', body: { edits: [] }, headers: { origin } })).status).toBe(403);
    }
  });

  it('that is too large is cut off, with a sentence', async () => {
    const large = await answer(
      await send('PATCH', `${API}/map`, {
        as: 'lea.marsh',
        body: { edits: [{ kind: 'add', code: 'Z', name: 'x'.repeat(3_000_000), parent: null, at: 0 }] },
      }),
    );
    expect(large).toMatchObject({ status: 413, message: 'At most 2 MB can be sent.' });
  });

  it('with a picture that is none by its content is refused, whatever its name', async () => {
    const list = (await (await send('GET', `${API}/turns/list?cycle=ACC-2&status=ready`, { as: 'lea.marsh' })).json()) as TurnList;
    const attempt = randomUUID();
    expect(
      (await send('POST', `${API}/turns/${list.turns.at(-1)?.id}/attempts`, { as: 'lea.marsh', body: { id: attempt, browser: 'test' } }))
        .status,
    ).toBe(200);
    const sendFile = async (content: string | Uint8Array<ArrayBuffer>, name: string) => {
      const form = new FormData();
      form.set('id', randomUUID());
      form.set('stepIndex', '0');
      form.set('file', new File([content], name, { type: 'image/png' }));
      return answer(await send('POST', `${API}/attempts/${attempt}/evidence`, { as: 'lea.marsh', body: form }));
    };
    expect(await sendFile('<svg onload="alert(1)"></svg>', 'nice.png')).toMatchObject({
      status: 415,
      message: 'nice.png is not a kind that is kept. Kept are PNG, JPEG, WebP, GIF, PDF.',
    });
    expect((await sendFile(new Uint8Array(), 'empty.png')).status).toBe(400);
    expect((await sendFile(new Uint8Array(10 * 1024 * 1024 + 1), 'large.png')).status).toBe(413);
    const other = await send('PUT', `${API}/attempts/${attempt}/steps/0`, {
      as: 'jory.lind',
      body: { wordId: randomUUID(), outcome: 'passed', note: '', at: new Date().toISOString() },
    });
    expect(other.status).toBe(403);
  });

  it.each([
    ['/requirements/import', 'Code,Text\nR-1,It holds\n', {}],
    ['/requirements/import', 'Code\nX\n', {}],
    ['/requirements/import', '', {}],
    ['/library/import', 'Code,Name\nT-91,One\n', { activity: null }],
    ['/library/import', 'Test,Step\nOne,Open Quotes\n', { activity: null }],
    ['/map/import', 'Name\nA\n', { below: null, addsNames: true }],
    ['/map/import', 'Level 1,Level 2,Level 3,Level 4,Level 5,Level 6,Level 7,Level 8\nA,B,C,D,E,F,G,H\n', { below: null, addsNames: true }],
  ])('with a list of few or many columns to %s is answered, and says what is wrong with it: “%s”', async (path, text, options) => {
    const form = new FormData();
    form.set('file', new File([text], 'list.csv'));
    form.set('options', JSON.stringify(options));
    const response = await send('POST', `${API}${path}`, { as: 'lea.marsh', body: form });
    expect([response.status, ((await response.json()) as { isStored: boolean }).isStored]).toEqual([200, false]);
  });

  it('with a workbook that is none stores nothing and says why', async () => {
    const form = new FormData();
    form.set('file', new File(['Code,Name'], 'map.csv'));
    const response = await send('POST', `${API}/imports`, { as: 'lea.marsh', body: form });
    expect(await response.json()).toMatchObject({
      isStored: false,
      problems: [{ message: 'The file is not a workbook. Save it as .xlsx and choose it again.' }],
    });
  });
});
