import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { TURN_STATUSES } from '../outcomes.ts';
import type { TurnStatus } from '../outcomes.ts';
import { findHolds } from './find-holds.ts';
import type { HoldTurn } from './find-holds.ts';
import {
  changeTurnStatus,
  codeFacet,
  codeStatuses,
  getCounts,
  getPassShare,
  getRunShare,
  NO_COUNTS,
  recountTally,
  tallyTurns,
} from './tally.ts';

interface Plain {
  readonly status: TurnStatus;
  readonly row: string;
  readonly column: string;
  readonly node: number;
  readonly minutes: number;
}

const anyTurn: fc.Arbitrary<Plain> = fc.record({
  status: fc.constantFrom(...TURN_STATUSES),
  row: fc.constantFrom('r1', 'r2', 'r3'),
  column: fc.constantFrom('c1', 'c2'),
  node: fc.nat({ max: 6 }),
  minutes: fc.integer({ min: 1, max: 60 }),
});
const PARENTS = Int32Array.of(-1, 0, 0, 1, 1, 2, -1);

function tallyPlain(turns: readonly Plain[], isWeighted: boolean) {
  const rows = codeFacet(turns.map(({ row }) => row));
  const columns = codeFacet(turns.map(({ column }) => column));
  const sheet = {
    size: turns.length,
    status: codeStatuses(turns.map(({ status }) => status)),
    node: Int32Array.from(turns, ({ node }) => node),
    parents: PARENTS,
  };
  return tallyTurns(sheet, { rows, columns }, isWeighted ? Float64Array.from(turns, ({ minutes }) => minutes) : null);
}

/** The slow, plain twin: filter and count for each cell and for each node’s subtree. */
function countSlowly(turns: readonly Plain[], isWeighted: boolean) {
  const weigh = (list: readonly Plain[]) =>
    Object.fromEntries(
      TURN_STATUSES.map((status) => [
        status,
        list.filter((turn) => turn.status === status).reduce((sum, turn) => sum + (isWeighted ? turn.minutes : 1), 0),
      ]),
    );
  const isBelow = (node: number, top: number): boolean => node === top || ((PARENTS[node] ?? -1) >= 0 && isBelow(PARENTS[node] ?? -1, top));
  return {
    cell: (row: string, column: string) => weigh(turns.filter((turn) => turn.row === row && turn.column === column)),
    node: (top: number) => weigh(turns.filter((turn) => isBelow(turn.node, top))),
  };
}

describe('the tally', () => {
  it('equals its slow twin over two facets and the tree, by turns and by minutes (seed 4217)', () => {
    fc.assert(
      fc.property(fc.array(anyTurn, { maxLength: 60 }), fc.boolean(), (turns, isWeighted) => {
        const tally = tallyPlain(turns, isWeighted);
        const slow = countSlowly(turns, isWeighted);
        tally.rows.values.forEach((row, r) =>
          tally.columns.values.forEach((column, c) =>
            expect(getCounts(tally.cells, r * tally.columns.values.length + c)).toEqual(slow.cell(row, column)),
          ),
        );
        PARENTS.forEach((_, node) => expect(getCounts(tally.nodes, node)).toEqual(slow.node(node)));
      }),
      { seed: 4217 },
    );
  });

  it('after one changed turn equals a tally from scratch (seed 4217)', () => {
    fc.assert(
      fc.property(
        fc.array(anyTurn, { minLength: 1, maxLength: 40 }),
        fc.nat(),
        fc.constantFrom(...TURN_STATUSES),
        (turns, pick, status) => {
          const at = pick % turns.length;
          const changed = tallyPlain(turns, false);
          changeTurnStatus(changed, at, status);
          const fresh = tallyPlain(
            turns.map((turn, i) => (i === at ? { ...turn, status } : turn)),
            false,
          );
          expect([...changed.cells]).toEqual([...fresh.cells]);
          expect([...changed.nodes]).toEqual([...fresh.nodes]);
          recountTally(changed);
          expect([...changed.cells]).toEqual([...fresh.cells]);
        },
      ),
      { seed: 4217 },
    );
  });

  it('says – and not 0 or 100 where there is nothing to divide by', () => {
    expect([getRunShare(NO_COUNTS), getPassShare(NO_COUNTS), getRunShare({ ...NO_COUNTS, skipped: 3 })]).toEqual([null, null, null]);
    expect(getRunShare({ ...NO_COUNTS, passed: 3, failed: 1, blocked: 1, skipped: 2, waiting: 5 })).toBe(0.4);
    expect(getPassShare({ ...NO_COUNTS, passed: 3, failed: 1, blocked: 9 })).toBe(0.75);
  });
});

describe('holds', () => {
  const turn = (id: string, run: string, index: number, more: Partial<HoldTurn> = {}): HoldTurn => ({
    ...{
      id,
      run,
      index,
      team: `team ${index}`,
      minutes: 10,
      after: index === 0 ? [] : [index - 1],
      status: 'waiting',
      assignee: 'p',
      defects: [],
      sinceMs: null,
    },
    ...more,
  });
  const run = (name: string, first: Partial<HoldTurn>, behind: number) => [
    turn(`${name}0`, name, 0, first),
    ...Array.from({ length: behind }, (_, i) => turn(`${name}${i + 1}`, name, i + 1, { status: 'held' })),
  ];

  it('count the turns behind, once each, and rank by them', () => {
    const turns = [
      ...run('a', { status: 'failed', defects: ['d'], sinceMs: 5 }, 2),
      ...run('b', { status: 'failed', defects: ['d'], sinceMs: 3 }, 1),
      ...run('c', { status: 'blocked' }, 4),
      ...run('e', { status: 'failed' }, 0),
    ];
    const holds = findHolds(turns, { idleBeforeMs: 0 });
    expect(holds.map(({ kind, key, behind, runs, minutes, sinceMs }) => [kind, key, behind.length, runs, minutes, sinceMs])).toEqual([
      ['block', 'c0', 4, 1, 40, null],
      ['defect', 'd', 3, 2, 30, 3],
      ['failure', 'e0', 0, 0, 0, null],
    ]);
  });

  it('name a person only when she has lain on it too long and others wait', () => {
    const turns = [
      ...run('a', { status: 'ready', sinceMs: 10 }, 2),
      ...run('b', { status: 'ready', sinceMs: 99 }, 2),
      ...run('c', { status: 'ready', sinceMs: 10 }, 0),
    ];
    expect(findHolds(turns, { idleBeforeMs: 50 }).map(({ kind, key, behind }) => [kind, key, behind])).toEqual([
      ['idle', 'p', ['a1', 'a2']],
    ]);
  });

  it('count a turn behind two holds once in each, and done turns not at all', () => {
    const both: HoldTurn[] = [
      turn('x0', 'x', 0, { status: 'failed' }),
      turn('x1', 'x', 1, { status: 'blocked', after: [] }),
      turn('x2', 'x', 2, { after: [0, 1], status: 'held' }),
      turn('x3', 'x', 3, { after: [0], status: 'passed' }),
    ];
    expect(findHolds(both, { idleBeforeMs: 0 }).map(({ behind }) => behind)).toEqual([['x2'], ['x2']]);
  });
});
