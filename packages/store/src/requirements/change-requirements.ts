import { and, eq, inArray } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { SaveRequirement } from '@kindred-baton/contracts/requirements/requirement';
import type { NodeId, RequirementId, TestId } from '@kindred-baton/core/ids';
import { chunk } from '../chunk.ts';
import { createId } from '../ids.ts';
import type { Context, Operation } from '../operation.ts';
import { nodes } from '../schema/map.ts';
import { requirementNodes, requirementTests, requirements } from '../schema/requirements.ts';
import { tests } from '../schema/tests.ts';

/** Adds a requirement, or changes the one of that code, with its links to nodes and tests. */
export const saveRequirement: Operation<{ code: string | null; save: SaveRequirement }, { code: string }> = {
  right: 'edit map',
  run: async (context, { code, save }) => {
    const before = code === null ? null : await requireRequirement(context, code);
    const id = before?.id ?? createId<'requirement'>();
    const row = { code: save.code, title: save.title, description: save.description, kind: save.kind, priority: save.priority };
    if (before) await context.db.update(requirements).set(row).where(eq(requirements.id, id));
    else await context.db.insert(requirements).values({ id, programmeId: context.actor.programmeId, ...row });
    await storeLinks(context, [{ id, nodes: save.nodes, tests: save.tests }]);
    await context.record({ subject: 'requirement', subjectId: id, action: before ? 'changed' : 'added', details: { ...row } });
    return { code: save.code };
  },
};

export const removeRequirement: Operation<{ code: string }, void> = {
  right: 'edit map',
  run: async (context, { code }) => {
    const { id, title } = await requireRequirement(context, code);
    await context.db.delete(requirements).where(eq(requirements.id, id));
    await context.record({ subject: 'requirement', subjectId: id, action: 'removed', details: { code, title } });
  },
};

/** Says that a test serves a requirement, or no longer does. */
export const linkTest: Operation<{ requirement: string; test: string; isLinked: boolean }, void> = {
  right: 'edit map',
  run: async (context, { requirement, test: testCode, isLinked }) => {
    const { db } = context;
    const { id } = await requireRequirement(context, requirement);
    const testId = (await findTests(context, [testCode])).get(testCode);
    if (!testId) throw new AppError('not found', `There is no test ${testCode} in the library.`);
    if (isLinked) await db.insert(requirementTests).values({ requirementId: id, testId }).onConflictDoNothing();
    else await db.delete(requirementTests).where(and(eq(requirementTests.requirementId, id), eq(requirementTests.testId, testId)));
    await context.record({
      subject: 'requirement',
      subjectId: id,
      action: isLinked ? 'linked' : 'unlinked',
      details: { code: requirement, test: testCode },
    });
  },
};

async function requireRequirement({ db, actor }: Context, code: string) {
  const [row] = await db
    .select()
    .from(requirements)
    .where(and(eq(requirements.programmeId, actor.programmeId), eq(requirements.code, code)))
    .for('update');
  if (!row) throw new AppError('not found', `There is no requirement ${code}.`);
  return row;
}

export interface RequirementLinks {
  readonly id: RequirementId;
  readonly nodes: readonly string[];
  readonly tests: readonly string[];
}

/** Replaces the links of requirements by those named; an unknown code is refused. */
export async function storeLinks(context: Context, links: readonly RequirementLinks[]): Promise<void> {
  const { db } = context;
  const [nodeIds, testIds] = await Promise.all([
    findNodes(
      context,
      links.flatMap((link) => link.nodes),
    ),
    findTests(
      context,
      links.flatMap((link) => link.tests),
    ),
  ]);
  const ids = links.map(({ id }) => id);
  if (ids.length === 0) return;
  await db.delete(requirementNodes).where(inArray(requirementNodes.requirementId, ids));
  await db.delete(requirementTests).where(inArray(requirementTests.requirementId, ids));
  const atNodes = links.flatMap(({ id, nodes: codes }) =>
    [...new Set(codes)].map((code) => ({ requirementId: id, nodeId: need(nodeIds, code, `There is no node ${code} on the map.`) })),
  );
  const atTests = links.flatMap(({ id, tests: codes }) =>
    [...new Set(codes)].map((code) => ({ requirementId: id, testId: need(testIds, code, `There is no test ${code} in the library.`) })),
  );
  for (const piece of chunk(atNodes)) await db.insert(requirementNodes).values(piece);
  for (const piece of chunk(atTests)) await db.insert(requirementTests).values(piece);
}

function need<Value>(map: ReadonlyMap<string, Value>, code: string, message: string): Value {
  const value = map.get(code);
  if (value === undefined) throw new AppError('invalid', message);
  return value;
}

async function findNodes({ db, actor }: Context, codes: readonly string[]): Promise<Map<string, NodeId>> {
  if (codes.length === 0) return new Map();
  const rows = await db
    .select({ id: nodes.id, code: nodes.code })
    .from(nodes)
    .where(and(eq(nodes.programmeId, actor.programmeId), inArray(nodes.code, [...new Set(codes)])));
  return new Map(rows.map(({ id, code }) => [code, id]));
}

async function findTests({ db, actor }: Context, codes: readonly string[]): Promise<Map<string, TestId>> {
  if (codes.length === 0) return new Map();
  const rows = await db
    .select({ id: tests.id, code: tests.code })
    .from(tests)
    .where(and(eq(tests.programmeId, actor.programmeId), inArray(tests.code, [...new Set(codes)])));
  return new Map(rows.map(({ id, code }) => [code, id]));
}
