import type { NamedNode } from '@kindred-baton/core/imports/choose-differences';
import type { OutTable } from '../tables/write-tables.ts';

const HEADINGS = ['Code', 'Name', 'Parent', 'Level', 'Team', 'Application', 'Owner', 'Critical', 'Retired', 'Description'];
const WIDTHS = [14, 44, 14, 14, 18, 22, 18, 10, 10, 60];

/** The map as a table, a row a node; reading it again gives the same map. `nodes` in map order. */
export function toMapTable(nodes: readonly NamedNode[], levels: readonly string[]): OutTable {
  const byId = new Map(nodes.map((node) => [node.id, node]));
  const depths = new Map<string, number>();
  const rows = nodes.map((node) => {
    const parent = node.parentId === null ? undefined : byId.get(node.parentId);
    const depth = parent ? (depths.get(parent.id) ?? 0) + 1 : 0;
    depths.set(node.id, depth);
    return [
      ...[node.code, node.name, parent?.code ?? '', levels[depth] ?? ''],
      ...[node.team ?? '', node.application ?? '', node.owner ?? ''],
      ...[node.isCritical ? 'yes' : 'no', node.isRetired ? 'yes' : 'no', node.description],
    ];
  });
  return { sheet: 'Processes', headings: HEADINGS, rows, widths: WIDTHS };
}

/** The map as JSON, for other programs: levels, and nodes in map order with their parents’ codes. */
export function toMapJson(nodes: readonly NamedNode[], levels: readonly string[]): string {
  const codes = new Map(nodes.map(({ id, code }) => [id, code]));
  const plain = nodes.map(({ id: _, parentId, ...node }) => ({
    ...node,
    parent: parentId === null ? null : (codes.get(parentId) ?? null),
  }));
  return JSON.stringify({ levels, nodes: plain }, null, 2);
}
