import { AppError } from '@kindred-baton/contracts/errors';
import type { Since, SinceQuery } from '@kindred-baton/contracts/progress/since';
import type { SQL } from 'drizzle-orm';
import { and, asc, count, eq, gte, sql } from 'drizzle-orm';
import { listSubtree, loadTree } from '../map/load-tree.ts';
import type { Query, ReadContext } from '../operation.ts';
import type { InScope } from '../runs/in-scope.ts';
import { isAtNodes, isOfCycle } from '../runs/in-scope.ts';
import { defectTurns, defects } from '../schema/defects.ts';
import { history } from '../schema/history.ts';
import { turns } from '../schema/turns.ts';
import { findCycle } from '../programmes/find-cycle.ts';

const DAY_MS = 86_400_000;

/** What changed in a cycle, or in a branch of it, since a moment. Four queries, and the map's for a branch. */
export const getSince: Query<SinceQuery, Since> = {
  right: 'read',
  read: async (context, query) => {
    const cycle = await findCycle(context, query.cycle);
    if (!cycle) throw new AppError('not found', 'There is no cycle yet.');
    const since = query.since === undefined ? new Date(context.now.getTime() - DAY_MS) : new Date(query.since);
    const nodes = query.scope === undefined ? null : listSubtree(await loadTree(context), query.scope);
    const own = { cycleId: cycle.id, nodes };
    const [ended, ready, found, fixed] = await Promise.all([
      context.db
        .select({ status: turns.status, turns: count() })
        .from(turns)
        .where(and(isOfCycle(own), gte(turns.doneAt, since)))
        .groupBy(turns.status),
      context.db
        .select({ turns: count() })
        .from(turns)
        .where(and(isOfCycle(own), gte(turns.readyAt, since))),
      listDefects(context, own, gte(defects.foundAt, since)),
      listDefects(context, own, wasFixedSince(since)),
    ]);
    const countOf = (status: string) => ended.find((row) => row.status === status)?.turns ?? 0;
    return {
      ...{ since: since.toISOString(), passed: countOf('passed'), failed: countOf('failed'), blocked: countOf('blocked') },
      ...{ ready: ready[0]?.turns ?? 0, found, fixed },
    };
  },
};

const wasFixedSince = (since: Date) =>
  sql`exists (select from ${history} where ${history.subjectId} = ${defects.id} and ${history.action} = 'fixed' and ${history.at} >= ${since.toISOString()}::timestamptz)`;

/** Of a branch: those that were seen at a turn in it, or at no turn at a node of it. */
const listDefects = ({ db }: ReadContext, { cycleId, nodes }: InScope, is: SQL) =>
  db
    .select({ code: defects.code, title: defects.title })
    .from(defects)
    .where(
      and(
        ...[eq(defects.cycleId, cycleId), is],
        nodes === null
          ? undefined
          : sql`(${isAtNodes(nodes, defects.nodeId)} or exists (select from ${defectTurns} join ${turns} on ${eq(turns.id, defectTurns.turnId)}
              where ${defectTurns.defectId} = ${defects.id} and ${isAtNodes(nodes)}))`,
      ),
    )
    .orderBy(asc(defects.number));
