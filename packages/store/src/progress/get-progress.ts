import type { ProgressQuery, ProgressView } from '@kindred-baton/contracts/progress/progress';
import { NO_COUNTS } from '@kindred-baton/core/progress/tally';
import { listSubtree, loadTree } from '../map/load-tree.ts';
import type { Query } from '../operation.ts';
import { loadHolds } from '../runs/load-holds.ts';
import { findCycle, listCycleNames, toSpan } from './find-cycle.ts';
import { loadTable } from './load-table.ts';
import { tellHolds } from './tell-holds.ts';

const NO_AXIS = { from: 0, size: 0, entries: [] };
const NO_PROGRESS = {
  ...{ cycle: null, rows: NO_AXIS, columns: NO_AXIS, cells: [], columnTotals: [], total: NO_COUNTS },
  ...{ holds: [], held: 0, quiet: 0, moreHolds: [], waitingBehindHolds: 0 },
};

/** Progress of a cycle over two facets, scoped to a branch of the map, and where its baton is held. */
export const getProgress: Query<ProgressQuery, ProgressView> = {
  right: 'read',
  read: async (context, query) => {
    const [cycle, cycleRows] = await Promise.all([findCycle(context, query.cycle), listCycleNames(context)]);
    if (!cycle) return { ...NO_PROGRESS, cycles: cycleRows };
    const nodes = query.scope === undefined ? null : listSubtree(await loadTree(context), query.scope);
    const [table, held] = await Promise.all([loadTable(context, { cycleId: cycle.id, query, nodes }), loadHolds(context, cycle.id)]);
    return {
      cycle: toSpan(cycle),
      cycles: cycleRows,
      ...table,
      ...(await tellHolds(context, held, { nodes: nodes && new Set(nodes), team: query.holdsOf })),
    };
  },
};
