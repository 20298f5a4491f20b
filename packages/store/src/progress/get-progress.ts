import type { ProgressQuery, ProgressView } from '@kindred-baton/contracts/progress/progress';
import { NO_COUNTS } from '@kindred-baton/core/progress/tally';
import type { Tree } from '../map/load-tree.ts';
import { getPath, listSubtree, loadTree } from '../map/load-tree.ts';
import type { Query, ReadContext } from '../operation.ts';
import { loadHolds } from '../runs/load-holds.ts';
import { findCycle, findCycles, listCycleNames, toSpan } from '../programmes/find-cycle.ts';
import { loadTable } from './load-table.ts';
import { tellHolds } from './tell-holds.ts';

const NO_HOLDS = { holds: [], held: 0, quiet: 0, moreHolds: [], waitingBehindHolds: 0 };

/** Progress of one or more cycles over two facets, scoped to a branch of the map, and where their batons are held. */
export const getProgress: Query<ProgressQuery, ProgressView> = {
  right: 'read',
  read: async (context, query) => {
    const [chosen, cycles] = await Promise.all([findChosen(context, query), listCycleNames(context)]);
    if (chosen.length === 0) {
      const noAxis = { isMany: false, from: 0, size: 0, entries: [] };
      const rows = { ...noAxis, facet: query.rows };
      return {
        ...{ chosen, cycles, path: [], rows, columns: { ...noAxis, facet: query.columns }, cells: [], total: NO_COUNTS },
        ...NO_HOLDS,
      };
    }
    const cycleIds = chosen.map(({ id }) => id);
    const tree = await loadTree(context);
    const nodes = query.scope === undefined ? null : listSubtree(tree, query.scope);
    const [table, held] = await Promise.all([loadTable(context, { cycleIds, query, tree, nodes }), loadHolds(context, cycleIds)]);
    return {
      ...{ chosen: chosen.map(toSpan), cycles, path: listPath(tree, query.scope) },
      ...table,
      ...(await tellHolds(context, held, { nodes: nodes && new Set(nodes), team: query.holdsOf })),
    };
  },
};

function listPath(tree: Tree, scope: string | undefined): ProgressView['path'] {
  const entry = scope === undefined ? undefined : tree.byCode.get(scope);
  return entry ? getPath(tree, entry.node.id).map(({ node: { code, name } }) => ({ code, name })) : [];
}

async function findChosen(context: ReadContext, { cycle }: ProgressQuery) {
  if (cycle !== undefined) return findCycles(context, cycle);
  const current = await findCycle(context, undefined);
  return current ? [current] : [];
}
