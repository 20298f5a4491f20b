import type { BoardDefect } from './board-columns.ts';
import { DEFECT_STATUSES } from './defect.ts';
import { describe, expect, it } from 'vitest';
import { toBoardColumns } from './board-columns.ts';

const defect = (code: string, more: Partial<BoardDefect>) => ({ code, status: 'accepted' as const, assignee: null, waiting: 0, ...more });

describe('the board of defects', () => {
  it('has a column for whoever must act: leads, nobody yet, each who fixes with the most waiting first, testers', () => {
    const columns = toBoardColumns(
      [
        defect('D-1', { status: 'new' }),
        defect('D-2', { waiting: 3 }),
        defect('D-3', { assignee: 'Ada', waiting: 2 }),
        defect('D-4', { assignee: 'Bo', waiting: 1 }),
        defect('D-5', { assignee: 'Bo', waiting: 5 }),
        defect('D-6', { status: 'fixed', assignee: 'Ada' }),
      ],
      false,
    );
    expect(columns.map(({ who, defects }) => [who, defects.map(({ code }) => code)])).toEqual([
      ['The leads', ['D-1']],
      ['Nobody yet', ['D-2']],
      ['Bo', ['D-5', 'D-4']],
      ['Ada', ['D-3']],
      ['Testers', ['D-6']],
    ]);
  });

  it('shows each defect once, whatever it is, when those that are over are asked for too', () => {
    const all = DEFECT_STATUSES.map((status) => defect(status, { status }));
    expect(
      toBoardColumns(all, true)
        .flatMap(({ defects }) => defects.map(({ code }) => code))
        .sort(),
    ).toEqual([...DEFECT_STATUSES].sort());
  });
});
