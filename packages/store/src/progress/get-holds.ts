import type { HoldsQuery, HoldsView } from '@kindred-baton/contracts/progress/holds';
import { listSubtree, loadTree } from '../map/load-tree.ts';
import type { Query } from '../operation.ts';
import { findChosen } from '../programmes/find-cycle.ts';
import { loadHolds } from '../runs/load-holds.ts';
import { tellHolds } from './tell-holds.ts';

/** Where the batons of one or more cycles are held, ranked by the turns that wait behind. */
export const getHolds: Query<HoldsQuery, HoldsView> = {
  right: 'read',
  read: async (context, { cycle, scope, holdsOf }) => {
    const cycleIds = (await findChosen(context, cycle)).map(({ id }) => id);
    const nodes = scope === undefined ? null : new Set(listSubtree(await loadTree(context), scope));
    return tellHolds(context, await loadHolds(context, cycleIds), { nodes, team: holdsOf });
  },
};
