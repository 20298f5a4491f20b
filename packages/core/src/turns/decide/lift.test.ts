import { describe, expect, it } from 'vitest';
import { decide } from './decide.ts';
import { AT, createDefect, createFinished, createRun, createState, createTurn, LEAD, UNA } from './run-facts.test-data.ts';
import type { Doer, RunsState } from './runs-state.ts';
import { findTurn } from './runs-state.ts';
import { settleRuns } from './settle-runs.ts';

describe('lifting a block', () => {
  const blocked = createTurn(0, { latest: createFinished('blocked', { number: 2 }) });
  const lift = (state: RunsState, by: Doer = LEAD) =>
    decide(settleRuns(state, AT - 1), { kind: 'lift', turn: 't0' as never, word: 'It is there now.' }, { by, atMs: AT });
  const refusal = (state: RunsState, by?: Doer) => {
    const decision = lift(state, by);
    return decision.ok ? null : decision.refusal.message;
  };

  it('gives the turn back to its tester and tells her, once: the next attempt needs another word', () => {
    const lifted = lift(createState([createRun([blocked])]));
    if (!lifted.ok) throw new Error(lifted.refusal.message);
    expect(findTurn(lifted.state, 't0' as never)?.turn).toMatchObject({ state: 'ready', status: 'blocked', isRetestDue: true });
    expect(lifted.effects).toEqual([
      { kind: 'history', subject: 'turn', subjectId: 't0', action: 'block lifted', details: { word: 'It is there now.' } },
      { kind: 'tell lifted', turn: 't0', word: 'It is there now.' },
    ]);
    const again = createState([createRun([createTurn(0, { latest: createFinished('blocked', { number: 3 }), liftedAfter: 2 })])]);
    expect(findTurn(settleRuns(again, AT), 't0' as never)?.turn.state).toBe('done');
  });

  it('is for the lead and for whoever has the turn, not while a defect holds it, nor where nothing is blocked', () => {
    const state = createState([createRun([blocked])]);
    expect(refusal(state, UNA)).toBeNull();
    expect(refusal(state, { ...UNA, personId: 'bob' as never })).toContain('lifted by the lead');
    expect(refusal(createState([createRun([createTurn(0)])]))).toContain('is not blocked');
    expect(refusal(createState([createRun([blocked])], { defects: [createDefect(['t0'])] }))).toContain('must be fixed first');
    expect(refusal(createState([]))).toContain('no such turn');
  });
});
