import { AppError } from '@kindred-baton/contracts/errors';
import type {
  StepTriesQuery,
  StepTriesView,
  WrongSteps,
  WrongStepsQuery,
  WrongStepView,
  WrongThingView,
} from '@kindred-baton/contracts/progress/wrong-steps';
import { SEEN_SHOWN, STEPS_A_PAGE, TRIES_SHOWN } from '@kindred-baton/contracts/progress/wrong-steps';
import { pushTo } from '@kindred-baton/core/push-to';
import { getErrors } from '@kindred-baton/core/progress/rank-steps';
import type { Ranking } from '@kindred-baton/core/progress/rank-things';
import { rankThings } from '@kindred-baton/core/progress/rank-things';
import type { WrongStep } from '@kindred-baton/core/progress/rank-steps';
import { cutPage } from '@kindred-baton/core/tables/pages';
import { printStep } from '@kindred-baton/core/tests/print-step';
import { and, count, desc, eq, inArray, isNull, or, sql } from 'drizzle-orm';
import { listSubtree, loadTree } from '../map/load-tree.ts';
import type { Query, ReadContext } from '../operation.ts';
import { isAtNodes, isTurnInScope } from '../runs/in-scope.ts';
import { runs } from '../schema/cycles.ts';
import { people } from '../schema/people.ts';
import { runners } from '../schema/runners.ts';
import { teams } from '../schema/programmes.ts';
import { scenarios } from '../schema/scenarios.ts';
import { tests } from '../schema/tests.ts';
import { attempts, stepResults, turns } from '../schema/turns.ts';
import { findCycle, listCycleNames, toSpan } from '../programmes/find-cycle.ts';
import type { AroundSteps, LoadedSteps, TriesWanted } from './load-wrong-steps.ts';
import { isTry, loadAroundSteps, loadTriedSteps, loadWrongSteps, sumWaiting, toPlaceKey } from './load-wrong-steps.ts';
import { loadThings } from './name-things.ts';
import { tellAsked } from './tell-asked.ts';
import { tellHolds } from './tell-holds.ts';

const NOTHING = {
  cycle: null,
  steps: 0,
  tries: 0,
  errors: 0,
  errorsOfTen: 0,
  unwritten: 0,
  rows: { page: 1, from: 0, size: 0 },
  ...{ wrong: [], things: [], unplaced: 0, only: null },
};
const TOP = 10;

const readWrongSteps = (size: number): Query<WrongStepsQuery, WrongSteps> => ({
  right: 'read',
  read: async (context, query) => {
    const [cycle, cycles] = await Promise.all([findCycle(context, query.cycle), listCycleNames(context)]);
    if (!cycle) return { ...NOTHING, each: query.each, cycles };
    const wanted = await toWanted(context, cycle.id, query);
    const loaded = await loadWrongSteps(context, wanted);
    const [around, unwritten] = await Promise.all([loadAroundSteps(context, cycle.id, loaded.placeOf), countUnwritten(context, wanted)]);
    const all = { cycle: toSpan(cycle), cycles, tries: loaded.tries, errors: loaded.errors, unwritten, each: query.each };
    const known = { wanted, loaded, around };
    if (query.each !== 'step') return { ...all, ...NO_STEPS, ...(await listThings(context, known, { ...query, each: query.each, size })) };
    const { wrong, only } = await narrowSteps(context, loaded, query);
    const { at, shown } = cutPage(wrong, { page: query.page, of: size });
    return {
      ...{ ...all, ...NO_THINGS, steps: loaded.steps, rows: at, only, errorsOfTen: sumTopErrors(wrong) },
      wrong: await describeSteps(context, shown, known),
    };
  },
});

/** Where it goes wrong: the steps of a cycle by what they cost at least, over all tries in its scope. */
export const getWrongSteps = readWrongSteps(STEPS_A_PAGE);

/** The same on one page, for a sheet. */
export const MOST_STEPS_TAKEN = 5_000;
export const getAllWrongSteps = readWrongSteps(MOST_STEPS_TAKEN);

const NO_STEPS = { wrong: [], only: null };
const NO_THINGS = { things: [], unplaced: 0 };
const sumTopErrors = (wrong: readonly Parameters<typeof getErrors>[0][]) =>
  wrong.slice(0, TOP).reduce((sum, step) => sum + getErrors(step), 0);

/** Steps that name a field, a button or a screen; all where none is asked for. */
async function narrowSteps(context: ReadContext, { wrong }: LoadedSteps, { target, screen }: Pick<WrongStepsQuery, 'target' | 'screen'>) {
  const key = target ?? screen;
  if (key === undefined) return { wrong, only: null };
  const each = target === undefined ? 'screen' : 'target';
  const thingOf = await loadThings(
    context,
    wrong.map(({ version }) => version),
    each,
  );
  const own = wrong.flatMap((step) => {
    const thing = thingOf(step);
    return thing?.key === key ? [{ step, thing }] : [];
  });
  return { wrong: own.map(({ step }) => step), only: { each, name: own[0]?.thing.name ?? key } } as const;
}

