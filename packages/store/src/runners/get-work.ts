import { and, eq } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { Work } from '@kindred-baton/contracts/runners/runner';
import type { CycleRules } from '@kindred-baton/core/cycles/rules';
import { EVIDENCE_RULES } from '@kindred-baton/core/cycles/rules';
import type { AttemptId } from '@kindred-baton/core/ids';
import { toDay } from '@kindred-baton/core/time/calendar';
import type { SealedDoor } from '../doors/sealed-door.ts';
import { loadDoors } from '../doors/sealed-door.ts';
import type { Query, ReadContext } from '../operation.ts';
import { cycles } from '../schema/cycles.ts';
import { teams } from '../schema/programmes.ts';
import { testVersions, tests } from '../schema/tests.ts';
import { attempts, leases, turns } from '../schema/turns.ts';
import { loadTurnCards } from '../turns/load-turn-cards.ts';
import type { SealedAccount } from './load-places.ts';
import { loadCyclePlaces, loadStarts, toAccounts } from './load-places.ts';

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
      loadCyclePlaces(context, cycle.id, cycle.environmentId),
      steps.some((step) => step.do === 'ask') ? loadDoors(context, cycle.id) : [],
    ]);
    const starts = await loadStarts(context, places);
    const own = starts.find((start) => start.personaId === turn.personaId && start.applicationId === head.applicationId);
    const usual = starts.find((start) => start.isUsual && start.applicationId === head.applicationId);
    return {
      ...{ attempt: attemptId, isTrial: false, turn: turn.id, title: turn.title, test: head.test, cycle: cycle.code, seed: attempt.seedId },
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
      accounts: toAccounts(starts),
      doors,
      pictures: toPictures(cycle.rules),
    };
  },
};

/** By the cycle’s rules; a failure that must carry a picture, or a step that must, has one whatever is said of runners. */
function toPictures({ runnerPictures, evidence, failure }: CycleRules): Work['pictures'] {
  const asked = [runnerPictures, evidence, failure.includes('picture') ? 'failed steps' : 'none'];
  return EVIDENCE_RULES.find((rule) => asked.includes(rule)) ?? 'none';
}

async function loadHead({ db, actor }: ReadContext, attemptId: AttemptId) {
  const [head] = await db
    .select({
      turn: turns,
      attempt: attempts,
      version: testVersions,
      cycle: { id: cycles.id, code: cycles.code, environmentId: cycles.environmentId, rules: cycles.rules },
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
