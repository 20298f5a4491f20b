import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { findFewestSessions, forecastQueue } from './forecast-queue.ts';
import type { QueueTurn } from './order-queue.ts';
import { measureTails, orderQueue } from './order-queue.ts';

const turn = (id: string, more: Partial<QueueTurn> = {}): QueueTurn => ({
  ...{ id: id as never, run: 'r1' as never, runNumber: 1, index: 0, after: [], isQueued: true, isThrough: false, isReady: true },
  ...{ isGivenBack: false, minutes: 10, dueOn: null, priority: 'medium' },
  ...more,
});
const ids = (turns: readonly { readonly id: string }[]) => turns.map(({ id }) => id).join(' ');

describe('the order of the queue', () => {
  it('is: rests that were given back, due day, priority, then the longest way behind', () => {
    const turns = [
      turn('later', { run: 'a' as never, dueOn: '2026-12-02', priority: 'high' }),
      turn('short', { run: 'b' as never, dueOn: '2026-12-01' }),
      turn('head', { run: 'c' as never, dueOn: '2026-12-01' }),
      turn('tail', { run: 'c' as never, index: 1, after: [0], isReady: false, isQueued: false, minutes: 50 }),
      turn('urgent', { run: 'd' as never, dueOn: '2026-12-01', priority: 'high' }),
      turn('undated', { run: 'e' as never }),
      turn('rest', { run: 'f' as never, isGivenBack: true }),
    ];
    expect(ids(orderQueue(turns))).toBe('rest urgent head short later undated');
    expect(measureTails(turns).get('head' as never)).toBe(60);
  });
});

describe('the forecast of the queue', () => {
  const chain = (run: string, minutes: readonly number[], more: Partial<QueueTurn> = {}) =>
    minutes.map((own, index) =>
      turn(`${run}${index}`, {
        run: run as never,
        index,
        after: index === 0 ? [] : [index - 1],
        isReady: index === 0,
        minutes: own,
        ...more,
      }),
    );

  it('keeps the order of a chain, and begins with the longest', () => {
    const turns = [...chain('a', [10, 10]), ...chain('b', [30, 5])];
    const two = forecastQueue(turns, 2);
    expect(two.end).toBe(35);
    expect(two.turns.map(({ id, from, to }) => `${id} ${from}-${to}`)).toEqual(['b0 0-30', 'a0 0-10', 'a1 10-20', 'b1 30-35']);
    expect([1, 2, 3].map((sessions) => forecastQueue(turns, sessions).end)).toEqual([55, 35, 35]);
    expect([20, 35, 40, 55].map((by) => findFewestSessions(turns, by, { most: 8 }))).toEqual([null, 2, 2, 1]);
  });

  it('leaves out what stands behind people, and says so; counts what is under way by what is left of it', () => {
    const [first, second] = chain('a', [10, 10]);
    const withPeople = [{ ...first!, isQueued: false }, second!];
    expect(forecastQueue(withPeople, 1)).toEqual({ turns: [], end: 0, waiting: ['a1'] });
    expect(forecastQueue([{ ...first!, isReady: false }, second!], 1, [{ id: 'a0' as never, minutesLeft: 3 }]).end).toBe(13);
    expect(forecastQueue([{ ...first!, isThrough: true, isQueued: false }, second!], 1).end).toBe(10);
  });

  it('is never better than the work shared evenly or the longest chain, nor worse than Graham’s bound for lists (1969, from memory)', () => {
    const chains = fc.array(fc.array(fc.integer({ min: 1, max: 90 }), { minLength: 1, maxLength: 6 }), { minLength: 1, maxLength: 12 });
    fc.assert(
      fc.property(chains, fc.integer({ min: 1, max: 6 }), (lists, sessions) => {
        const turns = lists.flatMap((minutes, index) => chain(`c${index}-`, minutes));
        const { end, turns: played, waiting } = forecastQueue(turns, sessions);
        const work = turns.reduce((sum, { minutes }) => sum + minutes, 0);
        const longest = Math.max(...lists.map((minutes) => minutes.reduce((sum, own) => sum + own, 0)));
        const least = Math.max(work / sessions, longest);
        expect(end).toBeGreaterThanOrEqual(least - 1e-9);
        expect(end).toBeLessThanOrEqual(least * (2 - 1 / sessions) + 1e-9);
        expect([played.length, waiting.length]).toEqual([turns.length, 0]);
        for (const one of played)
          for (const other of played)
            expect(one === other || one.session !== other.session || one.to <= other.from || other.to <= one.from).toBe(true);
        const toOf = new Map(played.map(({ id, to }) => [id as string, to]));
        for (const { id, from } of played) {
          const [name, place] = /^(.*-)(\d+)$/.exec(id)!.slice(1) as [string, string];
          expect(from).toBeGreaterThanOrEqual(toOf.get(`${name}${Number(place) - 1}`) ?? 0);
        }
      }),
      { numRuns: 200 },
    );
  });
});
