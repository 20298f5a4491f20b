import { and, eq, inArray, sql } from 'drizzle-orm';
import { AppError } from '@kindred-baton/contracts/errors';
import type { LogDefect, MoveDefect } from '@kindred-baton/contracts/defects/defect';
import { DEFECT_MOVES, isHolding } from '@kindred-baton/core/defects/defect';
import type { WorkingCalendar } from '@kindred-baton/core/time/calendar';
import { toDay } from '@kindred-baton/core/time/calendar';
import { describeSteps } from '@kindred-baton/core/defects/describe-steps';
import type { RunId, TeamId, TurnId } from '@kindred-baton/core/ids';
import { resolveNeeds } from '@kindred-baton/core/turns/assess-run';
import { createStepSource } from '@kindred-baton/core/turns/step-source';
import { tellFixed } from '../mails/tell.ts';
import type { Context, Operation } from '../operation.ts';
import type { DefectRow } from '../schema/defects.ts';
import { defectTurns, defects } from '../schema/defects.ts';
import { programmes, teams } from '../schema/programmes.ts';
import { personas } from '../schema/personas.ts';
import type { TurnRow } from '../schema/turns.ts';
import { stepResults, turns } from '../schema/turns.ts';
import type { OwnAttempt } from '../turns/make-attempts.ts';
import { getOwnAttempt } from '../turns/make-attempts.ts';
import { loadRuns } from '../runs/load-runs.ts';
import { reassessRuns } from '../runs/reassess-runs.ts';

/** Logs a defect at a step of an own attempt; the program fills in the steps up to there with the values that were used. */
export const logDefect: Operation<LogDefect, { code: string }> = {
  right: 'log defects',
  run: async (context, input) => {
    const { db, actor, now } = context;
    const [same] = await db.select({ code: defects.code }).from(defects).where(eq(defects.id, input.id));
    if (same) return same;
    const own = await getOwnAttempt(context, input.attemptId);
    if (!own.steps[input.stepIndex]) throw new AppError('invalid', `This test has no step ${input.stepIndex + 1}.`);
    const { number, code } = await takeNumber(context);
    await db.insert(defects).values({
      ...input,
      ...{
        number,
        code,
        programmeId: actor.programmeId,
        cycleId: own.turn.cycleId,
        teamId: own.turn.teamId,
        persona: await findPersona(context, own, input.stepIndex),
      },
      steps: await describeStepsSoFar(context, own, input.stepIndex),
      ...{ environment: own.attempt.environment, browser: own.attempt.browser, foundBy: actor.personId, foundAt: now, changedAt: now },
    });
    await db.insert(defectTurns).values({ defectId: input.id, turnId: own.turn.id });
    await context.record({ subject: 'defect', subjectId: input.id, action: 'logged', details: { code, title: input.title } });
    context.announce('defects');
    context.announce('turns');
    return { code };
  },
};

/** As whom the step was done: the step's persona, else the leg's. */
async function findPersona({ db }: Context, { turn, steps }: OwnAttempt, stepIndex: number): Promise<string> {
  const named = steps[stepIndex]?.as;
  if (named || !turn.personaId) return named ?? '';
  const [persona] = await db.select({ name: personas.name }).from(personas).where(eq(personas.id, turn.personaId));
  return persona?.name ?? '';
}

async function takeNumber({ db, actor }: Context): Promise<{ number: number; code: string }> {
  const [taken] = await db
    .update(programmes)
    .set({ nextDefect: sql`${programmes.nextDefect} + 1` })
    .where(eq(programmes.id, actor.programmeId))
    .returning({ next: programmes.nextDefect, prefix: programmes.defectPrefix });
  if (!taken) throw new AppError('not found', 'The programme is gone.');
  return { number: taken.next - 1, code: `${taken.prefix}-${taken.next - 1}` };
}

