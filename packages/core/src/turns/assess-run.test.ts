import { describe, expect, it } from 'vitest';
import { assessRun, collectBaton, resolveNeeds } from './assess-run.ts';
import type { TurnView } from './turn.ts';

const turn = (more: Partial<TurnView> = {}): TurnView => ({
  after: [],
  needs: [],
  latest: null,
  isUnderWay: false,
  isRetestDue: false,
  ...more,
});
const passed = (kept: Record<string, string> = {}) => ({ outcome: 'passed' as const, kept });
const needs = (name: string, index: number) => [{ name, source: { kind: 'turn' as const, index, name } }];
const statesOf = (turns: TurnView[]) => assessRun(turns).turns.map(({ state, status }) => `${state}/${status}`);

describe('a run', () => {
  it('passes the baton from turn to turn', () => {
    const first = turn({ latest: passed({ 'Quote no.': 'QT-1' }) });
    const turns = [first, turn({ after: [0], needs: needs('quote no.', 0) }), turn({ after: [1] })];
    expect(statesOf(turns)).toEqual(['done/passed', 'ready/ready', 'waiting/waiting']);
    expect(resolveNeeds(turns, 1)).toEqual([{ name: 'quote no.', value: 'QT-1' }]);
    expect(collectBaton(turns)).toEqual([{ name: 'Quote no.', value: 'QT-1', index: 0 }]);
  });

  it('holds all that lies behind a failure, and says by which turn', () => {
    const turns = [
      turn({ latest: passed() }),
      turn({ after: [0], latest: { outcome: 'failed', kept: {} } }),
      turn({ after: [1] }),
      turn({ after: [2] }),
      turn({ after: [0] }),
    ];
    expect(statesOf(turns)).toEqual(['done/passed', 'done/failed', 'waiting/held', 'waiting/held', 'ready/ready']);
    expect(assessRun(turns).turns[3]?.causes).toEqual([{ kind: 'turn', index: 1, outcome: 'failed' }]);
    expect(assessRun(turns).outcome).toBe('failed');
  });

  it('is let on by a turn that was left out, whatever that one would have waited for', () => {
    const failed = turn({ latest: { outcome: 'failed', kept: {} } });
    const leftOut = turn({ after: [0], isLeftOut: true });
    expect(statesOf([failed, leftOut, turn({ after: [1] })])).toEqual(['done/failed', 'done/skipped', 'ready/ready']);
    expect(statesOf([failed, leftOut, turn({ after: [0, 1] })])[2]).toBe('waiting/held');
    expect(statesOf([failed, leftOut, turn({ after: [1], needs: needs('Quote no.', 1) })])[2]).toBe('waiting/held');
  });

  it('holds a turn whose value did not come, although its giver is over', () => {
    const turns = [turn({ latest: { outcome: 'skipped', kept: {} } }), turn({ after: [0], needs: needs('Quote no.', 0) })];
    expect(assessRun(turns).turns[1]).toMatchObject({ status: 'held', causes: [{ kind: 'value', index: 0, name: 'Quote no.' }] });
  });

  it('goes on when the retest passes; until then the failure counts', () => {
    const failed = turn({ latest: { outcome: 'failed', kept: {} }, isRetestDue: true });
    expect(statesOf([failed, turn({ after: [0] })])).toEqual(['ready/failed', 'waiting/held']);
    expect(statesOf([turn({ latest: passed() }), turn({ after: [0] })])).toEqual(['done/passed', 'ready/ready']);
  });

  it('shows a turn under way, and a retest under way still as failed', () => {
    expect(statesOf([turn({ isUnderWay: true }), turn({ isUnderWay: true, latest: { outcome: 'failed', kept: {} } })])).toEqual([
      'under way/under way',
      'under way/failed',
    ]);
  });

  it('converts a value on the way where the wiring says so; what cannot be converted comes as it was', () => {
    const source = { kind: 'turn' as const, index: 0, name: 'Length', convertTo: { name: 'Pipe length', type: 'number' as const } };
    const taker = turn({ after: [0], needs: [{ name: 'Pipe length', source }] });
    const valueOf = (kept: string) => resolveNeeds([turn({ latest: passed({ Length: kept }) }), taker], 1)[0]?.value;
    expect([valueOf('14.5 m'), valueOf('not measured')]).toEqual(['14.5', 'not measured']);
  });

  it('is not held for want of what it can do without', () => {
    const optional = turn({ after: [0], needs: [{ name: 'A', source: { kind: 'turn', index: 0, name: 'A' }, isOptional: true }] });
    expect(statesOf([turn({ latest: passed() }), optional])).toEqual(['done/passed', 'ready/ready']);
    expect(statesOf([turn({ latest: passed() }), turn({ after: [0], needs: needs('A', 0) })])).toEqual(['done/passed', 'waiting/held']);
  });

  it('gives nothing on from a failed attempt', () => {
    const turns = [turn({ latest: { outcome: 'failed', kept: { A: '1' } } }), turn({ after: [0], needs: needs('A', 0) })];
    expect(resolveNeeds(turns, 1)).toEqual([{ name: 'A', value: undefined }]);
    expect(collectBaton(turns)).toEqual([]);
  });
});
