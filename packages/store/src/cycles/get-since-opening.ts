import { and, asc, desc, eq, gt, sql } from 'drizzle-orm';
import type { SinceOpening } from '@kindred-baton/contracts/cycles/cycle';
import type { Query, ReadContext } from '../operation.ts';
import type { CycleRow } from '../schema/cycles.ts';
import { runs } from '../schema/cycles.ts';
import { history } from '../schema/history.ts';
import { people } from '../schema/people.ts';
import { scenarios } from '../schema/scenarios.ts';
import { testVersions, tests } from '../schema/tests.ts';
import { isTurnInScope } from '../runs/in-scope.ts';
import { turns } from '../schema/turns.ts';
import { requireCycle } from './require-cycle.ts';

/** Tests with a newer agreed version than a turn is pinned to, and scenarios edited since; with how much has not begun. Two queries more. */
export const getSinceOpening: Query<string, SinceOpening> = {
  right: 'read',
  read: async (context, code) => {
    const cycle = await requireCycle(context, code);
    if (cycle.openedAt === null) return { tests: [], scenarios: [] };
    const [testRows, scenarioRows] = await Promise.all([listNewerTests(context, cycle), listEdited(context, cycle, cycle.openedAt)]);
    return { tests: testRows, scenarios: scenarioRows };
  },
};

const isNotBegun = sql`${turns.state} in ('waiting', 'ready') and ${turns.doneAt} is null`;

async function listNewerTests({ db }: ReadContext, cycle: CycleRow): Promise<SinceOpening['tests']> {
  const newest = db
    .select({ testId: testVersions.testId, number: sql<number>`max(${testVersions.number})`.mapWith(Number).as('newest') })
    .from(testVersions)
    .where(eq(testVersions.state, 'agreed'))
    .groupBy(testVersions.testId)
    .as('newest_versions');
  return db
    .select({
      ...{ test: tests.code, name: tests.name, newest: newest.number },
      pinned: sql<number[]>`array_agg(distinct ${testVersions.number})`,
      notBegun: sql<number>`count(*) filter (where ${isNotBegun})`.mapWith(Number),
      begun: sql<number>`count(*) filter (where not (${isNotBegun}))`.mapWith(Number),
    })
    .from(turns)
    .innerJoin(tests, eq(tests.id, turns.testId))
    .innerJoin(testVersions, eq(testVersions.id, turns.versionId))
    .innerJoin(newest, and(eq(newest.testId, tests.id), gt(newest.number, testVersions.number)))
    .where(and(eq(turns.cycleId, cycle.id), isTurnInScope))
    .groupBy(tests.id, newest.number)
    .orderBy(asc(tests.code));
}

async function listEdited({ db }: ReadContext, cycle: CycleRow, since: Date): Promise<SinceOpening['scenarios']> {
  const edited = db
    .selectDistinctOn([history.subjectId], { subjectId: history.subjectId, at: history.at, by: people.name })
    .from(history)
    .leftJoin(people, eq(people.id, history.personId))
    .where(and(eq(history.programmeId, cycle.programmeId), eq(history.subject, 'scenario'), gt(history.at, since)))
    .orderBy(history.subjectId, desc(history.id))
    .as('edited');
  const isBegun = sql`exists (select from turns as own join attempts on attempts.turn_id = own.id where own.run_id = ${runs.id})`;
  const rows = await db
    .select({
      ...{ scenario: scenarios.code, name: scenarios.name, at: edited.at, by: edited.by },
      notBegun: sql<number>`count(*) filter (where not ${isBegun} and ${runs.leftTo} is null)`.mapWith(Number),
      begun: sql<number>`count(*) filter (where ${isBegun})`.mapWith(Number),
    })
    .from(runs)
    .innerJoin(scenarios, eq(scenarios.id, runs.scenarioId))
    .innerJoin(edited, eq(edited.subjectId, scenarios.id))
    .where(eq(runs.cycleId, cycle.id))
    .groupBy(scenarios.id, edited.at, edited.by)
    .orderBy(asc(scenarios.code));
  return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
}
