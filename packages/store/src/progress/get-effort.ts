import type { Effort, EffortCell, EffortQuery } from '@kindred-baton/contracts/progress/effort';
import { NONE } from '@kindred-baton/core/progress/facet';
import { and, asc, eq, sql } from 'drizzle-orm';
import type { Tree } from '../map/load-tree.ts';
import { getPath, listSubtree, loadTree } from '../map/load-tree.ts';
import type { Query } from '../operation.ts';
import { findCycles, listCycleNames } from '../programmes/find-cycle.ts';
import { isAtNodes, isTurnInScope } from '../runs/in-scope.ts';
import { teams } from '../schema/programmes.ts';
import { turns } from '../schema/turns.ts';
import { withSpent } from '../turns/spent.ts';

const NOTHING: EffortCell = { tried: 0, planned: 0, spent: 0 };
const add = (a: EffortCell, b: EffortCell): EffortCell => ({
  tried: a.tried + b.tried,
  planned: a.planned + b.planned,
  spent: a.spent + b.spent,
});

interface Spent extends EffortCell {
  readonly cycle: string;
  readonly key: string | null;
  readonly corrected: number;
}

/** What turns were planned and took, cycle beside cycle: by team, by process, or by the day on which they ended. Five queries. */
export const getEffort: Query<EffortQuery, Effort> = {
  right: 'read',
  read: async (context, query) => {
    const [found, cycles, tree, names] = await Promise.all([
      findCycles(context, query.cycle ?? '@last'),
      listCycleNames(context),
      loadTree(context),
      context.db
        .select({ id: teams.id, name: teams.name })
        .from(teams)
        .where(eq(teams.programmeId, context.actor.programmeId))
        .orderBy(asc(teams.position), asc(teams.name)),
    ]);
    const chosen = [...found].reverse();
    const nodes = query.scope === undefined ? null : listSubtree(tree, query.scope);
    const ids = chosen.map(({ id }) => id);
    const which = and(sql`${turns.cycleId} = any(${sql.param(ids)}::uuid[])`, isTurnInScope, isAtNodes(nodes));
    const key = {
      ...{ team: sql`team::text`, process: sql`node::text` },
      day: sql`to_char(ended_at at time zone ${context.actor.timeZone}, 'YYYY-MM-DD')`,
    }[query.by];
    const { rows } = await context.db.execute<Spent & Record<string, unknown>>(sql`
      ${withSpent(which)}
      select cycle, ${key} as key, count(*)::int as tried, sum(minutes)::float8 as planned, sum(spent)::float8 as spent,
        count(*) filter (where is_corrected)::int as corrected
      from spent group by 1, 2`);
    const lineOf = new Map<string, EffortCell[]>();
    const totals = chosen.map(() => NOTHING);
    const corrected = chosen.map(() => 0);
    for (const row of rows) {
      const at = ids.findIndex((id) => id === row.cycle);
      const own = query.by === 'process' ? toProcess(tree, row.key, query.scope) : (row.key ?? NONE);
      const cells = lineOf.get(own) ?? chosen.map(() => NOTHING);
      cells[at] = add(cells[at] ?? NOTHING, row);
      totals[at] = add(totals[at] ?? NOTHING, row);
      corrected[at] = (corrected[at] ?? 0) + row.corrected;
      lineOf.set(own, cells);
    }
    return {
      ...{ cycles, chosen: chosen.map(({ code, name }) => ({ code, name })), totals, corrected },
      lines: order(query.by, { tree, names, lineOf }),
    };
  },
};

/** The child of the branch that is looked at in which a node lies, else the branch itself; of the whole map its top. */
function toProcess(tree: Tree, id: string | null, scope: string | undefined): string {
  const path = getPath(tree, (id ?? '') as Parameters<typeof getPath>[1]).map(({ node }) => node.code);
  const at = scope === undefined ? -1 : path.indexOf(scope);
  return path[at + 1] ?? path.at(-1) ?? NONE;
}

interface Ordered {
  readonly tree: Tree;
  readonly names: readonly { readonly id: string; readonly name: string }[];
  readonly lineOf: ReadonlyMap<string, EffortCell[]>;
}

function order(by: EffortQuery['by'], { tree, names, lineOf }: Ordered): Effort['lines'] {
  const toLine = (key: string, own: string, name: string) => {
    const cells = lineOf.get(own);
    return cells ? [{ key, name, cells }] : [];
  };
  if (by === 'team') return [...names.flatMap(({ id, name }) => toLine(name, id, name)), ...toLine(NONE, NONE, 'No team')];
  if (by === 'process') return tree.nodes.flatMap(({ node }) => toLine(node.code, node.code, node.name));
  return [...lineOf.keys()].sort((a, b) => (a < b ? 1 : -1)).flatMap((day) => toLine(day, day, day));
}
