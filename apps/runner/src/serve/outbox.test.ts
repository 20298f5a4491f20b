import { existsSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { AttemptId } from '@kindred-baton/core/ids';
import { Away, Refused } from './call-server.ts';
import type { OutboxItem } from './outbox.ts';
import { openOutbox } from './outbox.ts';

const ATTEMPT = 'a-1' as AttemptId;
const step = (stepIndex: number): OutboxItem => ({
  ...{ kind: 'step', stepIndex },
  word: { wordId: `w${stepIndex}`, outcome: 'passed', note: '', at: '2026-11-27T09:00:00.000Z' },
});

describe('the outbox of a runner', () => {
  let folder: string;
  const sent: string[] = [];
  const refused: string[] = [];
  beforeEach(() => {
    folder = mkdtempSync(path.join(tmpdir(), 'kindred-baton-outbox-'));
    sent.length = 0;
    refused.length = 0;
  });
  afterEach(() => rmSync(folder, { recursive: true, force: true }));

  const name = (item: OutboxItem) => (item.kind === 'finish' ? 'finish' : `${item.kind} ${item.stepIndex}`);
  const open = (
    send: (item: OutboxItem) => Promise<unknown> = () => Promise.resolve(),
    more: Partial<Parameters<typeof openOutbox>[0]> = {},
  ) =>
    openOutbox({
      folder,
      send: async (_, item) => {
        await send(item);
        sent.push(name(item));
      },
      onRefused: (attempt, error) => refused.push(`${attempt} ${error.status}`),
      retryMs: 5,
      ...more,
    });
  const putAll = async (outbox: ReturnType<typeof open>) => {
    for (const index of [0, 1, 2]) void outbox.put(ATTEMPT, step(index));
    await outbox.put(ATTEMPT, { kind: 'finish' });
  };
  const ALL = ['step 0', 'step 1', 'step 2', 'finish'];

  it('sends in the order in which things were put, and leaves nothing behind', async () => {
    const outbox = open();
    await putAll(outbox);
    await outbox.whenEmpty(2_000);
    expect(sent).toEqual(ALL);
    await expect.poll(() => readdirSync(path.join(folder, 'outbox'))).toEqual([]);
  });

  it('tries again while the server is away, and loses and doubles nothing', async () => {
    let fails = 4;
    const outbox = open(() => ((fails -= 1) >= 0 ? Promise.reject(new Away('away')) : Promise.resolve()));
    await putAll(outbox);
    await outbox.whenEmpty(5_000);
    expect(sent).toEqual(ALL);
  });

  it('is found again by the next process, with what was half written left out', async () => {
    const first = open(() => Promise.reject(new Away('away')));
    await putAll(first);
    first.stop();
    await writeFile(path.join(folder, 'outbox', ATTEMPT, '.000-half-step.json'), '{"kind":');
    expect(sent).toEqual([]);
    const second = open();
    expect(second.list()).toEqual([{ attempt: ATTEMPT, isFinishing: true }]);
    await second.whenEmpty(2_000);
    expect(sent).toEqual(ALL);
  });

  it('sets aside what the server refuses for good, and says so; others go on', async () => {
    const outbox = open((item) => (name(item) === 'step 1' ? Promise.reject(new Refused(409, 'not yours')) : Promise.resolve()));
    await putAll(outbox);
    await outbox.put('a-2' as AttemptId, step(7));
    await outbox.whenEmpty(2_000);
    await expect.poll(() => refused).toEqual(['a-1 409']);
    expect(sent).toContain('step 7');
    expect(readdirSync(path.join(folder, 'refused', ATTEMPT)).length).toBeGreaterThanOrEqual(1);
  });

  it('keeps what is put while the token is withdrawn: it may be that somebody gives it another', async () => {
    const outbox = open(() => Promise.reject(new Refused(401, 'withdrawn')));
    await outbox.put(ATTEMPT, step(0));
    await expect.poll(() => refused.length).toBeGreaterThan(0);
    outbox.stop();
    expect(existsSync(path.join(folder, 'outbox', ATTEMPT))).toBe(true);
  });

  it('goes on in memory when the disk is full, says so, and is well again when there is room', async () => {
    let isFull = true;
    const write = ((...args: Parameters<typeof writeFile>) =>
      isFull ? Promise.reject(Object.assign(new Error('no space'), { code: 'ENOSPC' })) : writeFile(...args)) as typeof writeFile;
    let isAway = true;
    const outbox = open(() => (isAway ? Promise.reject(new Away('away')) : Promise.resolve()), { write });
    await putAll(outbox);
    expect(await outbox.checkDisk()).toContain('the disk is full');
    isAway = false;
    await outbox.whenEmpty(5_000);
    expect(sent).toEqual(ALL);
    isFull = false;
    expect(await outbox.checkDisk()).toBe('');
  });
});
