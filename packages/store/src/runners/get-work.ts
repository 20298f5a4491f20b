import { and, eq, inArray, isNotNull, sql } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { Work } from '@kindred-baton/contracts/runners/runner';
import type { AttemptId, EnvironmentId } from '@kindred-baton/core/ids';
import { toDay } from '@kindred-baton/core/time/calendar';
import type { SealedDoor } from '../doors/sealed-door.ts';
import { loadDoors } from '../doors/sealed-door.ts';
import type { Query, ReadContext } from '../operation.ts';
import { nameSecretPlace } from '../personas/personas.ts';
import { cycleEnvironments, cycles } from '../schema/cycles.ts';
import { personas, personaStarts } from '../schema/personas.ts';
import { applications, environments, installations, teams } from '../schema/programmes.ts';
import { testVersions, tests } from '../schema/tests.ts';
import { attempts, leases, turns } from '../schema/turns.ts';
import { loadTurnCards } from '../turns/load-turn-cards.ts';

/** A password as it is stored, with what it is sealed to. */
interface SealedAccount {
  readonly persona: string;
  readonly application: string;
  readonly user: string;
  readonly secret: Buffer | null;
  readonly place: string;
}

export type SealedWork = Omit<Work, 'accounts' | 'doors'> & {
  readonly accounts: readonly SealedAccount[];
  readonly doors: readonly SealedDoor[];
};

/** All that the runner needs for an attempt that it has taken. */
export const getWork: Query<{ attemptId: AttemptId; fromStep: number }, SealedWork> = {
  right: 'make attempts',
  read: async (context, { attemptId, fromStep }) => {
    const { actor } = context;
    const head = await loadHead(context, attemptId);
    if (!head || head.runnerId !== actor.runnerId) throw new AppError('conflict', 'This attempt is not with this runner any more.');
    const { turn, attempt, version, cycle } = head;
    const steps = version?.steps ?? turn.bare?.steps ?? [];
    const [[card], places, doors] = await Promise.all([
      loadTurnCards(context, { where: eq(turns.id, turn.id), limit: 1 }),
      loadPlaces(context, cycle.id, cycle.environmentId),
      steps.some((step) => step.do === 'ask') ? loadDoors(context, cycle.id) : [],
    ]);
    const starts = await loadStarts(context, places);
    const own = starts.find((start) => start.personaId === turn.personaId && start.applicationId === head.applicationId);
    const usual = starts.find((start) => start.isUsual && start.applicationId === head.applicationId);
    return {
      ...{ attempt: attemptId, turn: turn.id, title: turn.title, test: head.test, cycle: cycle.code, seed: attempt.seedId },
      steps: steps.map((step) => ({ ...step })),
      gives: (version?.gives ?? turn.bare?.gives ?? []).map((field) => ({
        ...field,
        choices: field.choices ? [...field.choices] : undefined,
      })),
      values: Object.fromEntries((card?.arrivals ?? []).flatMap(({ name, value }) => (value === null ? [] : [[name, value]]))),
      ...{ fromStep, kept: attempt.kept, day: toDay(attempt.startedAt.getTime(), actor.timeZone) },
      ...{ workingDays: head.workingDays ?? [1, 2, 3, 4, 5], holidays: head.holidays ?? [] },
      environment: attempt.environment,
      applications: places.map(({ name, address }) => ({ name, address })),
      account: (turn.personaId === null ? usual : own)?.persona ?? null,
      accounts: starts.map(({ persona, application, userName, secret, ...start }) => ({
        ...{ persona, application, user: userName, secret, place: nameSecretPlace(start) },
      })),
      doors,
      pictures: 'each step',
    };
  },
};

async function loadHead({ db, actor }: ReadContext, attemptId: AttemptId) {
  const [head] = await db
    .select({
      turn: turns,
      attempt: attempts,
      version: testVersions,
      cycle: { id: cycles.id, code: cycles.code, environmentId: cycles.environmentId },
      test: tests.code,
      applicationId: tests.applicationId,
      runnerId: leases.runnerId,
      workingDays: teams.workingDays,
      holidays: teams.holidays,
    })
    .from(attempts)
    .innerJoin(turns, and(eq(turns.id, attempts.turnId), eq(turns.programmeId, actor.programmeId)))
    .innerJoin(cycles, eq(cycles.id, turns.cycleId))
    .leftJoin(testVersions, eq(testVersions.id, attempts.versionId))
    .leftJoin(tests, eq(tests.id, turns.testId))
    .leftJoin(teams, eq(teams.id, turns.teamId))
    .innerJoin(leases, eq(leases.attemptId, attempts.id))
    .where(eq(attempts.id, attemptId));
  return head;
}

/** Where each application stands in the cycle's environments. */
function loadPlaces({ db, actor }: ReadContext, cycleId: typeof cycles.$inferSelect.id, usual: EnvironmentId) {
  return db
    .select({ name: applications.name, applicationId: applications.id, environmentId: environments.id, address: installations.address })
    .from(applications)
    .leftJoin(cycleEnvironments, and(eq(cycleEnvironments.applicationId, applications.id), eq(cycleEnvironments.cycleId, cycleId)))
    .innerJoin(environments, eq(environments.id, sql`coalesce(${cycleEnvironments.environmentId}, ${usual})`))
    .innerJoin(installations, and(eq(installations.applicationId, applications.id), eq(installations.environmentId, environments.id)))
    .where(eq(applications.programmeId, actor.programmeId));
}

async function loadStarts({ db, actor }: ReadContext, places: Awaited<ReturnType<typeof loadPlaces>>) {
  if (places.length === 0) return [];
  const rows = await db
    .select({
      ...{ persona: personas.name, application: applications.name, userName: personaStarts.userName, secret: personaStarts.secret },
      ...{ personaId: personas.id, applicationId: personaStarts.applicationId, environmentId: personaStarts.environmentId },
      isUsual: personaStarts.isUsual,
    })
    .from(personaStarts)
    .innerJoin(personas, and(eq(personas.id, personaStarts.personaId), eq(personas.programmeId, actor.programmeId)))
    .innerJoin(applications, eq(applications.id, personaStarts.applicationId))
    .where(
      and(isNotNull(personaStarts.secret), inArray(personaStarts.environmentId, [...new Set(places.map((place) => place.environmentId))])),
    );
  const here = new Set(places.map(({ applicationId, environmentId }) => `${applicationId} ${environmentId}`));
  return rows.filter(({ applicationId, environmentId }) => here.has(`${applicationId} ${environmentId}`));
}
