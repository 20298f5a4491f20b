import type { IncomingMessage, Server, ServerResponse } from 'node:http';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { DOOR_LIMITS } from '@kindred-baton/core/doors/door';
import type { Question } from '@kindred-baton/core/doors/read-question';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { askInterface } from './ask-interface.ts';
import type { OpenDoor } from './door.ts';

const ANSWERS: Readonly<Record<string, (request: IncomingMessage, response: ServerResponse) => void>> = {
  '/api/quotes': (_, response) => void response.setHeader('content-type', 'application/json').end('{"count": 2}'),
  '/api/who': ({ headers }, response) => void response.end(JSON.stringify({ said: headers.authorization ?? headers['x-key'] ?? 'nobody' })),
  '/api/none': (_, response) => void response.writeHead(404).end('There is none'),
  '/api/away': (_, response) => void response.writeHead(302, { location: 'http://example.invalid/' }).end(),
  '/api/much': (_, response) => void response.end('x'.repeat(3_000_000)),
  '/api/never': () => undefined,
  '/api/breaks': (request) => void request.socket.destroy(),
};

describe('a door that is an interface', () => {
  let server: Server;
  let door: OpenDoor;
  beforeAll(async () => {
    server = createServer((request, response) => {
      const answer = ANSWERS[request.url ?? ''];
      if (answer) answer(request, response);
      else response.writeHead(500).end('nobody should come here');
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const { port } = server.address() as AddressInfo;
    door = { name: 'Billing', kind: 'interface', address: `http://127.0.0.1:${port}/api`, signIn: 'none', user: '', secret: '' };
  });
  afterAll(() => {
    server.closeAllConnections();
    server.close();
  });

  const ask = (path: string, more: Partial<OpenDoor> = {}) => {
    const question: Extract<Question, { kind: 'interface' }> = { kind: 'interface', method: 'GET', path, body: undefined };
    return askInterface({ ...door, ...more }, question);
  };

  it('answers with JSON, or with text, and its code', async () => {
    expect(await ask('/quotes')).toEqual({ code: 200, body: { count: 2 }, columns: [], isCut: false });
    expect(await ask('/none')).toEqual({ code: 404, body: 'There is none', columns: [], isCut: false });
  });

  it.each([
    ['nobody', {}],
    ['Bearer s3cret', { signIn: 'bearer', secret: 's3cret' }],
    // RFC 7617, section 2: Aladdin and open sesame.
    ['Basic QWxhZGRpbjpvcGVuIHNlc2FtZQ==', { signIn: 'basic', user: 'Aladdin', secret: 'open sesame' }],
    ['k', { signIn: 'header', user: 'X-Key', secret: 'k' }],
  ] as const)('is told who asks: %s', async (said, more) => {
    expect((await ask('/who', more)).body).toEqual({ said });
  });

  it('leads nowhere else: no redirect, no other host, not above its own path', async () => {
    await expect(ask('/away')).rejects.toThrow('“Billing” sends to another address (302); a door goes to its own only.');
    for (const path of ['/../secret', '/x/../../secret', '/\\..\\..\\secret'])
      await expect(ask(path)).rejects.toThrow(`The path ${path} leads out of the door “Billing”.`);
    expect(await ask('//127.0.0.1:1/x')).toMatchObject({ code: 500 });
  });

  it('reads so much and no more', async () => {
    const { body, isCut } = await ask('/much');
    expect([String(body).length, isCut]).toEqual([DOOR_LIMITS.bytes, true]);
  });

  it('says in a sentence, without its secret, that there was no answer', async () => {
    const secret = { signIn: 'bearer', secret: 's3cret' } as const;
    const messages = await Promise.all([
      ask('/breaks', secret).catch((error: Error) => error.message),
      ask('/x', { ...secret, address: 'http://127.0.0.1:9/' }).catch((error: Error) => error.message),
      ask('/never', secret).catch((error: Error) => error.message),
    ]);
    expect(messages).toEqual([
      expect.stringMatching(/^“Billing” could not be reached at 127\.0\.0\.1:\d+ \(\w+\)\.$/),
      expect.stringMatching(/^“Billing” could not be reached at 127\.0\.0\.1:9 /),
      '“Billing” did not answer within 10 seconds.',
    ]);
    expect(messages.join()).not.toContain('s3cret');
  });
});
