import { eq, isNotNull, sql } from 'drizzle-orm';
import type { ApplicationId, NodeId, PersonId, TeamId } from '@kindred-baton/core/ids';
import type { ReadContext } from '../operation.ts';
import { pushTo } from '@kindred-baton/core/push-to';
import { readPacked } from '../read-packed.ts';
import { nodes } from '../schema/map.ts';

/** What the tree knows of a node; what is written about it stands beside (get-node.ts, load-outline.ts). */
interface PlacedNode {
  readonly id: NodeId;
  readonly parentId: NodeId | null;
  readonly code: string;
  readonly name: string;
  readonly position: number;
  readonly teamId: TeamId | null;
  readonly applicationId: ApplicationId | null;
  readonly ownerId: PersonId | null;
  readonly isCritical: boolean;
  readonly isRetired: boolean;
}

export interface TreeNode {
  readonly node: PlacedNode;
  readonly depth: number;
  /** Place in map order; a parent's is smaller than its children's. */
  readonly order: number;
  /** The parent's place, −1 at the top. */
  readonly parent: number;
}

export interface Tree {
  readonly nodes: readonly TreeNode[];
  readonly byId: ReadonlyMap<NodeId, TreeNode>;
  readonly byCode: ReadonlyMap<string, TreeNode>;
}

/** The whole process map in map order (depth first, by position). One query. */
export async function loadTree({ db, actor }: Pick<ReadContext, 'db' | 'actor'>): Promise<Tree> {
  const { id, parentId, code, name, position, teamId, applicationId, ownerId, isCritical } = nodes;
  const rows = await readPacked<PlacedNode>(
    { db },
    {
      cells: {
        ...{ id, parentId, code, name, position, teamId, applicationId, ownerId, isCritical },
        isRetired: isNotNull(nodes.retiredAt),
      },
      from: sql`from ${nodes} where ${eq(nodes.programmeId, actor.programmeId)} order by ${position}, ${code}`,
    },
  );
  return layOutTree(rows);
}

function layOutTree(rows: readonly PlacedNode[]): Tree {
  const childrenOf = new Map<NodeId | null, PlacedNode[]>();
  for (const row of rows) pushTo(childrenOf, row.parentId, row);
  const ordered: TreeNode[] = [];
  const visit = (parentId: NodeId | null, depth: number, parent: number) => {
    for (const node of childrenOf.get(parentId) ?? []) {
      const order = ordered.length;
      ordered.push({ node, depth, order, parent });
      visit(node.id, depth + 1, order);
    }
  };
  visit(null, 0, -1);
  return {
    nodes: ordered,
    byId: new Map(ordered.map((entry) => [entry.node.id, entry])),
    byCode: new Map(ordered.map((entry) => [entry.node.code, entry])),
  };
}

/** The nodes from the top to this one. */
export function getPath(tree: Tree, id: NodeId): TreeNode[] {
  const path: TreeNode[] = [];
  for (let at = tree.byId.get(id); at; at = at.parent >= 0 ? tree.nodes[at.parent] : undefined) path.unshift(at);
  return path;
}

/** Ids of a node and all below it. Map order keeps a subtree together. */
export function listSubtree(tree: Tree, code: string): NodeId[] {
  const start = tree.byCode.get(code);
  if (!start) return [];
  const ids: NodeId[] = [start.node.id];
  for (let order = start.order + 1; order < tree.nodes.length; order += 1) {
    const entry = tree.nodes[order];
    if (!entry || entry.depth <= start.depth) break;
    ids.push(entry.node.id);
  }
  return ids;
}
