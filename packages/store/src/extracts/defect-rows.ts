import { AppError } from '@kindred-baton/contracts/errors';
import type { RowsQuery } from '@kindred-baton/contracts/extracts/extract';
import { turnFilters } from '@kindred-baton/contracts/turns/turn';
import { NONE } from '@kindred-baton/core/progress/facet';
import { eq, inArray, isNull, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { listSubtree, loadTree } from '../map/load-tree.ts';
import { findCycles } from '../programmes/find-cycle.ts';
import { isAtNodes } from '../runs/in-scope.ts';
import { cycles } from '../schema/cycles.ts';
import { defectTurns, defects } from '../schema/defects.ts';
import { people } from '../schema/people.ts';
import { teams } from '../schema/programmes.ts';
import { attempts, turns } from '../schema/turns.ts';
import { isSince } from './of-turns.ts';
import type { RowSource } from './row-source.ts';

const finders = alias(people, 'finders');
const AT = sql`coalesce(${turns.nodeId}, ${defects.nodeId})`;
/** *counted* says what a status is of, and nothing alone. */
const FILTERED: readonly string[] = ['cycle', 'team', 'counted'];

export const defectRows: RowSource<'defects'> = {
  cells: () => ({
    ...{ defect: defects.code, title: defects.title, kind: defects.kind, severity: defects.severity, priority: defects.priority },
    ...{ status: defects.status, cycle: cycles.code, node_path: sql`paths.path`, node: sql`paths.code`, team: teams.name },
    ...{ assignee: people.name, found_by: finders.name, found_at: defects.foundAt, changed_at: defects.changedAt, due_on: defects.dueOn },
    turns: sql`(select count(*) from ${defectTurns} where ${eq(defectTurns.defectId, defects.id)})`,
  }),
  from: sql`from ${defects} join ${cycles} on ${eq(cycles.id, defects.cycleId)} join ${people} as finders on ${eq(finders.id, defects.foundBy)}
    left join ${teams} on ${eq(teams.id, defects.teamId)} left join ${people} on ${eq(people.id, defects.assigneeId)}
    left join ${attempts} on ${eq(attempts.id, defects.attemptId)} left join ${turns} on ${eq(turns.id, attempts.turnId)} left join paths on paths.id = ${AT}`,
  key: [{ cell: defects.number, type: 'int' }],
  conditions: async (context, query) => {
    const other = Object.keys(turnFilters).find((name) => query[name as keyof RowsQuery] !== undefined && !FILTERED.includes(name));
    if (other) throw new AppError('invalid', `Defects are not filtered by ${other}; by cycle, scope, team and since they are.`);
    const nodes = query.scope === undefined ? null : listSubtree(await loadTree(context), query.scope);
    const chosen = query.cycle === undefined ? null : (await findCycles(context, query.cycle)).map(({ id }) => id);
    return [
      eq(defects.programmeId, context.actor.programmeId),
      chosen === null ? undefined : inArray(defects.cycleId, chosen),
      ...(query.team === undefined ? [] : [query.team === NONE ? isNull(defects.teamId) : eq(teams.name, query.team)]),
      isAtNodes(nodes, AT),
      isSince(context, defects.changedAt, query.since),
    ];
  },
};
