import { and, asc, desc, eq, isNotNull } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { TestDetail, TestVersionView } from '@kindred-baton/contracts/tests/test';
import type { TestId } from '@kindred-baton/core/ids';
import { getPath, loadTree } from '../map/load-tree.ts';
import type { Query, ReadContext } from '../operation.ts';
import { people } from '../schema/people.ts';
import { applications, teams } from '../schema/programmes.ts';
import { legs, scenarios } from '../schema/scenarios.ts';
import type { TestVersionRow } from '../schema/tests.ts';
import { testVersions, tests } from '../schema/tests.ts';
import { attempts, turns } from '../schema/turns.ts';

/** One test in one of its versions; without a number, the newest. */
export const getTest: Query<{ code: string; number?: number | undefined }, TestDetail> = {
  right: 'read',
  read: async (context, { code, number }) => {
    const head = await loadHead(context, code);
    const [tree, versions, usedIn, tries] = await Promise.all([
      loadTree(context),
      listVersions(context, head.test.id),
      listUses(context, head.test.id),
      listAttempts(context, head.test.id),
    ]);
    const chosen = number === undefined ? versions[0] : versions.find(({ version }) => version.number === number);
    if (!chosen) throw new AppError('not found', `Test ${code} has no version ${number}.`);
    const { id, name, priority, minutes, nodeId, runBy, tags } = head.test;
    return {
      ...{ id, code, name, priority, minutes, runBy, tags },
      team: head.team,
      application: head.application,
      path: getPath(tree, nodeId).map(({ node }) => ({ code: node.code, name: node.name })),
      versions: versions.map(({ version }) => ({ number: version.number, state: version.state })),
      version: toVersionView(chosen.version, chosen.savedBy),
      usedIn,
      attempts: tries,
    };
  },
};

async function loadHead({ db, actor }: ReadContext, code: string) {
  const [head] = await db
    .select({ test: tests, team: { id: teams.id, name: teams.name }, application: { id: applications.id, name: applications.name } })
    .from(tests)
    .leftJoin(teams, eq(teams.id, tests.teamId))
    .leftJoin(applications, eq(applications.id, tests.applicationId))
    .where(and(eq(tests.programmeId, actor.programmeId), eq(tests.code, code)));
  if (!head) throw new AppError('not found', `There is no test ${code} in the library.`);
  return head;
}

function listVersions({ db }: ReadContext, testId: TestId) {
  return db
    .select({ version: testVersions, savedBy: people.name })
    .from(testVersions)
    .leftJoin(people, eq(people.id, testVersions.savedBy))
    .where(eq(testVersions.testId, testId))
    .orderBy(desc(testVersions.number));
}

function listUses({ db }: ReadContext, testId: TestId) {
  return db
    .selectDistinct({ id: scenarios.id, code: scenarios.code, name: scenarios.name })
    .from(legs)
    .innerJoin(scenarios, eq(scenarios.id, legs.scenarioId))
    .where(eq(legs.testId, testId))
    .orderBy(asc(scenarios.code));
}

async function listAttempts({ db }: ReadContext, testId: TestId) {
  const rows = await db
    .select({ outcome: attempts.outcome, at: attempts.finishedAt, by: people.name, turnId: turns.id })
    .from(turns)
    .innerJoin(attempts, and(eq(attempts.turnId, turns.id), isNotNull(attempts.finishedAt)))
    .innerJoin(people, eq(people.id, attempts.personId))
    .where(eq(turns.testId, testId))
    .orderBy(desc(attempts.finishedAt))
    .limit(10);
  return rows.flatMap(({ outcome, at, ...row }) => (outcome && at ? [{ ...row, outcome, at: at.toISOString() }] : []));
}

export function toVersionView(version: TestVersionRow, savedBy: string | null): TestVersionView {
  const { number, state, revision, steps, needs, gives, rows } = version;
  const copy = <T extends object>(items: readonly T[]) => items.map((item) => ({ ...item }));
  return {
    ...{ number, state, revision, savedBy, rows: copy(rows).map((row) => ({ ...row, values: { ...row.values } })) },
    steps: copy(steps),
    needs: copy(needs).map(toMutableField),
    gives: copy(gives).map(toMutableField),
    savedAt: version.savedAt.toISOString(),
  };
}

const toMutableField = (field: TestVersionRow['needs'][number]) => ({ ...field, choices: field.choices ? [...field.choices] : undefined });
