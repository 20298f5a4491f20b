import { and, eq, inArray } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { TestId } from '@kindred-baton/core/ids';
import type { StoredTest, TestComparison, TestDifference, TestSurroundings } from '@kindred-baton/core/imports/compare-tests';
import { compareTests } from '@kindred-baton/core/imports/compare-tests';
import type { TestEntry } from '@kindred-baton/core/imports/test-table';
import { chunk } from '../chunk.ts';
import { createId } from '../ids.ts';
import { lockMap } from '../map/edit-map.ts';
import { loadTree } from '../map/load-tree.ts';
import type { Context, Operation, Query, ReadContext } from '../operation.ts';
import { applications, teams } from '../schema/programmes.ts';
import { testVersions, tests } from '../schema/tests.ts';
import { createDraft } from '../tests/change-tests.ts';
import type { NewestVersion } from '../tests/load-newest-versions.ts';
import { loadNewestVersions } from '../tests/load-newest-versions.ts';

export interface TestImport {
  readonly entries: readonly TestEntry[];
  /** Where tests go that name no activity. */
  readonly activity: string | null;
}

/** A list of tests against the library. */
export const compareTestImport: Query<TestImport, TestComparison> = {
  right: 'edit tests',
  read: async (context, { entries, activity }) => compareTests(entries, (await loadLibrary(context)).around, { activity }),
};

interface Library {
  readonly around: TestSurroundings;
  readonly known: ReadonlyMap<string, NewestVersion>;
  readonly nodeIds: ReadonlyMap<string, NewestVersion['test']['nodeId']>;
  readonly teamIds: ReadonlyMap<string, NonNullable<NewestVersion['test']['teamId']>>;
  readonly applicationIds: ReadonlyMap<string, NonNullable<NewestVersion['test']['applicationId']>>;
}

/** The library as lists of tests are compared with it, in newest versions. Four queries. */
export async function loadLibrary(context: ReadContext): Promise<Library> {
  const { db, actor } = context;
  const [tree, rows, teamRows, applicationRows] = await Promise.all([
    loadTree(context),
    loadNewestVersions(context, { withRetired: true }),
    db.select({ id: teams.id, name: teams.name }).from(teams).where(eq(teams.programmeId, actor.programmeId)),
    db.select({ id: applications.id, name: applications.name }).from(applications).where(eq(applications.programmeId, actor.programmeId)),
  ]);
  const teamOf = new Map<string | null, string>(teamRows.map(({ id, name }) => [id, name]));
  const applicationOf = new Map<string | null, string>(applicationRows.map(({ id, name }) => [id, name]));
  const toNames = (row: { teamId: string | null; applicationId: string | null }) => ({
    team: teamOf.get(row.teamId) ?? null,
    application: applicationOf.get(row.applicationId) ?? null,
  });
  return {
    around: {
      tests: rows.map(({ test, version: { steps, rows: dataRows, needs, gives } }): StoredTest => {
        const { code, name, priority, tags, minutes } = test;
        const activity = tree.byId.get(test.nodeId)?.node.code ?? '';
        return { code, name, activity, ...toNames(test), priority, tags, minutes, steps, rows: dataRows, needs, gives };
      }),
      nodes: tree.nodes.filter(({ node }) => !node.isRetired).map(({ node }) => ({ code: node.code, name: node.name, ...toNames(node) })),
      teams: teamRows.map(({ name }) => name),
      applications: applicationRows.map(({ name }) => name),
    },
    known: new Map(rows.map((row) => [row.test.code, row])),
    nodeIds: new Map(tree.nodes.map(({ node }) => [node.code, node.id])),
    teamIds: new Map(teamRows.map(({ id, name }) => [name, id])),
    applicationIds: new Map(applicationRows.map(({ id, name }) => [name, id])),
  };
}

interface StoreInput extends TestImport {
  readonly seen: (comparison: TestComparison) => boolean;
  /** New tests come in agreed, by whoever takes them in; else as drafts. */
  readonly agreesNew?: boolean;
}

