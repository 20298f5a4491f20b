import { and, asc, desc, eq, isNotNull, ne, sql } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { TestSurroundings } from '@kindred-baton/contracts/tests/test';
import type { TestId } from '@kindred-baton/core/ids';
import { findClones, SHORTEST_CLONE } from '@kindred-baton/core/tests/find-clones';
import { findSharedOpenings } from '@kindred-baton/core/tests/findings/find-shared-openings';
import { toNameKey } from '@kindred-baton/core/values/field';
import type { Query, ReadContext } from '../operation.ts';
import { cycles } from '../schema/cycles.ts';
import { personas } from '../schema/personas.ts';
import type { TestVersionRow } from '../schema/tests.ts';
import { testVersions, tests } from '../schema/tests.ts';
import { turns } from '../schema/turns.ts';
import { loadReachedSteps } from './load-reached-steps.ts';
import { loadWaivers } from './load-waivers.ts';

const MOST_TARGETS = 400;
const MOST_LIKE = 200;

/** What the editor has to know around a test. Eight queries. */
export const getTestSurroundings: Query<{ code: string }, TestSurroundings> = {
  right: 'read',
  read: async (context, { code }) => {
    const { db, actor } = context;
    const [test] = await db
      .select()
      .from(tests)
      .where(and(eq(tests.programmeId, actor.programmeId), eq(tests.code, code)));
    if (!test) throw new AppError('not found', `There is no test ${code} in the library.`);
    const [newest] = await db
      .select()
      .from(testVersions)
      .where(eq(testVersions.testId, test.id))
      .orderBy(desc(testVersions.number))
      .limit(1);
    if (!newest) throw new AppError('broken', `Test ${code} has no version.`);
    const [reached, { needed, fields }, like, waivers, targets, people, pinned] = await Promise.all([
      loadReachedSteps(context, newest.id),
      listFields(context, test.id),
      listAlike(context, test.id, newest),
      loadWaivers(context, test.id),
      listTargets(context, test.applicationId),
      db.select({ name: personas.name }).from(personas).where(eq(personas.programmeId, actor.programmeId)).orderBy(asc(personas.name)),
      listPinned(context, test.id),
    ]);
    const clones = findClones([{ test: code, steps: newest.steps }, ...like.map((row) => ({ test: row.code, steps: row.steps }))]);
    const opening = findSharedOpenings(clones).get(code);
    return {
      reached: reached.get(newest.id) ?? null,
      neededElsewhere: needed.map(toNameKey),
      sharedOpening: opening ? { ...opening, tests: [...opening.tests] } : null,
      waivers: waivers.get(test.id) ?? [],
      targets,
      names: needed,
      fields,
      personas: people.map(({ name }) => name),
      pinned,
    };
  },
};

/** Values of other tests, in their newest versions: the names that they need, and each value as most of them have it. */
async function listFields({ db, actor }: ReadContext, testId: TestId): Promise<{ needed: string[]; fields: TestSurroundings['fields'] }> {
  const { rows } = await db.execute<{ field: TestSurroundings['fields'][number]; needed: number }>(sql`
    select field, count(*) filter (where kind = 'need')::int as needed
    from (select distinct on (test_id) needs, gives from ${testVersions} join ${tests} on ${tests.id} = ${testVersions.testId}
          where ${tests.programmeId} = ${actor.programmeId} and ${tests.id} <> ${testId} order by test_id, number desc) as newest,
      lateral (select 'need' as kind, need as field from jsonb_array_elements(needs) as need
        union all select 'give', give from jsonb_array_elements(gives) as give) as each
    group by field order by count(*) desc, field->>'name' limit 4000`);
  const fields = new Map<string, TestSurroundings['fields'][number]>();
  for (const { field } of rows) if (!fields.has(toNameKey(field.name))) fields.set(toNameKey(field.name), field);
  return {
    needed: [...new Set(rows.flatMap(({ field, needed }) => (needed > 0 ? [field.name] : [])))].sort(),
    fields: [...fields.values()],
  };
}

/** Tests whose first steps are on the same things; whether they are the same is for clone detection to say. */
function listAlike({ db, actor }: ReadContext, testId: TestId, { steps }: TestVersionRow) {
  if (steps.length < SHORTEST_CLONE) return Promise.resolve([]);
  const firstTargets = steps
    .slice(0, SHORTEST_CLONE)
    .map(({ target }, index) => sql`lower(${testVersions.steps}->${sql.raw(String(index))}->>'target') = lower(${target})`);
  return db
    .selectDistinctOn([testVersions.testId], { code: tests.code, steps: testVersions.steps })
    .from(testVersions)
    .innerJoin(tests, eq(tests.id, testVersions.testId))
    .where(and(eq(tests.programmeId, actor.programmeId), ne(tests.id, testId), ne(testVersions.state, 'retired'), ...firstTargets))
    .orderBy(testVersions.testId, desc(testVersions.number))
    .limit(MOST_LIKE);
}

/** The things of an application, those named most often first: what completion offers. */
async function listTargets({ db, actor }: ReadContext, applicationId: string | null): Promise<string[]> {
  const rows = await db.execute<{ target: string }>(sql`
    select step->>'target' as target, count(*) as uses
    from (select distinct on (test_id) steps from ${testVersions} join ${tests} on ${tests.id} = ${testVersions.testId}
          where ${tests.programmeId} = ${actor.programmeId} and ${tests.applicationId} is not distinct from ${applicationId}::uuid
          order by test_id, number desc) as newest,
      jsonb_array_elements(newest.steps) as step
    where step->>'do' <> 'hand'
    group by 1 order by uses desc, target limit ${MOST_TARGETS}`);
  return rows.rows.map(({ target }) => target);
}

async function listPinned({ db }: ReadContext, testId: TestId): Promise<TestSurroundings['pinned']> {
  const rows = await db
    .select({
      cycle: { id: cycles.id, code: cycles.code, name: cycles.name },
      version: testVersions.number,
      turns: sql<number>`count(*)::int`,
      notBegun: sql<number>`(count(*) filter (where ${turns.state} in ('waiting', 'ready') and ${turns.doneAt} is null and ${cycles.state} <> 'closed'))::int`,
    })
    .from(turns)
    .innerJoin(cycles, eq(cycles.id, turns.cycleId))
    .innerJoin(testVersions, eq(testVersions.id, turns.versionId))
    .where(and(eq(turns.testId, testId), isNotNull(turns.versionId), ne(cycles.state, 'planning')))
    .groupBy(cycles.id, cycles.code, cycles.name, cycles.startsOn, testVersions.number)
    .orderBy(desc(cycles.startsOn), asc(testVersions.number));
  return rows;
}
