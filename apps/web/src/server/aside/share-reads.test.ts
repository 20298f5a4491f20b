import { describe, expect, it } from 'vitest';
import { createSharing } from './share-reads.ts';

/** A reading that ends when the test says so; how often it was begun, and which were given up. */
function createReading() {
  const ends: ((value: number) => void)[] = [];
  const given: number[] = [];
  const read = (leave: AbortSignal) =>
    new Promise<number>((end, giveUp) => {
      const at = ends.push(end) - 1;
      leave.addEventListener('abort', () => {
        given.push(at);
        giveUp(new Error('given up'));
      });
    });
  return { read, ends, given };
}

const settle = () => new Promise((done) => setTimeout(done, 5));

describe('what several wait for', () => {
  it('is read once for all who come while the same is under way, and never before they asked', async () => {
    const { share } = createSharing();
    const { read, ends } = createReading();
    const first = share('progress', read);
    const crowd = Array.from({ length: 50 }, () => share('progress', read));
    await settle();
    expect(ends).toHaveLength(1);
    ends[0]?.(1);
    expect(await first).toBe(1);
    await settle();
    expect(ends).toHaveLength(2);
    ends[1]?.(2);
    expect(new Set(await Promise.all(crowd))).toEqual(new Set([2]));
    const later = share('progress', read);
    ends[2]?.(3);
    expect(await later).toBe(3);
  });

  it('is apart for another question, and what fails fails for those alone who waited for it', async () => {
    const { share } = createSharing();
    const fails = share('a', () => Promise.reject(new Error('no')));
    const works = share('a', () => Promise.resolve('yes'));
    const other = share('b', () => Promise.resolve('other'));
    await expect(fails).rejects.toThrow('no');
    expect(await Promise.all([works, other])).toEqual(['yes', 'other']);
  });

  it('is given up when the last who waits has left, not before; who comes then gets one of her own', async () => {
    const { share } = createSharing();
    const { read, ends, given } = createReading();
    const [one, two] = [new AbortController(), new AbortController()];
    const running = share('a', read);
    const left = [share('a', read, one.signal), share('a', read, two.signal)].map((each) => each.catch((error: Error) => error.message));
    one.abort();
    two.abort();
    const stays = share('a', read);
    ends[0]?.(1);
    expect(await running).toBe(1);
    await settle();
    // What had not begun is never begun.
    expect([ends.length, given]).toEqual([2, []]);
    ends[1]?.(2);
    expect(await stays).toBe(2);
    await Promise.all(left);
    const [third, fourth] = [new AbortController(), new AbortController()];
    const both = share('c', read, third.signal).catch((error: Error) => error.message);
    third.abort();
    expect([given, await both]).toEqual([[2], 'given up']);
    const again = share('c', read, fourth.signal);
    await settle();
    ends[3]?.(4);
    expect(await again).toBe(4);
    fourth.abort();
    expect(given).toEqual([2]);
  });
});
