import type { RunEnds, RunList, RunListQuery } from '@kindred-baton/contracts/cycles/cycle';
import { RUNS_A_PAGE } from '@kindred-baton/contracts/cycles/cycle';
import type { RunId } from '@kindred-baton/core/ids';
import { pushTo } from '@kindred-baton/core/push-to';
import { placePage } from '@kindred-baton/core/tables/pages';
import { and, asc, count, eq, inArray } from 'drizzle-orm';
import type { Query, ReadContext } from '../operation.ts';
import { runs } from '../schema/cycles.ts';
import { people } from '../schema/people.ts';
import { teams } from '../schema/programmes.ts';
import { scenarios } from '../schema/scenarios.ts';
import { turns } from '../schema/turns.ts';
import { requireCycle } from './require-cycle.ts';

/** A page of a cycle's runs with the marks of their turns; a page behind the end is the last. */
export const listRuns: Query<RunListQuery & { readonly code: string }, RunList> = {
  right: 'read',
  read: async (context, { code, page: wanted, numbers }) => {
    const { id } = await requireCycle(context, code);
    const chosen = numbers?.split(',').map(Number);
    const where = and(eq(runs.cycleId, id), chosen && inArray(runs.number, chosen));
    const [counted] = await context.db.select({ runs: count() }).from(runs).where(where);
    const total = counted?.runs ?? 0;
    const size = chosen ? Math.max(1, total) : RUNS_A_PAGE;
    const { page, from } = placePage(total, { page: wanted, of: size });
    const rows = await selectEnds(context).where(where).orderBy(asc(runs.number)).limit(size).offset(from);
    const turnsOf = await loadMarks(
      context,
      rows.map((run) => run.id),
    );
    return {
      total,
      page,
      pages: Math.max(1, Math.ceil(total / size)),
      runs: rows.map((run) => ({ ...run, turns: turnsOf.get(run.id) ?? [] })),
    };
  },
};

/** Every run of a cycle by its end. */
export const listRunEnds: Query<string, RunEnds> = {
  right: 'read',
  read: async (context, code) => {
    const { id } = await requireCycle(context, code);
    return { runs: await selectEnds(context).where(eq(runs.cycleId, id)).orderBy(asc(runs.number)) };
  },
};

const selectEnds = ({ db }: ReadContext) =>
  db
    .select({
      ...{ id: runs.id, number: runs.number, rowName: runs.rowName, priority: runs.priority, outcome: runs.outcome },
      ...{ leftTo: runs.leftTo, leftReason: runs.leftReason },
      scenario: { id: scenarios.id, code: scenarios.code, name: scenarios.name },
    })
    .from(runs)
    .innerJoin(scenarios, eq(scenarios.id, runs.scenarioId))
    .$dynamic();

async function loadMarks({ db }: ReadContext, ids: readonly RunId[]): Promise<Map<RunId, RunList['runs'][number]['turns']>> {
  const marks = new Map<RunId, RunList['runs'][number]['turns']>();
  if (ids.length === 0) return marks;
  const rows = await db
    .select({ id: turns.id, runId: turns.runId, title: turns.title, status: turns.status, team: teams.name, assignee: people.name })
    .from(turns)
    .leftJoin(teams, eq(teams.id, turns.teamId))
    .leftJoin(people, eq(people.id, turns.assigneeId))
    .where(inArray(turns.runId, [...ids]))
    .orderBy(asc(turns.runId), asc(turns.index));
  for (const { runId, team, ...turn } of rows) pushTo(marks, runId, { ...turn, team: team ?? 'No team' });
  return marks;
}
