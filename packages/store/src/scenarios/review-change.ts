import { and, desc, eq } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { ChangeReviewView } from '@kindred-baton/contracts/scenarios/reuse';
import type { ScenarioId } from '@kindred-baton/core/ids';
import type { TestInterface } from '@kindred-baton/core/scenarios/review-change';
import { compareInterfaces, reviewChange } from '@kindred-baton/core/scenarios/review-change';
import type { ScenarioEdit } from '@kindred-baton/core/scenarios/edit-scenario';
import { editScenario as editDocument } from '@kindred-baton/core/scenarios/edit-scenario';
import type { Context, Operation, Query, ReadContext } from '../operation.ts';
import { isDrawn, legs, scenarios } from '../schema/scenarios.ts';
import type { TestRow, TestVersionRow } from '../schema/tests.ts';
import { testVersions, tests } from '../schema/tests.ts';
import { storeDocument } from './document.ts';
import { keepState, lockScenario } from './edit-scenario.ts';
import type { LoadedLeg, LoadedScenario } from './load-chains.ts';
import { loadChains } from './load-chains.ts';

interface ReviewInput {
  readonly test: string;
  readonly by?: string | undefined;
}

/** For every scenario that uses a test: would its newest version still fit, or another test in its place? */
export const getChangeReview: Query<ReviewInput, ChangeReviewView> = {
  right: 'read',
  read: async (context, { test: code, by }) => {
    const test = await findTest(context, code);
    const comes = by === undefined ? test : await findTest(context, by);
    const version = await findNewest(context, comes);
    const users = await context.db
      .selectDistinct({ id: legs.scenarioId })
      .from(legs)
      .innerJoin(scenarios, eq(scenarios.id, legs.scenarioId))
      .where(and(eq(legs.testId, test.id), eq(scenarios.programmeId, context.actor.programmeId), isDrawn));
    const ids: ScenarioId[] = users.map(({ id }) => id);
    const loaded = ids.length === 0 ? [] : (await loadChains(context, ids)).scenarios;
    const after = version && toInterface(version);
    const first = loaded.flatMap((scenario) => usersOf(scenario, code)).at(0);
    return {
      test: { code, name: test.name },
      by: version && { code: comes.code, name: comes.name, version: version.number, state: version.state },
      differences: after && first?.version ? compareInterfaces(toInterface(first.version), after) : [],
      scenarios: loaded.flatMap((scenario) =>
        version && after ? [toLine(scenario, code, { isSwap: by !== undefined, version, after })] : [],
      ),
    };
  },
};

const usersOf = ({ legs: own }: LoadedScenario, code: string): LoadedLeg[] => own.filter(({ test }) => test?.code === code);

function toLine(
  scenario: LoadedScenario,
  code: string,
  { isSwap, version, after }: { readonly isSwap: boolean; readonly version: TestVersionRow; readonly after: TestInterface },
): ChangeReviewView['scenarios'][number] {
  const users = usersOf(scenario, code);
  const changes = users.map(({ row }) => row.id);
  const review = reviewChange({ legs: scenario.chain.legs.map(({ leg }) => leg), columns: scenario.scenario.columns, changes }, after);
  return {
    ...{ code: scenario.scenario.code, name: scenario.scenario.name, state: scenario.scenario.state },
    legs: scenario.legs.flatMap(({ test }, index) => (test?.code === code ? [index + 1] : [])),
    version: Math.min(...users.map((leg) => leg.version?.number ?? 0)),
    isTaken: !isSwap && users.every((leg) => leg.version?.id === version.id),
    verdict: review.verdict,
    brings: [...review.brings],
    ends: [...review.ends],
  };
}

function toInterface({ needs, gives, rows }: TestVersionRow): TestInterface {
  return { needs, gives, ownValues: rows[0]?.values ?? {} };
}

async function findTest({ db, actor }: Pick<ReadContext, 'db' | 'actor'>, code: string): Promise<TestRow> {
  const [test] = await db
    .select()
    .from(tests)
    .where(and(eq(tests.programmeId, actor.programmeId), eq(tests.code, code)));
  if (!test) throw new AppError('not found', `There is no test ${code} in the library.`);
  return test;
}

/** A draft can be reviewed before it is agreed. */
async function findNewest({ db }: Pick<ReadContext, 'db'>, { id }: TestRow): Promise<TestVersionRow | null> {
  const [version] = await db.select().from(testVersions).where(eq(testVersions.testId, id)).orderBy(desc(testVersions.number)).limit(1);
  return version ?? null;
}

/** Takes the newest agreed version of a test over in scenarios. */
export const takeVersion: Operation<{ test: string; scenarios: readonly string[] }, { changed: number }> = {
  right: 'edit scenarios',
  run: async (context, { test: code, scenarios: codes }) => {
    const test = await findTest(context, code);
    const newest = await findNewest(context, test);
    if (newest?.state === 'retired') throw new AppError('conflict', `Test ${code} is retired; take it back in the library first.`);
    return changeUses(context, codes, { code, change: { version: null }, action: 'version taken over', details: { test: code } });
  },
};

/** Puts another test in the place of one, in the scenarios named. What was wired to its outputs by name is wired to the new one's. */
export const replaceTest: Operation<{ test: string; by: string; scenarios: readonly string[] }, { changed: number }> = {
  right: 'edit scenarios',
  run: async (context, { test: code, by, scenarios: codes }) => {
    if (code === by) throw new AppError('invalid', 'That is the same test. Choose another one.');
    await findTest(context, code);
    const newest = await findNewest(context, await findTest(context, by));
    if (newest?.state === 'retired') throw new AppError('conflict', `Test ${by} is retired; choose another one.`);
    const change = { test: by, version: null };
    return changeUses(context, codes, { code, change, action: 'test replaced', details: { test: code, by } });
  },
};

interface UseChange {
  readonly code: string;
  readonly change: Extract<ScenarioEdit, { kind: 'change leg' }>['change'];
  readonly action: string;
  readonly details: Record<string, unknown>;
}

/** Scenarios are locked in the order of their codes, so that two who do the same do not wait for one another. */
async function changeUses(
  context: Context,
  codes: readonly string[],
  { code, change, action, details }: UseChange,
): Promise<{ changed: number }> {
  let changed = 0;
  for (const scenarioCode of [...new Set(codes)].sort()) {
    const { scenario, document: before } = await lockScenario(context, scenarioCode);
    const edits = before.legs.filter(({ test }) => test === code).map((leg): ScenarioEdit => ({ kind: 'change leg', leg: leg.id, change }));
    const edited = editDocument(before, edits);
    if (!edited.ok || edits.length === 0) continue;
    await storeDocument(context, scenario.id, { before, after: edited.document });
    await keepState(context, scenario.id, { before, after: edited.document });
    await context.record({ subject: 'scenario', subjectId: scenario.id, action, details });
    changed += 1;
  }
  return { changed };
}
