import { describe, expect, it } from 'vitest';
import type { HoldTurn } from './find-holds.ts';
import { findHolds } from './find-holds.ts';

const turn = (index: number, more: Partial<HoldTurn> = {}): HoldTurn => ({
  ...{
    id: `t${index}`,
    run: 'r',
    team: 'lane',
    minutes: 10,
    index,
    after: index === 0 ? [] : [index - 1],
    status: 'waiting',
    assignee: 'una',
  },
  ...{ defects: [], sinceMs: null },
  ...more,
});

describe('a turn that lies', () => {
  const at = (sinceMs: number | null) =>
    findHolds([turn(0, { status: 'ready', sinceMs }), turn(1)], { idleBeforeMs: 1_000 }).map(({ kind }) => kind);
  it('is idle once it lay since before the moment, not at it, and not without one', () => {
    expect([at(999), at(1_000), at(1_001), at(null)]).toEqual([['idle'], [], [], []]);
  });
  it('holds nobody where nothing waits behind it, or where nobody has it', () => {
    expect(findHolds([turn(0, { status: 'ready', sinceMs: 1 })], { idleBeforeMs: 5 })).toEqual([]);
    expect(findHolds([turn(0, { status: 'ready', sinceMs: 1, assignee: null }), turn(1)], { idleBeforeMs: 5 })).toEqual([]);
  });
});

describe('what is held', () => {
  it('is counted once behind several holds of one defect, with its runs, teams and minutes; done turns wait for nothing', () => {
    const failed = (index: number, run: string) =>
      turn(index, { id: `${run}${index}`, run, status: 'failed', defects: ['d'], sinceMs: 50 - index });
    const turns = [
      ...[failed(0, 'r'), turn(1, { id: 'r1', status: 'held', team: 'other', minutes: 7 }), turn(2, { id: 'r2', status: 'passed' })],
      ...[failed(0, 's'), turn(1, { id: 's1', run: 's', status: 'waiting' })],
    ];
    const [hold, ...others] = findHolds(turns, { idleBeforeMs: 0 });
    expect(others).toEqual([]);
    expect(hold).toMatchObject({ kind: 'defect', key: 'd', behind: ['r1', 's1'], runs: 2, teams: 2, minutes: 17, sinceMs: 50 });
    expect(hold?.at).toEqual(['r0', 's0']);
  });

  it('comes most waiting first, then most minutes, then by name', () => {
    const line = (run: string, behind: number, minutes: number) => [
      turn(0, { id: `${run}0`, run, status: 'blocked' }),
      ...Array.from({ length: behind }, (_, index) => turn(index + 1, { id: `${run}${index + 1}`, run, after: [0], minutes })),
    ];
    const holds = findHolds([...line('a', 1, 5), ...line('b', 2, 1), ...line('c', 1, 9), ...line('d', 1, 5)], { idleBeforeMs: 0 });
    expect(holds.map(({ key, kind }) => [key, kind])).toEqual([
      ['b0', 'block'],
      ['c0', 'block'],
      ['a0', 'block'],
      ['d0', 'block'],
    ]);
  });
});
