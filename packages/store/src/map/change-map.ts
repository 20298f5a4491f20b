import { and, eq, isNull, max } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { AddNode, ChangeNode } from '@kindred-baton/contracts/map/node';
import { createId } from '../ids.ts';
import type { Operation } from '../operation.ts';
import { requireOwn } from '../programmes/require-own.ts';
import { nodes } from '../schema/map.ts';
import { programmes } from '../schema/programmes.ts';
import { getPath, loadTree } from './load-tree.ts';

/** Adds a node below another, at the end; a new node takes its parent's team and application. */
export const addNode: Operation<AddNode, { code: string }> = {
  right: 'edit map',
  run: async (context, { parent, code, name }) => {
    const { db, actor } = context;
    const tree = await loadTree(context);
    const above = parent === null ? undefined : tree.byCode.get(parent);
    if (parent !== null && !above) throw new AppError('not found', `There is no node ${parent} on the map.`);
    const [programme] = await db.select({ levels: programmes.levels }).from(programmes).where(eq(programmes.id, actor.programmeId));
    const levels = programme?.levels ?? [];
    if (above && getPath(tree, above.node.id).length >= levels.length) {
      throw new AppError('invalid', `${above.node.name} is on the lowest level (${levels.at(-1)}); nothing goes below it.`);
    }
    const [last] = await db
      .select({ position: max(nodes.position) })
      .from(nodes)
      .where(and(eq(nodes.programmeId, actor.programmeId), above ? eq(nodes.parentId, above.node.id) : isNull(nodes.parentId)));
    const id = createId<'node'>();
    await db.insert(nodes).values({
      id,
      programmeId: actor.programmeId,
      parentId: above?.node.id ?? null,
      code,
      name,
      position: (last?.position ?? -1) + 1,
      teamId: above?.node.teamId ?? null,
      applicationId: above?.node.applicationId ?? null,
    });
    await context.record({ subject: 'node', subjectId: id, action: 'added', details: { code, name, parent } });
    context.announce('map');
    return { code };
  },
};

export const changeNode: Operation<{ code: string; change: ChangeNode }, void> = {
  right: 'edit map',
  run: async (context, { code, change }) => {
    const { db, actor } = context;
    const [before] = await db
      .select()
      .from(nodes)
      .where(and(eq(nodes.programmeId, actor.programmeId), eq(nodes.code, code)))
      .for('update');
    if (!before) throw new AppError('not found', `There is no node ${code} on the map.`);
    if (Object.keys(change).length === 0) return;
    await requireOwn(context, change);
    await db.update(nodes).set(change).where(eq(nodes.id, before.id));
    await context.record({ subject: 'node', subjectId: before.id, action: 'changed', details: change });
    context.announce('map');
  },
};
