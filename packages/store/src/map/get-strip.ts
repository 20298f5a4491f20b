import { and, count, eq } from 'drizzle-orm';
import type { Tally } from '@kindred-baton/core/progress/tally';
import { codeFacet, codeStatuses, getCounts, tallyTurns } from '@kindred-baton/core/progress/tally';
import type { StripView } from '@kindred-baton/contracts/programmes/programme';
import { findCurrentCycle } from '../programmes/find-current-cycle.ts';
import type { Query, ReadContext } from '../operation.ts';
import { isTurnInScope } from '../runs/in-scope.ts';
import { teams } from '../schema/programmes.ts';
import { turns } from '../schema/turns.ts';
import type { Tree } from './load-tree.ts';
import { loadTree } from './load-tree.ts';

/** The strip: the tree with each node's outcomes in the current cycle. Four queries. */
export const getStrip: Query<void, StripView> = {
  right: 'read',
  read: async (context) => {
    const { db, actor } = context;
    const [tree, cycle, teamRows] = await Promise.all([
      loadTree(context),
      findCurrentCycle(context),
      db.select({ id: teams.id, name: teams.name }).from(teams).where(eq(teams.programmeId, actor.programmeId)),
    ]);
    const nodes = cycle ? await countNodes(context, tree, cycle.id) : null;
    const teamOf = new Map(teamRows.map((team) => [team.id, team.name]));
    return {
      cycle: cycle ? { id: cycle.id, code: cycle.code, name: cycle.name } : null,
      nodes: tree.nodes.map(({ node, parent, depth, order }) => ({
        code: node.code,
        name: node.name,
        parent,
        depth,
        counts: getCounts(nodes ?? new Float64Array(0), order),
        team: node.teamId ? (teamOf.get(node.teamId) ?? null) : null,
      })),
    };
  },
};

/** Turns are counted by node and status in SQL, then summed up the tree as weights. */
async function countNodes({ db, actor }: ReadContext, tree: Tree, cycleId: typeof turns.$inferSelect.cycleId): Promise<Tally['nodes']> {
  const rows = await db
    .select({ nodeId: turns.nodeId, status: turns.status, turns: count() })
    .from(turns)
    .where(and(eq(turns.cycleId, cycleId), eq(turns.programmeId, actor.programmeId), isTurnInScope))
    .groupBy(turns.nodeId, turns.status);
  const known = rows.filter((row) => tree.byId.has(row.nodeId));
  const all = codeFacet(known.map(() => ''));
  const sheet = {
    size: known.length,
    status: codeStatuses(known.map((row) => row.status)),
    node: Int32Array.from(known, (row) => tree.byId.get(row.nodeId)?.order ?? 0),
    parents: Int32Array.from(tree.nodes, (entry) => entry.parent),
  };
  return tallyTurns(
    sheet,
    { rows: all, columns: all },
    Float64Array.from(known, (row) => row.turns),
  ).nodes;
}
