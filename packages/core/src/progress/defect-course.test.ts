import fc from 'fast-check';
import { median } from 'simple-statistics';
import { describe, expect, it } from 'vitest';
import type { DefectStatus } from '../defects/defect.ts';
import { isOver, listDefectMoves, SEVERITIES } from '../defects/defect.ts';
import { getLastStatus, listHappenings } from '../defects/happenings.ts';
import type { FollowedDefect } from './defect-course.ts';
import { followDefects, sumDefects } from './defect-course.ts';
import { getMedian } from '../values/median.ts';

const DAY_MS = 86_400_000;
const dayOf = (atMs: number) => Math.floor(atMs / DAY_MS);
const kindsOf = (...to: DefectStatus[]) =>
  listHappenings({ foundMs: 0, moves: to.map((status, at) => ({ to: status, atMs: at + 1 })) }).map(({ kind }) => kind);

/** Lives by the moves that people may make, over ten days. */
const lives = fc.array(
  fc
    .record({
      severity: fc.constantFrom(...SEVERITIES),
      foundMs: fc.integer({ min: 0, max: 5 * DAY_MS }),
      choices: fc.array(fc.record({ pick: fc.nat(3), afterMs: fc.integer({ min: 1, max: DAY_MS }) }), { maxLength: 5 }),
    })
    .map(({ severity, foundMs, choices }): FollowedDefect => {
      let status: DefectStatus = 'new';
      let atMs = foundMs;
      const moves = choices.flatMap(({ pick, afterMs }) => {
        const next = listDefectMoves(status);
        const to = next[pick % next.length];
        if (to === undefined) return [];
        status = to;
        atMs += afterMs;
        return [{ to, atMs }];
      });
      return { severity, foundMs, moves };
    }),
  { maxLength: 30 },
);

describe('what happens to a defect', () => {
  it('is told once each time', () => {
    expect(kindsOf()).toEqual(['found']);
    expect(kindsOf('accepted', 'fixed', 'closed')).toEqual(['found', 'fixed', 'over']);
    expect(kindsOf('accepted', 'fixed', 'accepted', 'fixed', 'closed', 'accepted')).toEqual([
      ...['found', 'fixed', 'reopened', 'fixed', 'over', 'reopened'],
    ]);
    expect(kindsOf('declined', 'accepted')).toEqual(['found', 'over', 'reopened']);
  });
});

describe('defects by day', () => {
  it('are as many open at the end of each day as were found by then and do not stand as over then', () => {
    fc.assert(
      fc.property(lives, (defects) => {
        const days = followDefects(defects, dayOf, 12);
        days.forEach(({ open }, day) => {
          const until = (day + 1) * DAY_MS;
          for (const severity of SEVERITIES) {
            const standing = defects.filter(
              (defect) =>
                defect.severity === severity &&
                defect.foundMs < until &&
                !isOver(getLastStatus({ ...defect, moves: defect.moves.filter(({ atMs }) => atMs < until) })),
            );
            expect(open[severity]).toBe(standing.length);
          }
        });
        const total = (kind: 'found' | 'fixed' | 'over' | 'reopened') => days.reduce((sum, day) => sum + day[kind], 0);
        for (const kind of ['found', 'fixed', 'over', 'reopened'] as const)
          expect(total(kind)).toBe(defects.flatMap(listHappenings).filter((own) => own.kind === kind).length);
      }),
    );
  });

  it('count before the first day on the first, behind the last on the last; without days there are none', () => {
    const defect: FollowedDefect = { severity: 'hinders', foundMs: -DAY_MS, moves: [{ to: 'declined', atMs: 9 * DAY_MS }] };
    const [first, last] = followDefects([defect], dayOf, 2);
    expect([first?.found, first?.open.hinders, last?.over, last?.open.hinders]).toEqual([1, 1, 1, 0]);
    expect(followDefects([defect], dayOf, 0)).toEqual([]);
  });

  it('are summed: what is fixed and stands, by its middle time', () => {
    const at = (foundDay: number, ...moves: [DefectStatus, number][]) => ({
      foundMs: foundDay * DAY_MS,
      moves: moves.map(([to, day]) => ({ to, atMs: day * DAY_MS })),
    });
    const some = [
      at(0, ['accepted', 1], ['fixed', 2], ['closed', 3]),
      at(0, ['fixed', 1], ['accepted', 2], ['fixed', 6]),
      at(1, ['fixed', 2], ['accepted', 3]),
      at(2),
      at(3, ['declined', 4]),
    ];
    expect(sumDefects(some, 10 * DAY_MS)).toEqual({
      ...{ found: 5, open: 3, atRetest: 1, fixed: 3, reopened: 2, fixes: 2 },
      ...{ medianFixMs: 4 * DAY_MS, oldestMs: 10 * DAY_MS },
    });
    expect(sumDefects([], 0)).toMatchObject({ found: 0, medianFixMs: null, oldestMs: null });
  });
});

describe('the middle of some numbers', () => {
  it('is what simple-statistics says', () => {
    fc.assert(
      fc.property(fc.array(fc.integer(), { minLength: 1 }), (values) => {
        expect(getMedian(values)).toBeCloseTo(median(values), 9);
      }),
    );
    expect(getMedian([])).toBeNull();
  });
});
