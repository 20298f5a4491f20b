import { and, asc, eq, gt, isNotNull, isNull, lt, sql } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { AskTrial, TrialResult, TrialView } from '@kindred-baton/contracts/runners/trial';
import type { AttemptId, TrialId } from '@kindred-baton/core/ids';
import { LEASE_MS } from '@kindred-baton/core/runners/runner';
import { toDay } from '@kindred-baton/core/time/calendar';
import { loadEnvironmentDoors } from '../doors/sealed-door.ts';
import type { Context, Operation, Query } from '../operation.ts';
import { environments } from '../schema/programmes.ts';
import { runners, trials } from '../schema/runners.ts';
import { tests } from '../schema/tests.ts';
import type { SealedWork } from './get-work.ts';
import type { TakeTurn } from './take-turn.ts';
import { meetRunner } from './hear-runner.ts';
import { loadEnvironmentPlaces, loadStarts, toAccounts } from './load-places.ts';

const KEPT_DAYS = 7;
const MOST_WAITING = 5;

/** Asks that a runner tries steps; asked twice with one id it is asked once. What was tried a week ago is forgotten. */
export const askTrial: Operation<AskTrial, { done: true }> = {
  right: 'edit tests',
  run: async (context, { testId, environmentId, ...ask }) => {
    const { db, actor, now } = context;
    const here = actor.programmeId;
    const [[test], [environment]] = await Promise.all([
      db
        .select({ id: tests.id })
        .from(tests)
        .where(and(eq(tests.id, testId), eq(tests.programmeId, here))),
      db
        .select({ id: environments.id })
        .from(environments)
        .where(and(eq(environments.id, environmentId), eq(environments.programmeId, here))),
    ]);
    if (!test || !environment) throw new AppError('invalid', 'This programme has no such test or environment.');
    const mine = and(
      eq(trials.askedBy, actor.personId),
      isNull(trials.finishedAt),
      gt(sql`coalesce(${trials.expiresAt}, ${now})`, new Date(now.getTime() - LEASE_MS)),
    );
    const waiting = await db
      .select({ id: trials.id })
      .from(trials)
      .where(and(eq(trials.programmeId, here), mine));
    if (waiting.length >= MOST_WAITING)
      throw new AppError('conflict', `${MOST_WAITING} of your trials wait or are under way: stop one, or wait until one has ended.`);
    await db.delete(trials).where(and(eq(trials.programmeId, here), lt(trials.askedAt, new Date(now.getTime() - KEPT_DAYS * 86_400_000))));
    await db
      .insert(trials)
      .values({ ...ask, testId, environmentId, programmeId: here, askedBy: actor.personId, askedAt: now })
      .onConflictDoNothing({ target: trials.id });
    return { done: true };
  },
};

export const getTrial: Query<TrialId, TrialView> = {
  right: 'edit tests',
  read: async ({ db, actor, now }, id) => {
    const [row] = await db
      .select({ trial: trials, environment: environments.name, runner: runners.name })
      .from(trials)
      .innerJoin(environments, eq(environments.id, trials.environmentId))
      .leftJoin(runners, eq(runners.id, trials.runnerId))
      .where(and(eq(trials.id, id), eq(trials.programmeId, actor.programmeId)));
    if (!row) throw gone();
    const [heard] = await db
      .select({ id: runners.id })
      .from(runners)
      .where(
        and(
          eq(runners.programmeId, actor.programmeId),
          eq(runners.order, 'work'),
          gt(runners.heardAt, new Date(now.getTime() - LEASE_MS)),
          isNotNull(runners.instance),
        ),
      )
      .limit(1);
    const { trial, environment, runner } = row;
    return {
      ...{ id, environment, runner, state: toState(trial, now), askedAt: trial.askedAt.toISOString() },
      steps: trial.steps.map((step) => ({ ...step })),
      results: trial.results.map((result) => ({ ...result })),
      ...{ hasPicture: trial.picture !== null, isHeard: heard !== undefined },
    };
  },
};

function toState({ finishedAt, runnerId, expiresAt, results, steps }: typeof trials.$inferSelect, now: Date): TrialView['state'] {
  const last = results.at(-1);
  const isThrough = results.length === steps.length || (last && last.outcome !== 'passed' && last.outcome !== 'skipped');
  if (finishedAt !== null) return isThrough ? 'ended' : 'stopped';
  if (runnerId === null) return 'waiting';
  return expiresAt !== null && expiresAt < now ? 'broken off' : 'under way';
}

export const getTrialPicture: Query<TrialId, Buffer> = {
  right: 'edit tests',
  read: async ({ db, actor }, id) => {
    const [row] = await db
      .select({ picture: trials.picture })
      .from(trials)
      .where(and(eq(trials.id, id), eq(trials.programmeId, actor.programmeId)));
    if (!row?.picture) throw new AppError('not found', 'There is no such picture.');
    return row.picture;
  },
};

