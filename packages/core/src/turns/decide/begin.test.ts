import { describe, expect, it } from 'vitest';
import { decide } from './decide.ts';
import { AT, createFinished, createRun, createState, createTurn, LEAD } from './run-facts.test-data.ts';
import { findTurn } from './runs-state.ts';
import { settleRuns } from './settle-runs.ts';

describe('a run that left the cycle', () => {
  const event = {
    kind: 'begin',
    turn: 't0' as never,
    attempt: 'a9' as never,
    environment: 'E',
    browser: 'B',
    isFromSheet: false,
    continues: null,
  } as const;
  const turn = createTurn(0, { latest: createFinished('failed', { isAbandoned: true }) });
  const begin = (leftTo: 'taken out' | null) =>
    decide(settleRuns(createState([{ ...createRun([turn]), leftTo }]), AT), event, { by: LEAD, atMs: AT });

  it('is not tried any more, also where a retest would be due', () => {
    const out = settleRuns(createState([{ ...createRun([turn]), leftTo: 'taken out' }]), AT);
    expect(findTurn(out, 't0' as never)?.turn.state).toBe('done');
    expect(begin('taken out')).toMatchObject({
      ok: false,
      refusal: { message: 'This run was taken out; its turns are not tried any more.' },
    });
    expect(begin(null).ok).toBe(true);
  });
});
