import type { DefectCourseQuery, DefectCourseView } from '@kindred-baton/contracts/progress/defects';
import { SEVERITIES } from '@kindred-baton/core/defects/defect';
import type { DefectLife } from '@kindred-baton/core/defects/happenings';
import { followDefects, sumDefects } from '@kindred-baton/core/progress/defect-course';
import { NONE } from '@kindred-baton/core/progress/facet';
import { addDays, toDay } from '@kindred-baton/core/time/calendar';
import { countDaysBetween } from '@kindred-baton/core/time/work-days';
import { asc, eq } from 'drizzle-orm';
import { loadBranch, loadLives, readItems } from '../defects/read-defects.ts';
import type { Query, ReadContext } from '../operation.ts';
import { findCycle, listCycleNames, toSpan } from '../programmes/find-cycle.ts';
import type { CycleRow } from '../schema/cycles.ts';
import { teams } from '../schema/programmes.ts';

/** The defects of a cycle day by day, and what became of them: all that the list of defects has of the same branch. Five queries, and the map's for a branch. */
export const getDefectCourse: Query<DefectCourseQuery, DefectCourseView> = {
  right: 'read',
  read: async (context, query) => {
    const [cycle, cycles, items, isHere, teamRows] = await Promise.all([
      findCycle(context, query.cycle),
      listCycleNames(context),
      readItems(context),
      loadBranch(context, query.scope),
      context.db
        .select({ name: teams.name })
        .from(teams)
        .where(eq(teams.programmeId, context.actor.programmeId))
        .orderBy(asc(teams.position), asc(teams.name)),
    ]);
    const own = items.filter((item) => item.cycle === cycle?.code && isHere(item));
    const lives = await loadLives(context, own);
    const defects = own.map(({ id, severity, team }) => ({ severity, team: team ?? NONE, ...lives.get(id)! }));
    const sum = (some: readonly DefectLife[]) => sumDefects(some, context.now.getTime());
    const ofTeams = [...teamRows, { name: NONE }].map(({ name }) => ({ key: name, some: defects.filter(({ team }) => team === name) }));
    return {
      ...{ cycle: cycle ? toSpan(cycle) : null, cycles, days: cycle ? toDays(context, cycle, defects) : [], all: sum(defects) },
      teams: ofTeams.flatMap(({ key, some }) =>
        some.length === 0 ? [] : [{ key, name: key === NONE ? 'At no turn of a team' : key, sums: sum(some) }],
      ),
      severities: SEVERITIES.map((severity) => ({ severity, sums: sum(defects.filter((defect) => defect.severity === severity)) })),
    };
  },
};

function toDays(
  { actor, now }: ReadContext,
  { openedAt, closedAt }: CycleRow,
  defects: readonly Parameters<typeof followDefects>[0][number][],
): DefectCourseView['days'] {
  const moments = [...defects.flatMap(({ foundMs, moves }) => [foundMs, ...moves.map(({ atMs }) => atMs)])];
  const starts = [...(openedAt ? [openedAt.getTime()] : []), ...defects.map(({ foundMs }) => foundMs)];
  if (starts.length === 0) return [];
  const toDayOf = (atMs: number) => toDay(atMs, actor.timeZone);
  const first = toDayOf(starts.reduce((a, b) => Math.min(a, b)));
  const last = toDayOf(closedAt ? [closedAt.getTime(), ...moments].reduce((a, b) => Math.max(a, b)) : now.getTime());
  const days = followDefects(defects, (atMs) => countDaysBetween(first, toDayOf(atMs)), countDaysBetween(first, last) + 1);
  return days.map((day, at) => ({ date: addDays(first, at), ...day }));
}