/** Whoever asked for it, or anybody else who writes tests, stops it; its runner leaves it when it is next heard of. */
export const stopTrial: Operation<TrialId, { done: true }> = {
  right: 'edit tests',
  run: async ({ db, actor, now }, id) => {
    const [stopped] = await db
      .update(trials)
      .set({ finishedAt: sql`coalesce(${trials.finishedAt}, ${now})` })
      .where(and(eq(trials.id, id), eq(trials.programmeId, actor.programmeId)))
      .returning({ id: trials.id });
    if (!stopped) throw gone();
    return { done: true };
  },
};

const gone = () => new AppError('not found', 'There is no such trial. What was tried is kept for a week.');

/** A free session takes the oldest trial that waits, whatever the hours of its pool: somebody sits there and waits. */
export const takeTrial: Operation<TakeTurn['about'], TrialId | null> = {
  right: 'make attempts',
  run: async (context, about) => {
    const { db, actor, now } = context;
    const waiting = and(eq(trials.programmeId, actor.programmeId), isNull(trials.runnerId), isNull(trials.finishedAt));
    const [next] = await db
      .select({ id: trials.id })
      .from(trials)
      .where(waiting)
      .orderBy(asc(trials.askedAt))
      .limit(1)
      .for('update', { skipLocked: true });
    if (!next) return null;
    const runner = await meetRunner(context, about);
    if (runner.order !== 'work') return null;
    await db
      .update(trials)
      .set({ runnerId: runner.id, takenAt: now, expiresAt: new Date(now.getTime() + LEASE_MS) })
      .where(eq(trials.id, next.id));
    context.tell(['trials']);
    return next.id;
  },
};

/** All that the runner needs for a trial that it has taken. */
export const getTrialWork: Query<TrialId, SealedWork> = {
  right: 'make attempts',
  read: async (context, id) => {
    const { db, actor } = context;
    const [row] = await db
      .select({ trial: trials, test: tests.code, applicationId: tests.applicationId, environment: environments.name })
      .from(trials)
      .innerJoin(tests, eq(tests.id, trials.testId))
      .innerJoin(environments, eq(environments.id, trials.environmentId))
      .where(and(eq(trials.id, id), eq(trials.programmeId, actor.programmeId)));
    if (!row || !actor.runnerId || row.trial.runnerId !== actor.runnerId) throw gone();
    const { trial, test, applicationId, environment } = row;
    const places = await loadEnvironmentPlaces(context, trial.environmentId);
    const [starts, doors] = await Promise.all([
      loadStarts(context, places),
      trial.steps.some((step) => step.do === 'ask') ? loadEnvironmentDoors(context, trial.environmentId) : [],
    ]);
    const own = starts.find((start) => start.personaId === trial.personaId && start.applicationId === applicationId);
    const usual = starts.find((start) => start.isUsual && start.applicationId === applicationId);
    return {
      // Its words go out under its own number, as an attempt's do under that one's.
      ...{ attempt: id as unknown as AttemptId, isTrial: true, turn: null, title: test, test, cycle: null, seed: id },
      steps: trial.steps.map((step) => ({ ...step })),
      gives: trial.gives.map((field) => ({ ...field, choices: field.choices ? [...field.choices] : undefined })),
      values: { ...trial.values },
      ...{
        fromStep: 0,
        kept: {},
        day: toDay(trial.askedAt.getTime(), actor.timeZone),
        workingDays: [1, 2, 3, 4, 5],
        holidays: [],
        environment,
      },
      applications: places.map(({ name, address }) => ({ name, address })),
      account: (trial.personaId === null ? usual : own)?.persona ?? null,
      ...{ accounts: toAccounts(starts), doors, pictures: 'each step' },
    };
  },
};

/** What came of the next step. */
export const recordTrial: Operation<{ id: TrialId; result: TrialResult; picture: Buffer | null }, { done: true }> = {
  right: 'make attempts',
  run: async (context, { id, result, picture }) => {
    const trial = await lockOwn(context, id);
    const results = [...trial.results, result].slice(0, trial.steps.length);
    await context.db
      .update(trials)
      .set({ results, ...(picture ? { picture } : {}) })
      .where(eq(trials.id, id));
    return { done: true };
  },
};

export const finishTrial: Operation<TrialId, { done: true }> = {
  right: 'make attempts',
  run: async (context, id) => {
    await lockOwn(context, id);
    await context.db.update(trials).set({ finishedAt: context.now }).where(eq(trials.id, id));
    return { done: true };
  },
};

async function lockOwn({ db, actor }: Context, id: TrialId) {
  const [trial] = await db
    .select()
    .from(trials)
    .where(and(eq(trials.id, id), isNull(trials.finishedAt)))
    .for('update');
  if (!trial || !actor.runnerId || trial.runnerId !== actor.runnerId)
    throw new AppError('conflict', 'This trial is not with this runner any more.');
  return trial;
}