/** The same errors by what the steps name: over all tries of it, also where nothing went wrong. */
async function listThings(
  context: ReadContext,
  { wanted, loaded, around }: Known,
  { each, page, size }: { readonly each: Exclude<Ranking, 'step'>; readonly page: number; readonly size: number },
): Promise<Pick<WrongSteps, 'steps' | 'rows' | 'errorsOfTen' | 'things' | 'unplaced'>> {
  const tried = await loadTriedSteps(context, wanted, loaded.placeOf);
  const thingOf = await loadThings(
    context,
    tried.map(({ version }) => version),
    each,
  );
  const ranked = rankThings(tried, thingOf);
  const { at, shown } = cutPage(ranked.wrong, { page, of: size });
  const testOf = await loadTestNames(
    context,
    shown.flatMap(({ wrong }) => wrong.slice(0, 1).map(({ test }) => test)),
  );
  return {
    ...{ steps: ranked.things, rows: at, errorsOfTen: sumTopErrors(ranked.wrong), unplaced: ranked.unplaced },
    things: shown.map(({ wrong, ...thing }): WrongThingView => {
      const keys = wrong.map(toPlaceKey);
      const [worst] = wrong;
      const found = new Map(keys.flatMap((key) => around.defectsAt.get(key) ?? []).map(({ id, ...defect }) => [id, defect]));
      return {
        ...thing,
        worst: {
          test: testOf.get(worst?.test ?? '') ?? { code: '', name: '' },
          index: worst?.index ?? 0,
          errors: worst ? getErrors(worst) : 0,
        },
        wrongSteps: wrong.length,
        defects: [...found.values()].sort((a, b) => Number(b.isOpen) - Number(a.isOpen)),
        waiting: sumWaiting([...new Set(keys.flatMap((key) => around.holdsAt.get(key) ?? []))], around.held),
      };
    }),
  };
}

/** The tries of one step that went wrong: what was seen instead, by whom, and what waits behind it. */
export const getStepTries: Query<StepTriesQuery, StepTriesView> = {
  right: 'read',
  read: async (context, query) => {
    const cycle = await findCycle(context, query.cycle);
    if (!cycle) throw new AppError('not found', 'There is no cycle yet.');
    const [test] = await context.db
      .select({ id: tests.id })
      .from(tests)
      .where(and(eq(tests.programmeId, context.actor.programmeId), eq(tests.code, query.test)));
    if (!test) throw new AppError('not found', `There is no test ${query.test}.`);
    const wanted = { ...(await toWanted(context, cycle.id, query)), test: test.id };
    const loaded = await loadWrongSteps(context, wanted);
    const step = loaded.wrong.find(({ version, index }) => loaded.versions.get(version)?.number === query.version && index === query.index);
    if (!step) throw new AppError('not found', `Nothing went wrong at step ${query.index + 1} of ${query.test} here, or not any more.`);
    const around = await loadAroundSteps(context, cycle.id, loaded.placeOf);
    const holds = around.holdsAt.get(toPlaceKey(step)) ?? [];
    const [[described], tries, told, asked] = await Promise.all([
      describeSteps(context, [step], { wanted, loaded, around }),
      loadTries(context, wanted, listPlaces(step, loaded)),
      tellHolds(context, { ...around.held, holds }, { nodes: null, team: undefined }),
      tellAsked(context, holds),
    ]);
    if (!described) throw new AppError('broken', 'The step could not be told.');
    return { step: described, ...tries, holds: told.holds, asked };
  },
};

async function toWanted(
  context: ReadContext,
  cycleId: TriesWanted['cycleId'],
  query: Pick<WrongStepsQuery, 'scope' | 'by'>,
): Promise<TriesWanted> {
  return { cycleId, by: query.by, nodes: query.scope === undefined ? null : listSubtree(await loadTree(context), query.scope) };
}

/** Turns that stopped at no written step: open legs, and turns whose test was none yet. */
async function countUnwritten({ db }: ReadContext, { cycleId, nodes }: TriesWanted): Promise<number> {
  const [row] = await db
    .select({ turns: count() })
    .from(turns)
    .where(
      and(
        ...[eq(turns.cycleId, cycleId), isTurnInScope, isNull(turns.testId), inArray(turns.outcome, ['failed', 'blocked'])],
        isAtNodes(nodes),
      ),
    );
  return row?.turns ?? 0;
}

interface Known {
  readonly wanted: TriesWanted;
  readonly loaded: LoadedSteps;
  readonly around: AroundSteps;
}

/** Every place at which a step stood. */
function listPlaces(step: WrongStep, { versions, placeOf }: LoadedSteps) {
  return [...versions.values()]
    .filter(({ testId }) => testId === step.test)
    .flatMap(({ id, number, steps }) => steps.map((_, index) => ({ version: id, index, number })))
    .filter((place) => toPlaceKey(placeOf(place)) === toPlaceKey(step));
}

