import { AppError } from '@kindred-baton/contracts/errors';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { z } from 'zod';
import { answerError } from './answer-error.ts';

const log = vi.hoisted(() => ({ error: vi.fn() }));
vi.mock('./log.ts', () => ({ getLog: () => log }));

const read = async (error: unknown) => {
  const response = answerError(error, 'request-1');
  return { status: response.status, headers: response.headers, body: (await response.json()) as Record<string, unknown> };
};

describe('what goes wrong', () => {
  beforeEach(() => log.error.mockClear());

  it('is told as it is where it is ours, with what belongs to it, and not noted as a fault', async () => {
    const { status, body, headers } = await read(new AppError('conflict', 'Somebody was faster.', { details: { by: 'Ada' } }));
    expect([status, body]).toEqual([409, { code: 'conflict', message: 'Somebody was faster.', details: { by: 'Ada' } }]);
    expect(headers.get('cache-control')).toBe('no-store');
    expect(log.error).not.toHaveBeenCalled();
  });

  it('in a request names each place', async () => {
    const checked = z.object({ name: z.string().min(1, 'It is empty.'), rows: z.array(z.object({ at: z.int() })) }).safeParse({
      ...{ name: '', rows: [{ at: 1 }, { at: 'x' }] },
    });
    const { status, body } = await read(checked.error);
    expect(status).toBe(400);
    expect(body['problems']).toMatchObject([{ path: 'name', message: 'It is empty.' }, { path: 'rows.1.at' }]);
    expect(body['message']).toMatch(/^name: It is empty\. rows\.1\.at: /);
  });

  it('on our side tells nothing of how, and notes all of it under the request’s number', async () => {
    const cause = new Error('connect ECONNREFUSED 10.0.0.7:5432');
    const { status, body } = await read(cause);
    expect(status).toBe(500);
    expect(JSON.stringify(body)).not.toContain('10.0.0.7');
    expect(log.error).toHaveBeenCalledExactlyOnceWith({ requestId: 'request-1', error: cause }, expect.any(String));
  });

  it('because a body was too large ends the connection, since the rest of it is still on its way', async () => {
    const { status, headers } = await read(new AppError('too large', 'At most 50 MB can be sent.'));
    expect([status, headers.get('connection')]).toEqual([413, 'close']);
  });

  it.each([null, undefined, 'a word', { message: 'no error' }])('even where it is no error at all: %s', async (thrown) => {
    expect((await read(thrown)).status).toBe(500);
  });
});
