import type { RowsQuery } from '@kindred-baton/contracts/extracts/extract';
import type { OfTurn } from '@kindred-baton/core/extracts/row-kinds';
import type { SQL, SQLWrapper } from 'drizzle-orm';
import { eq, sql } from 'drizzle-orm';
import { listSubtree, loadTree } from '../map/load-tree.ts';
import type { ReadContext } from '../operation.ts';
import { findCycles } from '../programmes/find-cycle.ts';
import { isAtNodes } from '../runs/in-scope.ts';
import { cycles, runs } from '../schema/cycles.ts';
import { applications, teams } from '../schema/programmes.ts';
import { scenarios } from '../schema/scenarios.ts';
import { tests } from '../schema/tests.ts';
import { turns } from '../schema/turns.ts';
import { findWanted } from '../turns/turn-filters.ts';

export const OF_TURN: Readonly<Record<OfTurn, SQLWrapper>> = {
  ...{ turn: turns.id, cycle: cycles.code, purpose: cycles.purpose },
  ...{ stream: sql`paths.stream`, node_path: sql`paths.path`, node: sql`paths.code` },
  ...{ scenario: scenarios.code, scenario_name: scenarios.name, data_row: runs.rowName, run: runs.number, leg: sql`${turns.index} + 1` },
  ...{ test: tests.code, title: turns.title, application: applications.name, priority: runs.priority, team: teams.name },
};

/** What a turn belongs to, joined to it. */
export const AROUND_TURN = sql`join ${runs} on ${eq(runs.id, turns.runId)} join ${cycles} on ${eq(cycles.id, turns.cycleId)}
  join ${scenarios} on ${eq(scenarios.id, runs.scenarioId)} join paths on paths.id = ${turns.nodeId} left join ${tests} on ${eq(tests.id, turns.testId)}
  left join ${applications} on ${eq(applications.id, tests.applicationId)} left join ${teams} on ${eq(teams.id, turns.teamId)}`;

/** The turns that a list with the same filters has; of all cycles where none is named. */
export async function ofWantedTurns(context: ReadContext, query: RowsQuery): Promise<readonly (SQL | undefined)[]> {
  const cycleIds = query.cycle === undefined ? await listAllCycles(context) : (await findCycles(context, query.cycle)).map(({ id }) => id);
  const nodes = query.scope === undefined ? null : listSubtree(await loadTree(context), query.scope);
  return [isAtNodes(nodes), await findWanted(context, query, cycleIds)];
}

async function listAllCycles({ db, actor }: ReadContext) {
  const all = await db.select({ id: cycles.id }).from(cycles).where(eq(cycles.programmeId, actor.programmeId));
  return all.map(({ id }) => id);
}

/** Since a moment, or since a day of the programme began. */
export const isSince = ({ actor }: ReadContext, cell: SQLWrapper, since: string | undefined): SQL | undefined => {
  if (since === undefined) return undefined;
  return since.length > 10
    ? sql`${cell} >= ${since}::timestamptz`
    : sql`${cell} >= (${since}::date::timestamp at time zone ${actor.timeZone}::text)`;
};