async function describeSteps(
  context: ReadContext,
  steps: readonly WrongStep[],
  { wanted, loaded, around }: Known,
): Promise<WrongStepView[]> {
  const ids = [...new Set(steps.map(({ test }) => test))];
  const [teamsOf, testOf] = await Promise.all([loadTeamsOf(context, wanted, ids), loadTestNames(context, ids)]);
  return steps.map((step) => {
    const [version, key] = [loaded.versions.get(step.version), toPlaceKey(step)];
    const written = version?.steps[step.index];
    return {
      test: testOf.get(step.test) ?? { code: '', name: '' },
      ...{ version: version?.number ?? 0, index: step.index, sentence: written ? printStep({ ...written, expect: undefined }) : '' },
      expect: written?.expect ?? '',
      versions: listPlaces(step, loaded)
        .map(({ number }) => number)
        .filter((number) => number !== version?.number)
        .sort((a, b) => b - a),
      teams: teamsOf.get(step.test) ?? [],
      ...{ tries: step.tries, failed: step.failed, blocked: step.blocked, low: step.low, high: step.high },
      defects: (around.defectsAt.get(key) ?? []).map(({ id: _, ...defect }) => defect).sort((a, b) => Number(b.isOpen) - Number(a.isOpen)),
      waiting: sumWaiting(around.holdsAt.get(key) ?? [], around.held),
    };
  });
}

async function loadTestNames({ db }: ReadContext, ids: readonly string[]) {
  const rows = await db
    .select({ id: tests.id, code: tests.code, name: tests.name })
    .from(tests)
    .where(sql`${tests.id} = any(${sql.param(ids)}::uuid[])`);
  return new Map(rows.map(({ id, ...test }) => [id as string, test]));
}

/** The teams whose turns each of these tests is, by name. */
async function loadTeamsOf({ db }: ReadContext, { cycleId }: TriesWanted, ids: readonly string[]): Promise<ReadonlyMap<string, string[]>> {
  const rows = await db
    .selectDistinct({ test: turns.testId, team: teams.name })
    .from(turns)
    .innerJoin(teams, eq(teams.id, turns.teamId))
    .where(and(eq(turns.cycleId, cycleId), sql`${turns.testId} = any(${sql.param(ids)}::uuid[])`))
    .orderBy(teams.name);
  const found = new Map<string, string[]>();
  for (const { test, team } of rows) pushTo(found, test ?? '', team);
  return found;
}

/** What a try says of itself: what a runner saw, else what a person wrote. */
const seenText = sql<string>`trim(case when ${stepResults.actual} <> '' then ${stepResults.actual} else ${stepResults.note} end)`;

async function loadTries(
  { db }: ReadContext,
  wanted: TriesWanted,
  places: readonly { readonly version: string; readonly index: number }[],
): Promise<Pick<StepTriesView, 'seen' | 'otherSeen' | 'wrong'>> {
  const at = or(...places.map(({ version, index }) => and(eq(attempts.versionId, version as never), eq(stepResults.stepIndex, index))));
  const where = and(isTry(wanted), at, inArray(stepResults.outcome, ['failed', 'blocked']));
  const [texts, rows] = await Promise.all([
    db
      .select({ text: seenText, tries: count() })
      .from(stepResults)
      .innerJoin(attempts, eq(attempts.id, stepResults.attemptId))
      .innerJoin(turns, eq(turns.id, attempts.turnId))
      .where(where)
      .groupBy(seenText)
      .orderBy(desc(count()), seenText),
    db
      .select({
        ...{ attempt: attempts.id, turn: turns.id, scenario: scenarios.name, outcome: stepResults.outcome, seen: seenText },
        ...{ person: people.name, runner: runners.name, at: stepResults.recordedAt },
      })
      .from(stepResults)
      .innerJoin(attempts, eq(attempts.id, stepResults.attemptId))
      .innerJoin(turns, eq(turns.id, attempts.turnId))
      .innerJoin(runs, eq(runs.id, turns.runId))
      .innerJoin(scenarios, eq(scenarios.id, runs.scenarioId))
      .innerJoin(people, eq(people.id, stepResults.byId))
      .leftJoin(runners, eq(runners.id, stepResults.runnerId))
      .where(where)
      .orderBy(desc(stepResults.recordedAt), attempts.id)
      .limit(TRIES_SHOWN),
  ]);
  return {
    seen: texts.slice(0, SEEN_SHOWN),
    otherSeen: texts.slice(SEEN_SHOWN).reduce((sum, { tries }) => sum + tries, 0),
    wrong: rows.map(({ person, runner, at: moment, outcome, ...row }) => ({
      ...row,
      ...{
        outcome: outcome === 'blocked' ? 'blocked' : 'failed',
        by: runner ?? person,
        isByRunner: runner !== null,
        at: moment.toISOString(),
      },
    })),
  };
}
