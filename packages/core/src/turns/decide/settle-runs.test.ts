import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { AT, createDefect, createFinished, createOpen, createRun, createState, createTurn } from './run-facts.test-data.ts';
import { settleRuns } from './settle-runs.ts';

describe('whatever happens', () => {
  const outcome = fc.constantFrom('passed' as const, 'failed' as const, 'blocked' as const, 'skipped' as const);
  const turn = fc.record({
    outcome: fc.option(outcome),
    isOpen: fc.boolean(),
    isAbandoned: fc.boolean(),
    back: fc.integer({ min: 0, max: 3 }),
  });
  const run = fc.array(turn, { minLength: 1, maxLength: 6 }).map((list) =>
    createRun(
      list.map(({ outcome: was, isOpen, isAbandoned, back }, index) =>
        createTurn(index, {
          after: back > 0 && back <= index ? [index - back] : [],
          latest: was ? createFinished(was, { isAbandoned }) : null,
          open: isOpen ? createOpen({ id: `o${index}` as never }) : null,
        }),
      ),
    ),
  );
  const defect = fc.record({
    status: fc.constantFrom('new' as const, 'accepted' as const, 'fixed' as const, 'closed' as const, 'declined' as const),
    turns: fc.uniqueArray(fc.integer({ min: 0, max: 5 }), { minLength: 1, maxLength: 3 }),
    retestAfter: fc.integer({ min: 0, max: 1 }),
  });
  it('settling twice changes nothing more, and nothing that was tried is touched (seed 8)', () => {
    fc.assert(
      fc.property(run, fc.array(defect, { maxLength: 3 }), (given, defects) => {
        const state = createState([given], {
          defects: defects.map(({ status, turns, retestAfter }, index) =>
            createDefect([], {
              ...{ id: `d${index}` as never, status },
              turns: turns
                .filter((at) => at < given.turns.length)
                .map((at) => ({ turn: `t${at}` as never, retestAfter: status === 'fixed' ? retestAfter : null })),
            }),
          ),
        });
        const once = settleRuns(state, AT);
        expect(settleRuns(once, AT + 5)).toEqual(once);
        for (const [index, { latest, open }] of once.runs[0]!.turns.entries())
          expect([latest, open]).toEqual([given.turns[index]?.latest, given.turns[index]?.open]);
      }),
      { seed: 8, numRuns: 300 },
    );
  });
});
