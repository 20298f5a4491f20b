import type { OutlineView } from '@kindred-baton/contracts/map/strip';
import type { Query } from '../operation.ts';
import { loadTree } from './load-tree.ts';

/** Every node of the map, in map order, by columns: what forms choose from, and what lies in a branch. One query. */
export const getOutline: Query<void, OutlineView> = {
  right: 'read',
  read: async (context) => {
    const { nodes } = await loadTree(context);
    return {
      codes: nodes.map(({ node }) => node.code),
      names: nodes.map(({ node }) => node.name),
      parents: nodes.map(({ parent }) => parent),
    };
  },
};
