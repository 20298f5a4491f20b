import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { TURN_STATUSES } from './outcomes.ts';
import type { TurnStatus } from './outcomes.ts';
import { describeStanding, getStanding } from './standing.ts';

describe('how a test stands', () => {
  it('is over all its turns: sixteen that passed do not outweigh seven that failed', () => {
    expect(getStanding({ passed: 16, failed: 7 })).toBe('failing');
    expect(getStanding({ passed: 16, blocked: 1 })).toBe('blocked');
    expect(getStanding({ passed: 1, failed: 0, waiting: 0 })).toBe('passed');
  });

  it.each(['waiting', 'held', 'ready', 'under way', 'skipped'] as const)(
    'is partly while one is %s, and not run with nothing else',
    (status) => {
      expect(getStanding({ passed: 3, [status]: 1 })).toBe('partly');
      expect(getStanding({ [status]: 1 })).toBe('not run');
    },
  );

  // A second way: the turns one by one, as a reader of the list would say it.
  it('is what a reader of its turns would say', () => {
    const say = (turns: readonly TurnStatus[]) => {
      if (turns.includes('failed')) return 'failing';
      if (turns.includes('blocked')) return 'blocked';
      if (!turns.includes('passed')) return 'not run';
      return turns.every((turn) => turn === 'passed') ? 'passed' : 'partly';
    };
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...TURN_STATUSES), { maxLength: 6 }), (turns) => {
        const counts = Object.fromEntries(TURN_STATUSES.map((status) => [status, turns.filter((turn) => turn === status).length]));
        expect(getStanding(counts)).toBe(say(turns));
      }),
    );
  });

  it('says over how many turns of which cycle', () => {
    expect(describeStanding({ standing: 'partly', cycle: 'ACC-1', turns: 5, passed: 3 })).toBe(
      'Partly passed: 3 of 5 turns of ACC-1 passed',
    );
    expect(describeStanding({ standing: 'passed', cycle: 'ACC-1', turns: 1, passed: 1 })).toBe('Passed: 1 of 1 turn of ACC-1 passed');
  });
});
