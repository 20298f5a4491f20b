import { eq, inArray } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { RequirementId } from '@kindred-baton/core/ids';
import type { RequirementComparison } from '@kindred-baton/core/imports/compare-requirements';
import { compareRequirements } from '@kindred-baton/core/imports/compare-requirements';
import type { RequirementEntry } from '@kindred-baton/core/imports/requirement-table';
import { chunk } from '../chunk.ts';
import { createId } from '../ids.ts';
import { lockMap } from '../map/edit-map.ts';
import { loadTree } from '../map/load-tree.ts';
import type { Context, Operation, Query, ReadContext } from '../operation.ts';
import { storeLinks } from '../requirements/change-requirements.ts';
import { listRequirements } from '../requirements/list-requirements.ts';
import { requirements } from '../schema/requirements.ts';
import { tests } from '../schema/tests.ts';
import { toExcluded } from '../to-excluded.ts';

/** A list of requirements against those that are there. */
export const compareRequirementImport: Query<readonly RequirementEntry[], RequirementComparison> = {
  right: 'edit map',
  read: (context, entries) => compare(context, entries),
};

async function compare(context: ReadContext, entries: readonly RequirementEntry[]): Promise<RequirementComparison> {
  const [tree, known, testRows] = await Promise.all([
    loadTree(context),
    listRequirements.read(context, {}),
    context.db.select({ code: tests.code }).from(tests).where(eq(tests.programmeId, context.actor.programmeId)),
  ]);
  return compareRequirements(entries, {
    requirements: known.requirements.map((each) => ({
      ...each,
      nodes: each.nodes.map(({ code }) => code),
      tests: each.tests.map(({ code }) => code),
    })),
    nodes: tree.nodes.map(({ node }) => node.code),
    tests: testRows.map(({ code }) => code),
  });
}

/** Stores what is new and changed, all or nothing; when others changed it since the preview, nothing. */
export const storeRequirementImport: Operation<
  { readonly entries: readonly RequirementEntry[]; readonly seen: (comparison: RequirementComparison) => boolean },
  { changed: number }
> = {
  right: 'edit map',
  run: async (context, { entries, seen }) => {
    await lockMap(context);
    const comparison = await compare(context, entries);
    if (!seen(comparison)) throw new AppError('conflict', 'The requirements have changed since the preview; look at the file again.');
    if (comparison.problems.length > 0) throw new AppError('invalid', 'There is something to mend in the file; nothing was stored.');
    const differing = comparison.differences.filter(({ kind }) => kind !== 'same');
    await storeDiffering(context, differing);
    return { changed: differing.length };
  },
};

async function storeDiffering(context: Context, differing: RequirementComparison['differences']): Promise<void> {
  if (differing.length === 0) return;
  const { db, actor } = context;
  const codes = differing.map(({ code }) => code);
  const known = new Map<string, RequirementId>();
  for (const piece of chunk(codes)) {
    const rows = await db
      .select({ id: requirements.id, code: requirements.code, programmeId: requirements.programmeId })
      .from(requirements)
      .where(inArray(requirements.code, piece));
    for (const row of rows) if (row.programmeId === actor.programmeId) known.set(row.code, row.id);
  }
  const rows = differing.map(({ after: { code, title, description, kind, priority } }) => ({
    ...{ id: known.get(code) ?? createId<'requirement'>(), programmeId: actor.programmeId },
    ...{ code, title, description, kind, priority },
  }));
  for (const piece of chunk(rows)) {
    await db
      .insert(requirements)
      .values(piece)
      .onConflictDoUpdate({ target: requirements.id, set: toExcluded(['title', 'description', 'kind', 'priority']) });
  }
  await storeLinks(
    context,
    differing.map(({ after }, index) => ({ id: rows[index]?.id ?? createId<'requirement'>(), nodes: after.nodes, tests: after.tests })),
  );
  await context.record(
    differing.map(({ kind, code, after, changes }, index) => ({
      ...{ subject: 'requirement' as const, subjectId: rows[index]?.id ?? '', action: kind === 'new' ? 'added' : 'changed' },
      details: {
        ...{ code, title: after.title, by: 'import' },
        before: Object.fromEntries(changes.map(({ field, before }) => [field, before])),
        after: Object.fromEntries(changes.map(({ field, after: now }) => [field, now])),
      },
    })),
  );
}
