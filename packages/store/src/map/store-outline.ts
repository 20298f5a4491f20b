import { inArray, sql } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { NodeId } from '@kindred-baton/core/ids';
import { toNameKey } from '@kindred-baton/core/values/field';
import { chunk } from '../chunk.ts';
import type { Change, Context } from '../operation.ts';
import { nodes } from '../schema/map.ts';
import { describeHangs, loadHangs } from './get-hangs.ts';
import type { MapOutlineNode, NameTable, Outline, OutlineNames } from './load-outline.ts';

type Placed = MapOutlineNode & { readonly position: number };

/**
 * Writes an edited outline: what is new, what differs, what is gone, each in one statement a thousand rows, with a line of
 * history for every node. A node on which something hangs is not removed.
 */
export async function storeOutline(
  context: Context,
  { nodes: before, positions, names }: Outline,
  after: readonly MapOutlineNode[],
): Promise<void> {
  const old = new Map(before.map((node) => [node.id, { ...node, position: positions.get(node.id) ?? 0 }]));
  const placed = place(after);
  const kept = new Set(placed.map(({ id }) => id));
  const gone = before.filter(({ id }) => !kept.has(id));
  const added = placed.filter(({ id }) => !old.has(id));
  const changed = placed.filter((node) => {
    const was = old.get(node.id);
    return was !== undefined && JSON.stringify(was) !== JSON.stringify({ ...was, ...node });
  });
  await remove(context, gone);
  await freeCodes(context, changed, old);
  // Parents stand before their children.
  for (const piece of chunk(added)) await context.db.insert(nodes).values(piece.map((node) => toRow(context, node, names)));
  for (const piece of chunk(changed)) await update(context, piece, names);
  await context.record([
    ...added.map((node) => toChange(node, 'added', [])),
    ...changed.flatMap((node) => describeChange(old.get(node.id) ?? node, node, { before, after })),
    ...gone.map((node) => toChange(node, 'removed', [])),
  ]);
}

/** Each node with its place among its siblings. */
function place(outline: readonly MapOutlineNode[]): Placed[] {
  const next = new Map<string | null, number>();
  return outline.map((node) => {
    const position = next.get(node.parentId) ?? 0;
    next.set(node.parentId, position + 1);
    return { ...node, position };
  });
}

async function remove(context: Context, gone: readonly MapOutlineNode[]): Promise<void> {
  if (gone.length === 0) return;
  const ids = gone.map(({ id }) => id as NodeId);
  const hangs = await loadHangs(context, ids);
  const sentence = describeHangs(hangs);
  if (sentence !== null) {
    const what = gone.length === 1 ? (gone[0]?.name ?? '') : `These ${gone.length} nodes`;
    throw new AppError('conflict', `${what} cannot be removed: ${sentence} there. Move that elsewhere, or retire the branch.`, {
      details: { hangs },
    });
  }
  for (const piece of chunk([...ids].reverse())) await context.db.delete(nodes).where(inArray(nodes.id, piece));
}

/** Two nodes may swap codes: those that change are first given codes that nobody has. */
async function freeCodes({ db }: Context, changed: readonly Placed[], old: ReadonlyMap<string, Placed>): Promise<void> {
  const renamed = changed.filter((node) => old.get(node.id)?.code !== node.code).map(({ id }) => id as NodeId);
  if (renamed.length > 1)
    await db
      .update(nodes)
      .set({ code: sql`${nodes.id}::text` })
      .where(inArray(nodes.id, renamed));
}

function findId<Id>(table: NameTable<Id>, word: string, name: string | null): Id | null {
  if (name === null || name === '') return null;
  const id = table.idOf.get(toNameKey(name));
  if (id === undefined) throw new AppError('invalid', `This programme has no ${word} “${name}”.`);
  if (id === null) throw new AppError('invalid', `Two are called “${name}”; the ${word} cannot be told by its name.`);
  return id;
}

function toRow({ actor, now }: Context, node: Placed, names: OutlineNames): typeof nodes.$inferInsert {
  return {
    ...{ id: node.id as NodeId, parentId: node.parentId as NodeId | null, programmeId: actor.programmeId },
    ...{ code: node.code, name: node.name, position: node.position, description: node.description },
    documents: node.documents.map((document) => ({ ...document })),
    ...{ isCritical: node.isCritical, retiredAt: node.isRetired ? now : null },
    teamId: findId(names.teams, 'team', node.team),
    applicationId: findId(names.applications, 'application', node.application),
    ownerId: findId(names.people, 'person', node.owner),
  };
}

async function update(context: Context, changed: readonly Placed[], names: OutlineNames): Promise<void> {
  const rows = changed.map((node) => {
    const { retiredAt, ...row } = toRow(context, node, names);
    return { ...row, isRetired: retiredAt !== null };
  });
  await context.db.execute(sql`
    update nodes set
      parent_id = v."parentId", code = v.code, name = v.name, position = v.position, description = v.description, documents = v.documents,
      is_critical = v."isCritical", team_id = v."teamId", application_id = v."applicationId", owner_id = v."ownerId",
      retired_at = case when v."isRetired" then coalesce(retired_at, ${context.now.toISOString()}::timestamptz) end
    from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb) as v(
      id uuid, "parentId" uuid, code text, name text, position int, description text, documents jsonb,
      "isCritical" boolean, "teamId" uuid, "applicationId" uuid, "ownerId" uuid, "isRetired" boolean)
    where nodes.id = v.id and nodes.programme_id = ${context.actor.programmeId}`);
}

interface FieldDifference {
  readonly field: string;
  readonly before: string;
  readonly after: string;
}

const toChange = ({ id, code, name }: MapOutlineNode, action: string, changes: readonly FieldDifference[]): Change => ({
  ...{ subject: 'node', subjectId: id, action },
  details: { code, name, changes },
});

const FIELDS = ['code', 'name', 'team', 'application', 'owner', 'description'] as const;

/** A node’s line of history: retired, restored, moved or changed; a new place among the same siblings is none. */
function describeChange(
  was: Placed,
  is: Placed,
  maps: { readonly before: readonly MapOutlineNode[]; readonly after: readonly MapOutlineNode[] },
): Change[] {
  const changes: FieldDifference[] = FIELDS.flatMap((field) =>
    was[field] === is[field] ? [] : [{ field, before: was[field] ?? '', after: is[field] ?? '' }],
  );
  if (was.isCritical !== is.isCritical)
    changes.push({ field: 'critical', before: was.isCritical ? 'yes' : 'no', after: is.isCritical ? 'yes' : 'no' });
  if (JSON.stringify(was.documents) !== JSON.stringify(is.documents))
    changes.push({ field: 'documents', before: listTitles(was), after: listTitles(is) });
  const isMoved = was.parentId !== is.parentId;
  if (isMoved) {
    const nameIn = (map: readonly MapOutlineNode[], id: string | null) => map.find((node) => node.id === id)?.name ?? 'the top';
    changes.push({ field: 'place', before: nameIn(maps.before, was.parentId), after: nameIn(maps.after, is.parentId) });
  }
  const isTurned = was.isRetired !== is.isRetired;
  if (changes.length === 0 && !isTurned) return [];
  return [toChange(is, isTurned ? (is.isRetired ? 'retired' : 'restored') : isMoved ? 'moved' : 'changed', changes)];
}

const listTitles = ({ documents }: MapOutlineNode) => documents.map(({ title }) => title).join(', ');
