import { describe, expect, it } from 'vitest';
import { getGroupKey, getNextSort, GROUP_COLUMNS, readTurnSort, SORTED_COLUMNS, TURN_SORTS } from './turn-columns.ts';

describe('the columns of a list of turns', () => {
  it('are sorted up, then down, then as the list is', () => {
    for (const column of SORTED_COLUMNS) {
      expect(getNextSort(column, null)).toBe(column);
      expect(getNextSort(column, column)).toBe(`-${column}`);
      expect(getNextSort(column, `-${column}`)).toBeNull();
      expect(getNextSort(column, column === 'due' ? 'turn' : 'due')).toBe(column);
    }
    expect(TURN_SORTS).toHaveLength(2 * SORTED_COLUMNS.length);
    expect(readTurnSort('-due')).toEqual({ column: 'due', isDown: true });
    expect(readTurnSort('due')).toEqual({ column: 'due', isDown: false });
  });

  it('group turns by what they have in common, and those without by nothing', () => {
    const turn = { status: 'ready', scenario: { code: 'SC-1' }, team: null, assignee: 'Una', dueOn: null, cycle: { code: 'ACC-2' } };
    expect(GROUP_COLUMNS.map((column) => getGroupKey(turn, column))).toEqual(['ready', 'SC-1', '', 'Una', '', 'ACC-2']);
  });
});