/** Stores what is new and changed, all or nothing; when others changed it since the preview, nothing. Changed steps begin a new draft. */
export const storeTestImport: Operation<StoreInput, { changed: number }> = {
  right: 'edit tests',
  run: async (context, { seen, entries, activity, agreesNew = false }) => {
    await lockMap(context);
    const library = await loadLibrary(context);
    const comparison = compareTests(entries, library.around, { activity });
    if (!seen(comparison)) throw new AppError('conflict', 'The library has changed since the preview; look at the file again.');
    if (comparison.problems.length > 0) throw new AppError('invalid', 'There is something to mend in the file; nothing was stored.');
    const differing = comparison.differences.filter(({ kind }) => kind !== 'same');
    const ids = await storeTests(context, differing, library);
    await storeDrafts(context, differing, { ...library, ids });
    const agreed = agreesNew ? differing.filter(({ kind }) => kind === 'new') : [];
    await agreeFirstVersions(
      context,
      agreed.flatMap(({ code }) => ids.get(code) ?? []),
    );
    const toChange = ({ code, after }: TestDifference, action: string) => ({
      ...{ subject: 'test' as const, subjectId: ids.get(code) ?? '', action },
      details: { code, name: after.name, by: 'import' },
    });
    await context.record([
      ...differing.map((difference) => toChange(difference, difference.kind === 'new' ? 'added' : 'changed')),
      ...agreed.map((difference) => toChange(difference, 'agreed')),
    ]);
    return { changed: differing.length };
  },
};

async function agreeFirstVersions({ db, actor, now }: Context, ids: readonly TestId[]): Promise<void> {
  for (const piece of chunk(ids))
    await db
      .update(testVersions)
      .set({ state: 'agreed', agreedAt: now, agreedBy: actor.personId })
      .where(and(inArray(testVersions.testId, piece), eq(testVersions.state, 'draft')));
}

async function storeTests(
  { db, actor }: Context,
  differing: readonly TestDifference[],
  { known, nodeIds, teamIds, applicationIds }: Library,
): Promise<Map<string, TestId>> {
  const ids = new Map<string, TestId>();
  const fresh = [];
  for (const { code, after } of differing) {
    const before = known.get(code)?.test;
    const id = before?.id ?? createId<'test'>();
    ids.set(code, id);
    const nodeId = nodeIds.get(after.activity);
    if (!nodeId) throw new AppError('conflict', `There is no node ${after.activity} on the map any more.`);
    const set = {
      ...{ name: after.name, nodeId, priority: after.priority, tags: [...after.tags], minutes: after.minutes },
      teamId: after.team === null ? null : (teamIds.get(after.team) ?? null),
      applicationId: after.application === null ? null : (applicationIds.get(after.application) ?? null),
    };
    if (before) await db.update(tests).set(set).where(eq(tests.id, id));
    else fresh.push({ id, code, programmeId: actor.programmeId, ...set });
  }
  for (const piece of chunk(fresh)) await db.insert(tests).values(piece);
  return ids;
}

/** New content is the draft: the one that is there, or the next version. */
async function storeDrafts(
  context: Context,
  differing: readonly TestDifference[],
  { known, ids }: Pick<Library, 'known'> & { ids: ReadonlyMap<string, TestId> },
): Promise<void> {
  const drafts = [];
  const replaced = [];
  for (const { code, after, hasNewContent } of differing) {
    const id = ids.get(code);
    if (!hasNewContent || !id) continue;
    const before = known.get(code)?.version;
    const rows = after.rows.map((row) => ({ ...row, values: { ...row.values } }));
    const content = { steps: [...after.steps], needs: [...after.needs], gives: [...after.gives], rows };
    if (before?.state === 'draft') replaced.push(before.id);
    const number = before === undefined ? 1 : before.state === 'draft' ? before.number : before.number + 1;
    const revision = before?.state === 'draft' ? before.revision + 1 : 1;
    drafts.push({ ...createDraft(context, id, number, content), revision });
  }
  for (const piece of chunk(replaced)) await context.db.delete(testVersions).where(inArray(testVersions.id, piece));
  for (const piece of chunk(drafts)) await context.db.insert(testVersions).values(piece);
}
