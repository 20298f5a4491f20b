import type { ProgressQuery, ProgressView } from '@kindred-baton/contracts/progress/progress';
import { NO_COUNTS } from '@kindred-baton/core/progress/tally';
import type { Tree } from '../map/load-tree.ts';
import { getPath, listSubtree, loadTree } from '../map/load-tree.ts';
import type { Query, ReadContext } from '../operation.ts';
import { findChosen, listCycleNames, toSpan } from '../programmes/find-cycle.ts';
import type { TableWanted } from './load-table.ts';
import { loadTable } from './load-table.ts';

/** Progress of one or more cycles over two facets, scoped to a branch of the map. */
export const getProgress: Query<ProgressQuery, ProgressView> = {
  right: 'read',
  read: (context, query) => loadProgress(context, query),
};

async function loadProgress(context: ReadContext, query: ProgressQuery, page?: TableWanted['page']): Promise<ProgressView> {
  const [chosen, cycles] = await Promise.all([findChosen(context, query.cycle), listCycleNames(context)]);
  if (chosen.length === 0) {
    const noAxis = { isMany: false, from: 0, size: 0, entries: [] };
    const rows = { ...noAxis, facet: query.rows };
    return { chosen, cycles, path: [], rows, columns: { ...noAxis, facet: query.columns }, cells: [], total: NO_COUNTS };
  }
  const cycleIds = chosen.map(({ id }) => id);
  const tree = await loadTree(context);
  const nodes = query.scope === undefined ? null : listSubtree(tree, query.scope);
  const table = await loadTable(context, { cycleIds, query, tree, nodes, ...(page ? { page } : {}) });
  return { chosen: chosen.map(toSpan), cycles, path: listPath(tree, query.scope), ...table };
}

/** As much of a table as is taken away as a file: a sheet has no more columns that anybody reads. */
export const MOST_TAKEN = { rows: 20_000, columns: 1_000 };

/** The whole table, to be taken away. */
export const getWholeTable: Query<ProgressQuery, ProgressView> = {
  right: 'read',
  read: (context, query) => loadProgress(context, { ...query, fromRow: 0, fromColumn: 0 }, MOST_TAKEN),
};

function listPath(tree: Tree, scope: string | undefined): ProgressView['path'] {
  const entry = scope === undefined ? undefined : tree.byCode.get(scope);
  return entry ? getPath(tree, entry.node.id).map(({ node: { code, name } }) => ({ code, name })) : [];
}