async function describeStepsSoFar(context: Context, own: OwnAttempt, upTo: number): Promise<string[]> {
  const [results, loaded] = await Promise.all([
    context.db.select().from(stepResults).where(eq(stepResults.attemptId, own.attempt.id)),
    loadRuns(context, [own.turn.runId]),
  ]);
  const kept = Object.entries(own.attempt.kept).map(([name, value]) => ({ name, value }));
  const source = createStepSource({
    attempt: own.attempt.id,
    day: toDay(own.attempt.startedAt.getTime(), context.actor.timeZone),
    calendar: await loadCalendar(context, own.turn.teamId),
    values: [...resolveNeeds(loaded.get(own.turn.runId)?.views ?? [], own.turn.index), ...kept],
  });
  const outcomes = new Map(results.map((result) => [result.stepIndex, result.outcome]));
  return describeSteps({ steps: own.steps, upTo, source, outcomeAt: (index) => outcomes.get(index) ?? null });
}

async function loadCalendar({ db }: Context, teamId: TeamId | null): Promise<WorkingCalendar> {
  const [team] = teamId
    ? await db.select({ workingDays: teams.workingDays, holidays: teams.holidays }).from(teams).where(eq(teams.id, teamId))
    : [];
  return team ?? { workingDays: [1, 2, 3, 4, 5], holidays: [] };
}

/** Moves a defect. *Fixed* gives every turn that it held back to its tester as a retest. */
export const moveDefect: Operation<{ code: string; move: MoveDefect }, void> = {
  right: 'move defects',
  run: async (context, { code, move }) => {
    const { db, actor, now } = context;
    const [defect] = await db
      .select()
      .from(defects)
      .where(and(eq(defects.programmeId, actor.programmeId), eq(defects.code, code)))
      .for('update');
    if (!defect) throw new AppError('not found', `There is no defect ${code}.`);
    if (defect.status !== move.from) throw new AppError('conflict', `${code} is ${defect.status} by now, not ${move.from}.`);
    if (!DEFECT_MOVES[move.from].includes(move.to))
      throw new AppError('invalid', `A defect that is ${move.from} cannot become ${move.to}.`);
    await db
      .update(defects)
      .set({ status: move.to, changedAt: now, reason: move.reason || defect.reason })
      .where(and(eq(defects.id, defect.id), eq(defects.status, move.from)));
    await context.record({ subject: 'defect', subjectId: defect.id, action: move.to, details: { from: move.from, reason: move.reason } });
    const retests = await setRetests(context, defect, move.to === 'fixed');
    if (move.to === 'fixed') await tellFixed(context, defect, retests);
    context.announce('defects');
    context.announce('turns');
  },
};

/** Turns with another open defect stay held. Answers those that are to be tested again. */
async function setRetests(context: Context, defect: DefectRow, isDue: boolean): Promise<TurnRow[]> {
  const { db } = context;
  const links = await db
    .select({ turnId: turns.id, runId: turns.runId, other: defects.status, otherId: defects.id })
    .from(turns)
    .innerJoin(defectTurns, eq(defectTurns.turnId, turns.id))
    .innerJoin(defects, eq(defects.id, defectTurns.defectId))
    .where(inArray(turns.id, db.select({ id: defectTurns.turnId }).from(defectTurns).where(eq(defectTurns.defectId, defect.id))));
  const stillHeld = new Set<TurnId>(links.filter((link) => link.otherId !== defect.id && isHolding(link.other)).map((link) => link.turnId));
  const free = [...new Set(links.map((link) => link.turnId))].filter((id) => !stillHeld.has(id));
  if (free.length === 0) return [];
  const set = await db
    .update(turns)
    .set({ isRetestDue: isDue })
    .where(and(inArray(turns.id, free), inArray(turns.outcome, ['failed', 'blocked'])))
    .returning();
  await reassessRuns(context, [...new Set(links.map((link): RunId => link.runId))]);
  return set;
}
