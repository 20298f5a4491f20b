import type { Severity } from '../defects/defect.ts';
import { isAtRetest, isHolding, isOver, SEVERITIES } from '../defects/defect.ts';
import type { DefectLife, Happening } from '../defects/happenings.ts';
import { getLastStatus, HAPPENINGS, listHappenings } from '../defects/happenings.ts';
import { getMedian } from '../values/median.ts';

export interface FollowedDefect extends DefectLife {
  readonly severity: Severity;
}

/** A day: what happened on it, and how many are not over at its end, by severity. */
export interface DefectDay extends Readonly<Record<Happening, number>> {
  readonly open: Readonly<Record<Severity, number>>;
}

const toZeros = <Key extends string>(keys: readonly Key[]) => Object.fromEntries(keys.map((key) => [key, 0])) as Record<Key, number>;

/**
 * Defects day by day. `dayOf` gives the number of the day of a moment, from 0; what lies before the first day or behind the last counts on that one.
 * Cost O(defects + moves + days).
 */
export function followDefects(defects: readonly FollowedDefect[], dayOf: (atMs: number) => number, days: number): DefectDay[] {
  const counts = Array.from({ length: days }, () => ({ ...toZeros(HAPPENINGS), change: toZeros(SEVERITIES) }));
  for (const { severity, ...life } of defects)
    for (const { kind, atMs } of withReturns(life)) {
      const day = counts[Math.min(Math.max(dayOf(atMs), 0), days - 1)];
      if (!day) continue;
      if (kind !== 'returned') day[kind] += 1;
      if (kind === 'found' || kind === 'returned') day.change[severity] += 1;
      if (kind === 'over') day.change[severity] -= 1;
    }
  const open = toZeros(SEVERITIES);
  return counts.map(({ change, ...day }) => {
    for (const severity of SEVERITIES) open[severity] += change[severity];
    return { ...day, open: { ...open } };
  });
}

/** With the moments at which one that was over is open again: those of *reopened* that a fix came before are no such. */
function withReturns(life: DefectLife): { kind: Happening | 'returned'; atMs: number }[] {
  let wasOver = false;
  const returned = life.moves.flatMap(({ atMs, to }) => {
    const isBack = wasOver && !isOver(to);
    wasOver = isOver(to);
    return isBack ? [{ kind: 'returned' as const, atMs }] : [];
  });
  return [...listHappenings(life), ...returned];
}

/** What became of some defects, in numbers of defects; times in milliseconds, null where there is none to tell. */
export interface DefectSums {
  readonly found: number;
  /** Not over; of those, fixed and waiting for their retests. */
  readonly open: number;
  readonly atRetest: number;
  /** At least once. */
  readonly fixed: number;
  readonly reopened: number;
  /** From found to the last time it was said to be fixed, of those that were not opened again since: how many, and their median. */
  readonly fixes: number;
  readonly medianFixMs: number | null;
  /** How long the oldest that is open has been. */
  readonly oldestMs: number | null;
}

export function sumDefects(defects: readonly DefectLife[], nowMs: number): DefectSums {
  const lives = defects.map((life) => ({ life, status: getLastStatus(life), happened: listHappenings(life) }));
  const open = lives.filter(({ status }) => !isOver(status));
  const countOf = (kind: Happening) => lives.filter(({ happened }) => happened.some((own) => own.kind === kind)).length;
  const fixes = lives.flatMap(({ life, status, happened }) => {
    const last = happened.findLast(({ kind }) => kind === 'fixed');
    return last && !isHolding(status) ? [last.atMs - life.foundMs] : [];
  });
  return {
    ...{ found: lives.length, open: open.length, atRetest: open.filter(({ status }) => isAtRetest(status)).length },
    ...{ fixed: countOf('fixed'), reopened: countOf('reopened'), fixes: fixes.length, medianFixMs: getMedian(fixes) },
    oldestMs: open.length === 0 ? null : nowMs - Math.min(...open.map(({ life }) => life.foundMs)),
  };
}
