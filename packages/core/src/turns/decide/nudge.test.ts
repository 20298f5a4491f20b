import { describe, expect, it } from 'vitest';
import { findNudgeRefusal } from './nudge.ts';
import { AT, createTurn, LEAD, UNA } from './run-facts.test-data.ts';

describe('a nudge', () => {
  const turns = [createTurn(0, { assigneeId: 'ivo' as never, state: 'ready' }), createTurn(1)];
  const ask = (more: object = {}) =>
    findNudgeRefusal({ run: { turns }, turn: turns[0]!, holder: 'Ivo', by: UNA, lastNudgeMs: null, atMs: AT * 100_000, ...more })
      ?.message ?? null;
  it('is for who waits in the same run, or for the lead, once in twenty hours', () => {
    expect(ask()).toBeNull();
    expect(ask({ by: { ...UNA, personId: 'eve' } })).toBe('You do not wait for this turn.');
    expect(ask({ by: LEAD })).toBeNull();
    expect(ask({ lastNudgeMs: AT * 100_000 - 19 * 3_600_000 })).toContain('within the last day');
    expect(ask({ lastNudgeMs: AT * 100_000 - 20 * 3_600_000 })).toBeNull();
  });
  it('goes to somebody else who has the baton', () => {
    expect(ask({ turn: { ...turns[0]!, assigneeId: null } })).toContain('Nobody has this turn');
    expect(ask({ turn: { ...turns[0]!, assigneeId: 'una' } })).toBe('This turn is with you.');
    expect(ask({ turn: { ...turns[0]!, state: 'done' } })).toBe('Ivo does not have the baton now.');
    expect(ask({ turn: { ...turns[0]!, state: 'under way' } })).toBeNull();
  });
});
