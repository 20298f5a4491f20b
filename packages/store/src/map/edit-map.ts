import { eq, inArray } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { MapEditInput } from '@kindred-baton/contracts/map/node';
import { checkCodeScheme } from '@kindred-baton/core/map/code-scheme';
import type { MapEdit } from '@kindred-baton/core/map/edit-outline';
import { editOutline } from '@kindred-baton/core/map/edit-outline';
import type { NodeId } from '@kindred-baton/core/ids';
import { createId } from '../ids.ts';
import type { Context, Operation } from '../operation.ts';
import { programmes } from '../schema/programmes.ts';
import { requirementNodes } from '../schema/requirements.ts';
import { scenarios } from '../schema/scenarios.ts';
import { tests } from '../schema/tests.ts';
import type { MapOutlineNode, Outline } from './load-outline.ts';
import { loadOutline } from './load-outline.ts';
import { listSubtree, loadTree } from './load-tree.ts';
import { storeOutline } from './store-outline.ts';
import { toDifference } from '../to-difference.ts';

/** One editor at a time: the programme’s row is the lock. */
export async function lockMap({ db, actor }: Context): Promise<void> {
  await db.select({ id: programmes.id }).from(programmes).where(eq(programmes.id, actor.programmeId)).for('update');
}

/** A new node takes its parent’s team and application. */
function createNode({ code, name }: { code: string; name: string }, parent: MapOutlineNode | null): MapOutlineNode {
  return {
    ...{ id: createId<'node'>(), parentId: null, code, name, description: '', documents: [] },
    ...{ owner: null, isCritical: false, isRetired: false, team: parent?.team ?? null, application: parent?.application ?? null },
  };
}

/** Makes edits of the map and gives what undoes them. */
export async function applyEdits(
  context: Context,
  outline: Outline,
  edits: readonly MapEdit<MapOutlineNode>[],
): Promise<MapEdit<MapOutlineNode>[]> {
  const edited = editOutline(outline.nodes, edits, { levels: outline.levels, create: createNode });
  if (!edited.ok) {
    const isTaken = /is taken/.test(edited.message);
    throw new AppError(isTaken ? 'conflict' : 'invalid', edited.message, { details: { edit: edited.edit } });
  }
  await storeOutline(context, outline, edited.nodes);
  return edited.undo;
}

/** Adds, changes, moves and removes nodes: all of it or nothing. Gives the edits that undo it. */
export const editMap: Operation<{ edits: readonly MapEditInput[] }, { undo: MapEditInput[] }> = {
  right: 'edit map',
  run: async (context, { edits }) => {
    await lockMap(context);
    const undo = await applyEdits(context, await loadOutline(context), edits as readonly MapEdit<MapOutlineNode>[]);
    // The outline’s own edits, with what is read-only in core made plain for the wire.
    return { undo: JSON.parse(JSON.stringify(undo)) as MapEditInput[] };
  },
};

/** Moves the tests, scenarios and requirements of branches to another node, so that the branches can be removed. */
export const moveHangs: Operation<{ codes: readonly string[]; to: string }, { moved: number }> = {
  right: 'edit map',
  run: async (context, { codes, to }) => {
    const { db } = context;
    await lockMap(context);
    const tree = await loadTree(context);
    const target = tree.byCode.get(to);
    if (!target) throw new AppError('not found', `There is no node ${to} on the map.`);
    const from = [...new Set(codes.flatMap((code) => listSubtree(tree, code)))];
    if (from.includes(target.node.id))
      throw new AppError('invalid', `${target.node.name} is itself to be removed; choose a node elsewhere.`);
    const movedTests = await db
      .update(tests)
      .set({ nodeId: target.node.id })
      .where(inArray(tests.nodeId, from))
      .returning({ id: tests.id });
    const movedScenarios = await db
      .update(scenarios)
      .set({ nodeId: target.node.id })
      .where(inArray(scenarios.nodeId, from))
      .returning({ id: scenarios.id });
    const movedLinks = await moveRequirementLinks(context, from, target.node.id);
    const moved = movedTests.length + movedScenarios.length + movedLinks;
    await context.record({
      subject: 'node',
      subjectId: target.node.id,
      action: 'took over',
      details: { code: to, name: target.node.name, from: [...codes], moved },
    });
    return { moved };
  },
};

async function moveRequirementLinks({ db }: Context, from: readonly NodeId[], to: NodeId): Promise<number> {
  const links = await db
    .delete(requirementNodes)
    .where(inArray(requirementNodes.nodeId, [...from]))
    .returning({ requirementId: requirementNodes.requirementId });
  const ids = [...new Set(links.map(({ requirementId }) => requirementId))];
  if (ids.length > 0)
    await db
      .insert(requirementNodes)
      .values(ids.map((requirementId) => ({ requirementId, nodeId: to })))
      .onConflictDoNothing();
  return ids.length;
}

/** The programme’s own level names and how it numbers its nodes. Fewer levels than the map uses are refused. */
export const changeLevels: Operation<{ levels: readonly string[]; codeScheme: readonly string[] }, void> = {
  right: 'edit map',
  run: async (context, { levels, codeScheme }) => {
    const { db, actor } = context;
    await lockMap(context);
    const wrong = checkCodeScheme(codeScheme);
    if (wrong !== null) throw new AppError('invalid', wrong);
    const tree = await loadTree(context);
    const deepest = tree.nodes.reduce((depth, entry) => Math.max(depth, entry.depth + 1), 0);
    if (levels.length < deepest) {
      throw new AppError('invalid', `The map uses ${deepest} levels; move what is on the lowest before you take one away.`);
    }
    const [own] = await db.select().from(programmes).where(eq(programmes.id, actor.programmeId));
    await db
      .update(programmes)
      .set({ levels: [...levels], codeScheme: [...codeScheme] })
      .where(eq(programmes.id, actor.programmeId));
    const details = toDifference(own ?? {}, { levels, codeScheme });
    await context.record({ subject: 'programme', subjectId: actor.programmeId, action: 'levels changed', details });
  },
};
