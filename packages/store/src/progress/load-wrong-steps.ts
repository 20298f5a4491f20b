import type { TriedBy } from '@kindred-baton/contracts/progress/wrong-steps';
import type { CycleId, DefectId, TestId, TestVersionId, TurnId } from '@kindred-baton/core/ids';
import { rankSteps, sumSteps } from '@kindred-baton/core/progress/rank-steps';
import type { CountedStep, RankedSteps } from '@kindred-baton/core/progress/rank-steps';
import type { StepPlace } from '@kindred-baton/core/progress/same-steps';
import { placeSteps } from '@kindred-baton/core/progress/same-steps';
import { pushTo } from '@kindred-baton/core/push-to';
import type { Hold } from '@kindred-baton/core/progress/find-holds';
import { isOver } from '@kindred-baton/core/defects/defect';
import type { Step } from '@kindred-baton/core/tests/step';
import type { SQL } from 'drizzle-orm';
import { and, asc, desc, eq, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import type { ReadContext } from '../operation.ts';
import { readPacked } from '../read-packed.ts';
import type { InScope } from '../runs/in-scope.ts';
import { isOfCycle } from '../runs/in-scope.ts';
import type { HeldRuns } from '../runs/load-holds.ts';
import { loadHolds } from '../runs/load-holds.ts';
import { defects } from '../schema/defects.ts';
import { testVersions } from '../schema/tests.ts';
import { attempts, stepResults, turns } from '../schema/turns.ts';

export interface TriesWanted extends InScope {
  readonly by: TriedBy;
  /** Only of this test. */
  readonly test?: TestId;
}

const BY: Readonly<Record<TriedBy, SQL | undefined>> = {
  all: undefined,
  people: isNull(stepResults.runnerId),
  runners: isNotNull(stepResults.runnerId),
};

/** What an attempt took over from the one that it goes on from: those tries are that one's. */
const isTakenOver = sql`exists (select from step_results as own where own.attempt_id = ${attempts.continuesId}
  and own.step_index = ${stepResults.stepIndex} and own.recorded_at = ${stepResults.recordedAt} and own.by_id = ${stepResults.byId})`;

/** Tries in the scope of a cycle that ended somehow: with joins to attempts and turns. A step that was skipped or cleared was not tried. */
export const isTry = ({ by, test, ...own }: TriesWanted): SQL | undefined =>
  and(
    isOfCycle(own),
    inArray(stepResults.outcome, ['passed', 'failed', 'blocked']),
    BY[by],
    test === undefined ? undefined : eq(turns.testId, test),
    sql`(${attempts.continuesId} is null or not ${isTakenOver})`,
  );

interface VersionRow {
  readonly id: TestVersionId;
  readonly testId: TestId;
  readonly number: number;
  readonly steps: readonly Step[];
}

export interface LoadedSteps extends RankedSteps {
  readonly versions: ReadonlyMap<string, VersionRow>;
  /** Where a step stands last. */
  readonly placeOf: (step: StepPlace) => StepPlace;
}

/** A step as it is counted in SQL; where it stands for the steps of tests in which nothing went wrong, they are counted together, without a test. */
interface ReadStep extends Omit<CountedStep, 'test'> {
  readonly test: string | null;
  readonly steps: number;
}

/**
 * Where things go wrong in a cycle, over all that was tried. Steps are told one by one of tests that have an error or were tried in several versions; all
 * others are only counted. Two queries.
 */
export async function loadWrongSteps(context: ReadContext, wanted: TriesWanted): Promise<LoadedSteps> {
  const read = await readTries(context, wanted, { isWhole: false });
  const counted = toCounted(read);
  const rest = read.find(({ test }) => test === null);
  const versions = await loadVersions(context, counted);
  const placeOf = placeVersions([...versions.values()]);
  const ranked = rankSteps(counted, placeOf);
  return { ...ranked, steps: ranked.steps + (rest?.steps ?? 0), tries: ranked.tries + (rest?.tries ?? 0), versions, placeOf };
}

/** Every step that was tried, once, also of tests in which nothing went wrong. One query; `placeOf` is that of the same tries. */
export async function loadTriedSteps(context: ReadContext, wanted: TriesWanted, placeOf: LoadedSteps['placeOf']): Promise<CountedStep[]> {
  return sumSteps(toCounted(await readTries(context, wanted, { isWhole: true })), placeOf);
}

const toCounted = (read: readonly ReadStep[]) =>
  read.flatMap(({ test, version, index, tries, failed, blocked }): CountedStep[] =>
    test === null ? [] : [{ test, version, index, tries, failed, blocked }],
  );

function readTries(context: ReadContext, wanted: TriesWanted, { isWhole }: { readonly isWhole: boolean }): Promise<ReadStep[]> {
  const cell = { test: sql`test`, version: sql`version`, index: sql`index`, tries: sql`tries`, failed: sql`failed`, blocked: sql`blocked` };
  return readPacked<ReadStep>(context, {
    cells: { ...cell, steps: sql`steps` },
    from: sql`from (
      with groups as (
        select ${turns.testId} as test, ${attempts.versionId} as version, ${stepResults.stepIndex} as index, count(*) as tries,
          count(*) filter (where ${eq(stepResults.outcome, 'failed')}) as failed,
          count(*) filter (where ${eq(stepResults.outcome, 'blocked')}) as blocked
        from ${stepResults} join ${attempts} on ${eq(attempts.id, stepResults.attemptId)} join ${turns} on ${eq(turns.id, attempts.turnId)}
        where ${and(isTry(wanted), isNotNull(attempts.versionId), isNotNull(turns.testId))}
        group by 1, 2, 3
      ), marked as (
        select *, ${isWhole} or bool_or(failed + blocked > 0) over own or min(version::text) over own <> max(version::text) over own as is_told
        from groups window own as (partition by test)
      )
      select test, version, index, tries, failed, blocked, 1 as steps from marked where is_told
      union all select null, null, null, coalesce(sum(tries), 0), 0, 0, count(*) from marked where not is_told
    ) as steps`,
  });
}

function placeVersions(versions: readonly VersionRow[]): LoadedSteps['placeOf'] {
  const places = new Map<string, readonly StepPlace[]>();
  for (const own of groupByTest(versions).values()) for (const [id, steps] of placeSteps(own)) places.set(id, steps);
  return (step) => places.get(step.version)?.[step.index] ?? { version: step.version, index: step.index };
}

function groupByTest(versions: readonly VersionRow[]): Map<TestId, VersionRow[]> {
  const byTest = new Map<TestId, VersionRow[]>();
  for (const version of versions) pushTo(byTest, version.testId, version);
  return byTest;
}

async function loadVersions({ db }: ReadContext, counted: readonly CountedStep[]): Promise<ReadonlyMap<string, VersionRow>> {
  const ids = [...new Set(counted.map(({ version }) => version))];
  if (ids.length === 0) return new Map();
  const rows = await db
    .select({ id: testVersions.id, testId: testVersions.testId, number: testVersions.number, steps: testVersions.steps })
    .from(testVersions)
    .where(sql`${testVersions.id} = any(${sql.param(ids)}::uuid[])`);
  return new Map(rows.map((row) => [row.id, row]));
}

interface StepDefect {
  readonly id: DefectId;
  readonly code: string;
  readonly title: string;
  readonly isOpen: boolean;
}

/** What is known of each step beside its tries, by `toPlaceKey`. */
export interface AroundSteps {
  readonly defectsAt: ReadonlyMap<string, readonly StepDefect[]>;
  readonly holdsAt: ReadonlyMap<string, readonly Hold[]>;
  readonly held: HeldRuns;
}

export const toPlaceKey = ({ version, index }: StepPlace): string => `${version} ${index}`;

/** Defects that were logged at each step, and what holds the baton there. Five queries. */
export async function loadAroundSteps(context: ReadContext, cycleId: CycleId, placeOf: LoadedSteps['placeOf']): Promise<AroundSteps> {
  const [held, logged] = await Promise.all([
    loadHolds(context, [cycleId]),
    context.db
      .select({
        ...{ id: defects.id, code: defects.code, title: defects.title, status: defects.status },
        ...{ version: attempts.versionId, index: defects.stepIndex },
      })
      .from(defects)
      .innerJoin(attempts, eq(attempts.id, defects.attemptId))
      .where(and(eq(defects.cycleId, cycleId), isNotNull(attempts.versionId)))
      .orderBy(asc(defects.number)),
  ]);
  const defectsAt = new Map<string, StepDefect[]>();
  const keysOf = new Map<string, string[]>();
  for (const { version, index, status, ...defect } of logged) {
    const key = toPlaceKey(placeOf({ version: version ?? '', index }));
    pushTo(defectsAt, key, { ...defect, isOpen: !isOver(status) });
    pushTo(keysOf, defect.id, key);
  }
  const stopped = held.holds.filter(({ kind }) => kind === 'failure' || kind === 'block').flatMap(({ at }) => at) as TurnId[];
  for (const { turnId, version, index } of await loadStops(context, stopped))
    if (version !== null) pushTo(keysOf, turnId, toPlaceKey(placeOf({ version, index })));
  const holdsAt = new Map<string, Hold[]>();
  for (const hold of held.holds) for (const key of hold.kind === 'idle' ? [] : (keysOf.get(hold.key) ?? [])) pushTo(holdsAt, key, hold);
  return { defectsAt, holdsAt, held };
}

/** The step at which the newest attempt of each of these turns failed or was blocked. */
async function loadStops({ db }: ReadContext, ids: readonly TurnId[]) {
  if (ids.length === 0) return [];
  return db
    .selectDistinctOn([attempts.turnId], { turnId: attempts.turnId, version: attempts.versionId, index: stepResults.stepIndex })
    .from(attempts)
    .innerJoin(stepResults, and(eq(stepResults.attemptId, attempts.id), inArray(stepResults.outcome, ['failed', 'blocked'])))
    .where(and(sql`${attempts.turnId} = any(${sql.param(ids)}::uuid[])`, isNotNull(attempts.finishedAt)))
    .orderBy(attempts.turnId, desc(attempts.number), asc(stepResults.stepIndex));
}

/** The turns that wait behind a step, each once. */
export function sumWaiting(holds: readonly Hold[], held: HeldRuns): { turns: number; minutes: number } {
  const behind = [...new Set(holds.flatMap((hold) => hold.behind))];
  return { turns: behind.length, minutes: behind.reduce((sum, id) => sum + (held.turns.get(id)?.minutes ?? 0), 0) };
}
