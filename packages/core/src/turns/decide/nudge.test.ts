import { describe, expect, it } from 'vitest';
import { findAsked, findNudgeRefusal } from './nudge.ts';
import { AT, createDefect, createTurn, LEAD, UNA } from './run-facts.test-data.ts';

describe('a nudge', () => {
  const turns = [createTurn(0, { assigneeId: 'ivo' as never, state: 'ready' }), createTurn(1)];
  const ask = (more: object = {}) =>
    findNudgeRefusal({
      run: { turns },
      turn: turns[0]!,
      asked: { id: 'ivo' as never, defect: null },
      by: UNA,
      lastNudgeMs: null,
      atMs: AT * 100_000,
      ...more,
    })?.message ?? null;
  it('is for who waits in the same run, or for the lead, once in twenty hours', () => {
    expect(ask()).toBeNull();
    expect(ask({ by: { ...UNA, personId: 'eve' } })).toBe('You do not wait for this turn.');
    expect(ask({ by: LEAD })).toBeNull();
    expect(ask({ lastNudgeMs: AT * 100_000 - 19 * 3_600_000 })).toContain('within the last day');
    expect(ask({ lastNudgeMs: AT * 100_000 - 20 * 3_600_000 })).toBeNull();
  });
  it('goes to somebody else, and only to where the baton is', () => {
    expect(ask({ asked: { id: null, defect: null } })).toContain('Nobody has this turn');
    expect(ask({ asked: { id: 'una', defect: null } })).toBe('This turn is with you.');
    expect(ask({ turn: { ...turns[0]!, state: 'done', outcome: 'passed' } })).toBe('The baton is not at this turn now.');
    expect(ask({ turn: { ...turns[0]!, state: 'waiting' } })).toBe('The baton is not at this turn now.');
    expect(ask({ turn: { ...turns[0]!, state: 'under way' } })).toBeNull();
    expect(ask({ turn: { ...turns[0]!, state: 'done', outcome: 'blocked' } })).toBeNull();
  });
  it('is for whoever fixes the defect that holds the turn, else for whoever the turn is given to', () => {
    const defect = (code: string, more: object) => createDefect(['t0'], { code, ...more });
    const fixer = { assigneeId: 'bo' as never };
    expect(findAsked(turns[0]!, [])).toEqual({ id: 'ivo', defect: null });
    expect(findAsked(turns[0]!, [defect('D-1', {}), defect('D-2', fixer)])).toEqual({ id: 'bo', defect: 'D-2' });
    expect(findAsked(turns[0]!, [defect('D-1', { ...fixer, status: 'fixed' })])).toEqual({ id: 'ivo', defect: null });
    expect(findAsked(turns[0]!, [defect('D-1', {})])).toEqual({ id: null, defect: 'D-1' });
    expect(ask({ asked: { id: null, defect: 'D-1' } })).toBe('Nobody fixes D-1 yet. Give it to somebody.');
    expect(ask({ asked: { id: 'una', defect: 'D-1' } })).toBe('D-1 is with you.');
  });
});
