import { and, desc, eq } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { CycleScope } from '@kindred-baton/contracts/cycles/cycle';
import type { ScenarioId } from '@kindred-baton/core/ids';
import type { ScenarioDocument } from '@kindred-baton/core/scenarios/scenario-document';
import { createLeg, EMPTY_DOCUMENT } from '@kindred-baton/core/scenarios/scenario-document';
import { toNameKey } from '@kindred-baton/core/values/field';
import { createId } from '../ids.ts';
import type { Context, Operation } from '../operation.ts';
import { storeDocument, toDocument } from '../scenarios/document.ts';
import { loadChains } from '../scenarios/load-chains.ts';
import { scenarios } from '../schema/scenarios.ts';
import type { TestRow, TestVersionRow } from '../schema/tests.ts';
import { testVersions, tests } from '../schema/tests.ts';
import { loadServed, toScopeScenario } from './get-cycle-scope.ts';

/**
 * Lets cycles take a test in by itself: a scenario of one leg that is nothing but the test, in its newest agreed version, with the test's own data
 * rows. It is made when the test is first chosen, follows the test each time it is chosen again, and runs that were made of it stay as they are.
 */
export const chooseSingleTest: Operation<string, CycleScope['scenarios'][number]> = {
  right: 'run cycles',
  run: async (context, code) => {
    const { test, version } = await loadTest(context, code);
    const id = await findOrMake(context, test);
    const { scenarios: before } = await loadChains(context, [id]);
    const was = before[0] ? toDocument(before[0]) : EMPTY_DOCUMENT;
    await storeDocument(context, id, { before: was, after: toSingle(was, code, version) });
    const [{ tree, scenarios: loaded }, served] = [await loadChains(context, [id]), await loadServed(context)];
    const [made] = loaded;
    if (!made) throw new AppError('not found', `There is no test ${code}.`);
    return toScopeScenario(made, tree, served);
  },
};

async function loadTest({ db, actor }: Context, code: string): Promise<{ test: TestRow; version: TestVersionRow }> {
  const [found] = await db
    .select({ test: tests, version: testVersions })
    .from(tests)
    .innerJoin(testVersions, and(eq(testVersions.testId, tests.id), eq(testVersions.state, 'agreed')))
    .where(and(eq(tests.programmeId, actor.programmeId), eq(tests.code, code)))
    .orderBy(desc(testVersions.number))
    .limit(1);
  if (!found) throw new AppError('invalid', `Test ${code} has no agreed version; a cycle takes single tests in as they were agreed.`);
  const { needs, rows } = found.version;
  const missing = needs.filter(
    ({ name, required }) =>
      required !== false &&
      !rows.some(({ values }) => Object.entries(values).some(([key, value]) => toNameKey(key) === toNameKey(name) && value !== '')),
  );
  if (missing.length > 0)
    throw new AppError(
      'invalid',
      `${code} needs ${missing.map(({ name }) => name).join(', ')}, and no data row of its own gives ${missing.length === 1 ? 'it' : 'them'}. Add a row to the test, or take a scenario in that makes ${missing.length === 1 ? 'it' : 'them'}.`,
    );
  return found;
}

async function findOrMake({ db, actor, record }: Context, test: TestRow): Promise<ScenarioId> {
  const { id: testId, code, name, nodeId, priority } = test;
  const [known] = await db.select().from(scenarios).where(eq(scenarios.onlyTestId, testId)).for('update');
  const head = { name, nodeId, priority, state: 'agreed' as const };
  if (known) {
    await db.update(scenarios).set(head).where(eq(scenarios.id, known.id));
    return known.id;
  }
  const [taken] = await db
    .select({ id: scenarios.id })
    .from(scenarios)
    .where(and(eq(scenarios.programmeId, actor.programmeId), eq(scenarios.code, code)));
  const id = createId<'scenario'>();
  await db
    .insert(scenarios)
    .values({ id, programmeId: actor.programmeId, code: taken ? `${code}.alone` : code, ...head, onlyTestId: testId });
  await record({ subject: 'scenario', subjectId: id, action: 'added', details: { code, name, by: 'single test' } });
  return id;
}

/** One leg, the test's needs as columns, and its rows, known again by their names. */
function toSingle(was: ScenarioDocument, test: string, { needs, rows }: TestVersionRow): ScenarioDocument {
  const idOf = new Map(was.rows.map(({ id, name }) => [toNameKey(name), id]));
  const [leg] = was.legs;
  return {
    legs: [leg ? { ...leg, version: null } : createLeg({ id: createId<'leg'>(), test })],
    columns: [...needs],
    rows: rows.map(({ name, values }) => ({ id: idOf.get(toNameKey(name)) ?? createId<'scenarioRow'>(), name, values })),
    classes: null,
  };
}
