import { and, eq } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { AttemptId } from '@kindred-baton/core/ids';
import { listLooks } from '@kindred-baton/core/tests/find-way-in';
import type { Step } from '@kindred-baton/core/tests/step';
import { toDay } from '@kindred-baton/core/time/calendar';
import type { StepSourceInput } from '@kindred-baton/core/turns/step-source';
import type { SealedDoor } from '../doors/sealed-door.ts';
import { loadDoors } from '../doors/sealed-door.ts';
import type { Query } from '../operation.ts';
import { teams } from '../schema/programmes.ts';
import { testVersions } from '../schema/tests.ts';
import { attempts, turns } from '../schema/turns.ts';
import { loadTurnCards } from './load-turn-cards.ts';

/** What a person's *ask* needs to be asked for her: the step, those that look at the answer, the values, and the doors. */
export interface DoorQuestion {
  readonly step: Step;
  readonly looks: readonly Step[];
  readonly values: StepSourceInput;
  readonly doors: readonly SealedDoor[];
}

/** Of an attempt that is with whoever asks, and under way. */
export const getQuestion: Query<{ attemptId: AttemptId; stepIndex: number }, DoorQuestion> = {
  right: 'make attempts',
  read: async (context, { attemptId, stepIndex }) => {
    const { db, actor } = context;
    const [head] = await db
      .select({ attempt: attempts, turn: turns, version: testVersions, workingDays: teams.workingDays, holidays: teams.holidays })
      .from(attempts)
      .innerJoin(turns, and(eq(turns.id, attempts.turnId), eq(turns.programmeId, actor.programmeId)))
      .leftJoin(testVersions, eq(testVersions.id, attempts.versionId))
      .leftJoin(teams, eq(teams.id, turns.teamId))
      .where(eq(attempts.id, attemptId));
    if (!head) throw new AppError('not found', 'There is no such attempt in this programme.');
    const { attempt, turn, version } = head;
    if (attempt.personId !== actor.personId || attempt.finishedAt !== null)
      throw new AppError('conflict', 'Only whoever makes an attempt asks for it, while it is under way.');
    const steps = version?.steps ?? turn.bare?.steps ?? [];
    const step = steps[stepIndex];
    if (step?.do !== 'ask') throw new AppError('invalid', 'This step asks no door.');
    const [[card], doors] = await Promise.all([
      loadTurnCards(context, { where: eq(turns.id, turn.id), limit: 1 }),
      loadDoors(context, turn.cycleId),
    ]);
    const kept = Object.entries(attempt.kept).map(([name, value]) => ({ name, value }));
    const calendar = { workingDays: head.workingDays ?? [1, 2, 3, 4, 5], holidays: head.holidays ?? [] };
    const day = toDay(attempt.startedAt.getTime(), actor.timeZone);
    return {
      step,
      looks: listLooks(steps, stepIndex),
      doors,
      values: { attempt: attempt.seedId, day, calendar, values: [...(card?.arrivals ?? []), ...kept] },
    };
  },
};
