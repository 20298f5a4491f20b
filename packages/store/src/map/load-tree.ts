import { asc, eq } from 'drizzle-orm';
import type { NodeId } from '@kindred-baton/core/ids';
import type { ReadContext } from '../operation.ts';
import type { NodeRow } from '../schema/map.ts';
import { pushTo } from '@kindred-baton/core/push-to';
import { nodes } from '../schema/map.ts';

export interface TreeNode {
  readonly node: NodeRow;
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
  const rows = await db.select().from(nodes).where(eq(nodes.programmeId, actor.programmeId)).orderBy(asc(nodes.position), asc(nodes.code));
  return layOutTree(rows);
}

function layOutTree(rows: readonly NodeRow[]): Tree {
  const childrenOf = new Map<NodeId | null, NodeRow[]>();
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
