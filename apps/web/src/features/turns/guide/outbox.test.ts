import { describe, expect, it, vi } from 'vitest';
import { RequestError } from '../../../client/request.ts';
import type { OutboxItem, OutboxParts } from './outbox.ts';
import { createOutbox } from './outbox.ts';

const item = (stepIndex: number): OutboxItem => ({
  ...{ kind: 'step', api: '/api/x', attemptId: 'a' as never, stepIndex },
  word: { wordId: String(stepIndex), outcome: 'passed', note: '', at: '2026-11-02T09:00:00.000Z' },
});
const away = () => new RequestError({ code: 'unavailable', message: 'The server does not answer.' });
const refused = () => new RequestError({ code: 'conflict', message: 'This attempt is finished.' });

/** A shelf in memory; `isBroken` makes it take and show nothing. */
function createShelf() {
  const rows = new Map<number, OutboxItem>();
  const aside = new Map<number, string>();
  let next = 1;
  const shelf = {
    isBroken: false,
    rows,
    add: async (each: OutboxItem) => {
      if (shelf.isBroken) throw new Error('QuotaExceededError');
      rows.set(next++, each);
    },
    list: async () => {
      if (shelf.isBroken) throw new Error('blocked');
      return [...rows].map(([key, each]) => ({ key, item: each, refused: aside.get(key) ?? null }));
    },
    setAside: async (key: number, why: string) => void aside.set(key, why),
    remove: async (key: number) => void rows.delete(key),
  };
  return shelf;
}

function open(parts: Partial<OutboxParts> & Pick<OutboxParts, 'send'>, shelf = createShelf()) {
  const told = { waiting: [] as number[], refused: [] as number[], unkept: [] as number[] };
  const outbox = createOutbox({
    shelf,
    retryMs: 5,
    onWaiting: (count) => told.waiting.push(count),
    onRefused: (each) => told.refused.push(each.stepIndex),
    onUnkept: (each) => told.unkept.push(each.stepIndex),
    ...parts,
  });
  return { outbox, shelf, told };
}

describe('the outbox', () => {
  it('sends what is put in, in order, and lets it go once the server has it', async () => {
    const sent: number[] = [];
    const { outbox, shelf, told } = open({ send: async ({ stepIndex }) => void sent.push(stepIndex) });
    await Promise.all([outbox.put(item(0)), outbox.put(item(1)), outbox.put(item(2))]);
    await outbox.flush();
    expect([sent, shelf.rows.size, told.waiting.at(-1)]).toEqual([[0, 1, 2], 0, 0]);
  });

  it('keeps what the server could not be told, and tells it when the server is back', async () => {
    let isAway = true;
    const sent: number[] = [];
    const { outbox, shelf } = open({ send: async ({ stepIndex }) => (isAway ? Promise.reject(away()) : void sent.push(stepIndex)) });
    await outbox.put(item(0));
    await expect(outbox.flush()).rejects.toThrow('does not answer');
    expect(shelf.rows.size).toBe(1);
    expect(await outbox.listWaiting('a' as never)).toHaveLength(1);
    expect(await outbox.listWaiting('b' as never)).toEqual([]);
    isAway = false;
    await vi.waitFor(() => expect(sent).toEqual([0]));
    expect(shelf.rows.size).toBe(0);
  });

  it('sets aside what is refused for good, tells it once, and goes on with the rest; said anew it is forgotten', async () => {
    const sent: number[] = [];
    const { outbox, shelf, told } = open({
      send: async ({ stepIndex }) => (stepIndex === 0 ? Promise.reject(refused()) : void sent.push(stepIndex)),
    });
    shelf.rows.set(-2, item(0)).set(-1, item(1));
    await expect(outbox.flush()).rejects.toThrow('finished');
    await vi.waitFor(() => expect(sent).toEqual([1]));
    expect([told.refused, await outbox.listWaiting('a' as never)]).toEqual([[0], []]);
    await outbox.flush();
    expect(told.refused).toEqual([0]);
    const refusals = await outbox.listRefused('a' as never);
    expect(refusals.map(({ item: each, why }) => [each.stepIndex, why])).toEqual([[0, 'This attempt is finished.']]);
    expect(await outbox.listRefused('b' as never)).toEqual([]);
    await outbox.forgetRefused('a' as never, 0);
    expect([await outbox.listRefused('a' as never), shelf.rows.size]).toEqual([[], 0]);
  });

  it('sets aside what the server breaks over three times, so that one word never blocks the others', async () => {
    const sent: number[] = [];
    let broke = 0;
    const breaking = () => new RequestError({ code: 'broken', message: 'Something went wrong on the server.' });
    const { outbox, told } = open({
      send: async ({ stepIndex }) => (stepIndex === 0 ? Promise.reject(((broke += 1), breaking())) : void sent.push(stepIndex)),
    });
    await outbox.put(item(0));
    await outbox.put(item(1));
    await vi.waitFor(() => expect(sent).toEqual([1]));
    expect([broke, told.refused]).toEqual([3, [0]]);
    expect(await outbox.listRefused('a' as never)).toHaveLength(1);
  });

  it('says when the browser keeps nothing, sends it all the same, and what comes after it comes after it', async () => {
    const sent: number[] = [];
    let isAway = true;
    const { outbox, shelf, told } = open({ send: async ({ stepIndex }) => (isAway ? Promise.reject(away()) : void sent.push(stepIndex)) });
    shelf.isBroken = true;
    await outbox.put(item(0));
    shelf.isBroken = false;
    await outbox.put(item(1));
    expect([told.unkept, shelf.rows.size]).toEqual([[0], 0]);
    isAway = false;
    await vi.waitFor(() => expect(sent).toEqual([0, 1]));
    await outbox.put(item(2));
    await outbox.flush();
    expect([sent, await outbox.listWaiting('a' as never)]).toEqual([[0, 1, 2], []]);
  });

  it('rejects a flush while the shelf cannot be read and nothing else is known', async () => {
    const { outbox, shelf } = open({ send: async () => undefined });
    shelf.isBroken = true;
    await expect(outbox.flush()).rejects.toThrow('blocked');
  });
});
